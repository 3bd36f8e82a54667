import type { Shape } from '../../../api/client'
import { plural } from '../../../app/format'
import { useCopy } from '../library/LetterMenu'
import { NewWords } from './NewWords'

/** A letter under way: how many have had it, how many are to get it in which words, and a copy instead. */
export function InUse({
  letter,
  sequenceId,
  onCopied,
}: {
  letter: Shape<'Letter'>
  sequenceId?: number
  /** Takes the copy where it is to be written; else one goes there. */
  onCopied?: (id: number) => void
}) {
  const copy = useCopy(letter.id, onCopied)
  const elsewhere = letter.used_in.filter((one) => one.id !== sequenceId)
  if (letter.running_in.length === 0 && (sequenceId === undefined || elsewhere.length === 0)) return null
  return (
    <div className="border-l-2 border-accent bg-[var(--personal)] px-3 py-2 mb-3 flex gap-4 items-start">
      <p className="grow">
        {sequenceId !== undefined && elsewhere.length > 0 && (
          <span className="block">
            This is the library’s letter itself, also in {elsewhere.map((one) => `“${one.name}”`).join(', ')}: what you change
            here changes there.
          </span>
        )}
        {letter.running_in.map((one) => (
          <span key={one.id} className="block">
            In “{one.name}”: {plural(one.had, 'person has', 'people have')} had it, {toCome(one)}{' '}
            {one.held && one.will > 0 && <NewWords letterId={letter.id} sequence={one} />}
          </span>
        ))}
      </p>
      <button type="button" className="btn btn-xs btn-plain" disabled={copy.isPending} onClick={() => copy.mutate()}>
        Write in a copy instead
      </button>
    </div>
  )
}

function toCome({ will, held }: Shape<'Letter'>['running_in'][number]) {
  if (will === 0) return 'nobody is still to get it.'
  if (held) return `${will} will get it in its former words.`
  return `${will} will get it as it is here. What you write reaches them when you let it take effect.`
}

/** Who else has the letter open. */
export function Others({ others }: { others: { name: string; own: boolean }[] }) {
  if (others.length === 0) return null
  const names = others.filter((one) => !one.own).map((one) => one.name)
  return (
    <span className="chip bg-[var(--personal)] text-accent">
      {names.length > 0
        ? `${names.join(' and ')} ${names.length === 1 ? 'has' : 'have'} it open too`
        : 'Open in another of your tabs'}
    </span>
  )
}
