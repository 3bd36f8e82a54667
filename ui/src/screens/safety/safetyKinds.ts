import type { Shape } from '../../api/client'

/** What a line of the log says, by its kind. */
export const SAFETY_KINDS: Record<Shape<'SafetyKind'>, string> = {
  signed_in: 'signed in',
  sign_in_refused: 'sign-in refused',
  slowed_down: 'slowed down',
  signed_out: 'signed out',
  session_ended: 'sign-in ended',
  password_changed: 'password changed',
  password_refused: 'password refused',
  exported: 'people exported',
  sequence_started: 'sequence started',
  people_joined: 'people added to a sequence',
  colleague_made: 'colleague made',
  colleague_changed: 'colleague changed',
  setting_changed: 'setting changed',
  code_sent: 'code sent to a mailbox',
  code_refused: 'wrong code for a mailbox',
  refused: 'not allowed',
}
