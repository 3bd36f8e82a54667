import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { useTakeBack } from '../../app/changes'
import { number, plural } from '../../app/format'
import { TakenBackWords } from '../../app/TakenBackWords'
import { ErrorNote } from '../../parts/States'
import { JoinDialog } from '../people/acting/JoinDialog'
import { PeopleBehind } from '../people/behind/PeopleBehind'
import { FileRows } from './FileRows'

/** What became of a file, the rows that came back, and the way back. */
export function FileDone({ file }: { file: Shape<'Import'> }) {
  const [shown, setShown] = useState<Parameters<typeof FileRows>[0]['verdict'] | null>(null)
  const change = file.change
  const back = useTakeBack(change?.id ?? 0)
  const [doing, setDoing] = useState<'show' | 'join' | null>(null)
  const key = ['imports', file.id, 'people'] as const
  const load = (cursor?: string) =>
    ask(api.GET('/api/imports/{id}/people', { params: { path: { id: file.id }, query: cursor ? { cursor } : {} } }))
  const people = useQuery({ queryKey: [...key, 'first'], queryFn: () => load() })
  const state = back.data?.state ?? change?.state
  const left =
    (file.counts.refused ?? 0) +
    (file.counts.partly ?? 0) +
    ((file.choices as { doubtful?: string }).doubtful === 'leave' ? (file.counts.doubtful ?? 0) : 0)
  return (
    <div className="max-w-xl grid gap-4">
      <p className="font-serif text-lg">
        {state === 'undone' ? 'This file has been taken back.' : `${plural(file.handled, 'row')} taken in.`}
        {change && state === 'undone' && <TakenBackWords change={back.data ?? change} />}
      </p>
      <ul>
        {(
          [
            ['new', 'new'],
            ['update', 'that changed a record'],
            ['same', 'that were the same already'],
            ['doubtful', 'doubtful'],
            ['refused', 'refused'],
          ] as const
        ).map(([key, words]) => (
          <li key={key} className="flex justify-between border-b border-base-300/60 py-1">
            <span className="muted">{words}</span>
            {(file.counts[key] ?? 0) > 0 ? (
              <button
                type="button"
                className="font-semibold hover:underline min-h-6"
                aria-expanded={shown === key}
                aria-label={`Rows ${words}`}
                onClick={() => setShown(shown === key ? null : key)}
              >
                {number(file.counts[key] ?? 0)}
              </button>
            ) : (
              <span className="muted">0</span>
            )}
          </li>
        ))}
      </ul>
      {shown && <FileRows id={file.id} verdict={shown} />}
      {left > 0 && (
        <a className="word justify-self-start" href={`/api/imports/${file.id}/refused`} download>
          {plural(left, 'row')} that did not come in, or not whole, as CSV with the reasons
        </a>
      )}
      {back.error && <ErrorNote error={back.error} />}
      <div className="flex gap-3">
        {people.data?.chosen && (
          <>
            <button type="button" className="btn btn-sm btn-primary" onClick={() => setDoing('join')}>
              Add them to a sequence…
            </button>
            <button type="button" className="btn btn-sm btn-plain" onClick={() => setDoing('show')}>
              Show the people
            </button>
          </>
        )}
        {change && state === 'done' && (
          <button type="button" className="btn btn-sm btn-plain" disabled={back.isPending} onClick={() => back.mutate()}>
            Take it all back
          </button>
        )}
        {state === 'undoing' && <span className="muted">Being taken back…</span>}
      </div>
      {doing === 'show' && <PeopleBehind title={file.file_name} queryKey={[...key]} load={load} onClose={() => setDoing(null)} />}
      {doing === 'join' && people.data?.chosen && (
        <JoinDialog people={people.data.chosen} title={file.file_name} onClose={() => setDoing(null)} />
      )}
    </div>
  )
}
