const WHOLE = /^(https?:\/\/|mailto:|tel:)\S+$/i
const FIELD = /\{\{[^{}]*\}\}/g
const FIELD_FIRST = /^\{\{[^{}]*\}\}[^\s<>"]*$/
export const UNCLEAR = 'An address begins with https://, http://, mailto: or tel:.'

/**
 * Where a link leads, from what was typed: a bare host or address is completed, and a field may stand in it, or be all of it.
 *
 * @returns the address, empty for none, or null when it is no address one may lead to
 */
export function linkAddress(typed: string): string | null {
  const text = typed.trim()
  const bare = text.replace(FIELD, 'x')
  if (text === '' || FIELD_FIRST.test(text.replace(FIELD, (field) => field.replace(/\s/g, '')))) return text
  const scheme = /^[a-z]+:/i.test(bare) ? '' : bare.includes('@') ? 'mailto:' : 'https://'
  return WHOLE.test(scheme + bare) ? scheme + text : null
}
