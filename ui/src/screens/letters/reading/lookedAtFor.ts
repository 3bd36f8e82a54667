/** What a question about a letter says of the sequence it is looked at for, where one is. */
export const lookedAtFor = (sequenceId?: number) => (sequenceId ? { sequence_id: sequenceId } : {})
