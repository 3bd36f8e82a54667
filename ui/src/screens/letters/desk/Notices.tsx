import { ApiProblem, type Shape } from '../../../api/client'
import { plural } from '../../../app/format'
import { ErrorNote } from '../../../parts/States'
import { useCopy } from '../library/LetterMenu'
import type { Saving } from '../saving/useAutosave'

/** A letter under way: how many have had it, how many will get what is written here, and a copy instead. */
export function InUse({ letter }: { letter: Shape<'Letter'> }) {
  const copy = useCopy(letter.id)
  if (letter.running_in.length === 0) return null
  return (
    <div className="border-l-2 border-accent bg-[var(--personal)] px-3 py-2 mb-3 flex gap-4 items-start">
      <p className="grow">
        {letter.running_in.map((one) => (
          <span key={one.id} className="block">
            In “{one.name}”: {plural(one.had, 'person has', 'people have')} had it,{' '}
            {one.will === 0 ? 'nobody is still to get it.' : `${one.will} will get what you write here.`}
          </span>
        ))}
      </p>
      <button type="button" className="btn btn-xs btn-plain" disabled={copy.isPending} onClick={() => copy.mutate()}>
        Write in a copy instead
      </button>
    </div>
  )
}

/** What keeps the letter from being saved, and the ways on; nothing typed is lost in any of them. */
export function SavingTrouble({
  saving,
  onKeepMine,
  onTakeTheirs,
}: {
  saving: Saving
  onKeepMine: () => void
  onTakeTheirs: () => void
}) {
  if (saving.state !== 'problem') return null
  const { problem } = saving
  if (problem.code === 'changed_meanwhile')
    return (
      <div role="alert" className="border-l-2 border-error bg-[var(--gap)] px-3 py-2 mb-3">
        <p>
          <strong className="font-semibold">Somebody else changed this letter meanwhile.</strong> Both texts are kept: one becomes
          the letter, the other stays among the versions.
        </p>
        <p className="mt-2 flex gap-2">
          <button type="button" className="btn btn-xs btn-plain" onClick={onTakeTheirs}>
            Go on with theirs
          </button>
          <button type="button" className="btn btn-xs btn-plain" onClick={onKeepMine}>
            Go on with mine
          </button>
        </p>
      </div>
    )
  if (problem.status === 0 || problem.status >= 500)
    return (
      <ErrorNote
        error={
          new ApiProblem(
            problem.status,
            problem.code,
            'This cannot be saved just now.',
            'What you type is kept on this machine and saved as soon as the server is back.',
          )
        }
      />
    )
  return <ErrorNote error={problem} />
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
