/** Marks of a record by which nothing is sent; each has its own act, so none of them is a field to be set. */
export const MARKS = ['person.do_not_mail', 'person.address_failed', 'person.address_blocked', 'person.no_at_address']
