/** A word at a place between 0 and 1, on the line it is written on. */
export type Placed<Item> = { item: Item; at: number; line: number; before: boolean }

const LETTER_PX = 6.2
/** The dot before the words, and air behind them. */
const MARK_PX = 26

/**
 * Words at their places along a width, each on the first line on which it covers none before it. Words that would run out at the right
 * stand before their dot, and where there is no room for that either, as much further left.
 */
export function onLines<Item extends { at: number; words: string }>(items: Item[], width: number): Placed<Item>[] {
  const taken: number[] = []
  return items.map((item) => {
    const wide = MARK_PX + item.words.length * LETTER_PX
    const place = item.at * width
    const before = place + wide > width && place >= wide
    const left = before ? place - wide : Math.max(0, Math.min(place, width - wide))
    let line = taken.findIndex((end) => end <= left)
    if (line < 0) line = taken.length
    taken[line] = left + wide
    return { item, at: width > 0 ? (before ? place : left) / width : 0, line, before }
  })
}
