import type { Shape } from '../../api/client'

type Thing = Shape<'SetAside'>
const WORDS: Record<Thing['kind'], { one: string; many: string }> = {
  letter: { one: 'letter', many: 'letters' },
  mail: { one: 'piece of mail', many: 'pieces of mail' },
  reaction: { one: 'practice reaction', many: 'practice reactions' },
  act: { one: 'act on many records', many: 'acts on many records' },
  file: { one: 'file', many: 'files' },
  round: { one: 'round of work', many: 'rounds of work' },
  journey: { one: 'way through a sequence', many: 'ways through a sequence' },
  joining: { one: 'joining by a rule', many: 'joinings by a rule' },
  no: { one: 'missed “no”', many: 'missed “noes”' },
  field: { one: 'field of your own', many: 'fields of your own' },
}

/** What people call something that was set aside. */
export function kindWords(kind: string, count: number): string {
  const words = WORDS[kind as Thing['kind']] ?? { one: kind, many: kind }
  return count === 1 ? words.one : words.many
}

/** What has begun is not left half done. */
export const canBeLeft = (kind: Thing['kind']) => !['act', 'file', 'field'].includes(kind)

/** Things that have the same reason, in the order in which they come. */
export function byReason(things: Thing[]): { kind: Thing['kind']; reason: string; things: Thing[] }[] {
  const groups = new Map<string, { kind: Thing['kind']; reason: string; things: Thing[] }>()
  for (const thing of things) {
    const key = `${thing.kind} ${thing.reason}`
    const group = groups.get(key) ?? { kind: thing.kind, reason: thing.reason, things: [] }
    group.things.push(thing)
    groups.set(key, group)
  }
  return [...groups.values()]
}
