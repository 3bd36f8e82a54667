/** Every figure of a sequence as people read it, in the order of its table. */
export const FIGURE_WORDS = {
  planned: 'Planned',
  sent: 'Sent',
  due: 'Still due',
  may: 'May still come',
  failed: 'Failed',
  skipped: 'Skipped',
  in_doubt: 'In doubt',
  opened: 'Opened',
  clicked: 'Clicked',
  replied: 'Replied',
  quiet: 'Quiet',
  bounced: 'Bounced',
  unsubscribed: 'Unsubscribed',
  converted: 'Converted',
} as const

export type FigureName = keyof typeof FIGURE_WORDS
/** Those of the table; who may still come to a step is said where the plan is drawn. */
export const FIGURES = (Object.keys(FIGURE_WORDS) as FigureName[]).filter((name) => name !== 'may')
