import type { Shape } from '../../../api/client'

/** Why somebody is in it no more, in words. */
const LEFT: Record<string, string> = {
  replied: 'left after a reply',
  unsubscribed: 'left, wants no letters',
  bounced: 'left, address failed',
  refused: 'left, address refused',
  converted: 'left, converted',
  taken_out: 'taken out by hand',
  stopped: 'stopped',
  in_the_bin: 'left, record in the bin',
  address_blocked: 'left, address on the do-not-mail list',
  no_at_address: 'left, another record with this address said no',
  same_address: 'left, another member has this address',
  do_not_mail: 'left, asked not to be written to',
  address_failed: 'left, address failed before',
  no_consent: 'left, said no to letters',
  merged: 'left, merged with another record',
  condition: 'left, what the sequence leaves on holds',
  end_date: 'left, the sequence was over',
  handed_over: 'handed over to another sequence',
  no_date: 'left, has not the date of a step',
}

const WAITS: Record<string, string> = {
  reaction: ', waits for a reaction',
  nod: ', waits to be looked at',
  outcome: ', waits for a task',
}

/** "left after a reply". */
export const leftWords = (reason: string) => LEFT[reason] ?? 'left'

/** Where somebody is in a sequence, in words. */
export function where(member: Shape<'Member'>): string {
  if (member.state === 'finished') return 'went through'
  if (member.state === 'left') return leftWords(member.left_reason ?? '')
  return `before step ${member.step}${member.paused ? ', paused' : (WAITS[member.waits_for ?? ''] ?? '')}`
}
