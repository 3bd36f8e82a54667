import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { plural } from '../../../app/format'
import { ErrorNote, Loading } from '../../../parts/States'
import { lookedAtFor } from './lookedAtFor'
import { ReadersBehind } from './ReadersBehind'

type Advice = Shape<'Advice'>

/** Advice on the letter. */
export function useChecks(letterId: number, sequenceId?: number) {
  return useQuery({
    queryKey: ['checks', letterId, sequenceId],
    queryFn: () =>
      ask(api.GET('/api/letters/{id}/checks', { params: { path: { id: letterId }, query: lookedAtFor(sequenceId) } })),
    placeholderData: (before) => before,
  })
}

function Item({
  letterId,
  sequenceId,
  advice,
  onJump,
  aside,
}: {
  letterId: number
  sequenceId?: number
  advice: Advice
  onJump?: () => void
  aside: { words: string; run: () => void } | null
}) {
  return (
    <li className={`border-l-2 pl-3 py-1 mb-3 ${advice.blocking ? 'border-error' : 'border-accent'}`}>
      <p className="font-semibold">
        {advice.blocking && <span className="text-error">Stands in the way: </span>}
        {advice.words}
      </p>
      <p className="muted text-[13px]">{advice.why}</p>
      <p className="flex gap-3 text-xs mt-0.5">
        {advice.part === 'firm' ? (
          <Link to="/settings" className="text-primary underline min-h-6">
            Settings
          </Link>
        ) : (
          onJump && (
            <button type="button" className="quiet-word !text-xs !text-primary underline" onClick={onJump}>
              Show it
            </button>
          )
        )}
        {advice.field && advice.count != null && (
          <ReadersBehind
            letterId={letterId}
            sequenceId={sequenceId}
            asked={{ gap: advice.field }}
            title={advice.words}
            count={advice.count}
          >
            Who
          </ReadersBehind>
        )}
        {aside && (
          <button type="button" className="quiet-word !text-xs" onClick={aside.run}>
            {aside.words}
          </button>
        )}
      </p>
    </li>
  )
}

/** What a second pair of eyes would say: with reasons, a way to the place, and leave to disagree. */
export function ChecksPane({
  letter,
  sequenceId,
  onJump,
  onSetAside,
}: {
  letter: Shape<'Letter'>
  /** The sequence it is looked at for, where one is. */
  sequenceId?: number
  onJump: (advice: Advice) => void
  onSetAside: (codes: string[]) => void
}) {
  const { data, error } = useChecks(letter.id, sequenceId)
  if (error) return <ErrorNote error={error} />
  if (!data) return <Loading />
  return (
    <div>
      <p className="muted text-[13px] mb-3">
        {data.advice.length === 0 ? 'Nothing to remark. ' : `${plural(data.advice.length, 'remark')}. `}
        Reading time about {plural(data.reading_minutes, 'minute')}.
      </p>
      <ul>
        {data.advice.map((advice) => (
          <Item
            key={`${advice.code} ${advice.words}`}
            letterId={letter.id}
            sequenceId={sequenceId}
            advice={advice}
            onJump={() => onJump(advice)}
            aside={
              advice.blocking
                ? null
                : { words: 'Fine for this letter', run: () => onSetAside([...letter.set_aside, advice.code]) }
            }
          />
        ))}
      </ul>
      {data.set_aside.length > 0 && (
        <details>
          <summary className="muted text-xs cursor-pointer min-h-6">{plural(data.set_aside.length, 'remark')} set aside</summary>
          <ul className="mt-2">
            {data.set_aside.map((advice) => (
              <Item
                key={`${advice.code} ${advice.words}`}
                letterId={letter.id}
                sequenceId={sequenceId}
                advice={advice}
                aside={{
                  words: 'Say it again',
                  run: () => onSetAside(letter.set_aside.filter((code) => code !== advice.code)),
                }}
              />
            ))}
          </ul>
        </details>
      )}
    </div>
  )
}
