import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { Link, useParams } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { inTheWay } from '../../app/away'
import { number } from '../../app/format'
import { stale } from '../../app/stale'
import { useCatalogue } from '../../app/useCatalogue'
import { Header } from '../../parts/Header'
import { ErrorNote, Loading } from '../../parts/States'
import { FileColumns } from './FileColumns'
import { FileDone } from './FileDone'
import { FileVerdicts } from './FileVerdicts'

const STEPS = [
  { words: 'Match the columns', states: ['reading', 'failed'] },
  { words: 'Look at what would change', states: ['checking', 'checked'] },
  { words: 'Take it in', states: ['taking_in', 'done'] },
]

function Steps({ state }: { state: Shape<'ImportRow'>['state'] }) {
  const at = STEPS.findIndex((step) => step.states.includes(state))
  return (
    <ol className="flex gap-6 mb-4 text-[13px]">
      {STEPS.map((step, i) => (
        <li
          key={step.words}
          aria-current={i === at ? 'step' : undefined}
          className={i === at ? 'font-semibold text-primary' : 'muted'}
        >
          {i + 1}. {step.words}
        </li>
      ))}
    </ol>
  )
}

/** How far long work is, while it goes on by itself. */
export function Progress({ words, value, max }: { words: string; value: number; max?: number }) {
  return (
    <div className="max-w-md py-6" role="status">
      <p className="font-serif text-lg mb-2">{words}</p>
      <progress className="progress progress-primary w-full" value={max ? value : undefined} max={max} aria-label={words} />
      <p className="muted mt-1">
        {number(value)}
        {max ? ` of ${number(max)}` : ''} rows. You can leave this page; it goes on by itself.
      </p>
    </div>
  )
}

/** One file on its way in: its columns, what would change, and what became of it. */
export function FileScreen() {
  const id = Number(useParams().id)
  const client = useQueryClient()
  const { data: catalogue } = useCatalogue()
  const { data: file, error } = useQuery({
    queryKey: ['imports', id],
    queryFn: () => ask(api.GET('/api/imports/{id}', { params: { path: { id } } })),
    refetchInterval: (query) =>
      ['checking', 'taking_in'].includes(query.state.data?.state ?? '') || query.state.error ? 500 : false,
  })
  const state = file?.state
  useEffect(() => {
    if (state === 'done') stale(client, 'file')
  }, [state, client])
  if (inTheWay(error, file)) return <ErrorNote error={error} />
  if (!file || !catalogue) return <Loading />
  return (
    <>
      <Header over={{ to: '/files', words: 'Bring people in' }} title={file.file_name} />
      <Steps state={file.state} />
      {file.state === 'failed' && file.problem && <ErrorNote error={new Error(file.problem)} />}
      {(file.state === 'reading' || file.state === 'failed') && (
        <FileColumns key={file.columns.map((column) => column.header).join('\n')} file={file} />
      )}
      {file.set_aside && (
        <>
          <ErrorNote error={new Error(`It could not go on: ${file.set_aside}`)} />
          <Link to="/set-aside" className="text-primary font-semibold">
            Look at it, or have it tried again
          </Link>
        </>
      )}
      {file.state === 'checking' && !file.set_aside && <Progress words="Checking every row" value={file.rows} />}
      {file.state === 'checked' && <FileVerdicts key={file.version} file={file} catalogue={catalogue} />}
      {file.state === 'taking_in' && !file.set_aside && <Progress words="Taking it in" value={file.handled} max={toTake(file)} />}
      {file.state === 'done' && <FileDone file={file} />}
    </>
  )
}

function toTake(file: Shape<'ImportRow'>): number {
  const choices = file.choices as Record<string, string | undefined>
  return (
    (choices.new === 'leave' ? 0 : (file.counts.new ?? 0)) +
    (choices.update === 'leave' ? 0 : (file.counts.update ?? 0)) +
    (choices.doubtful === 'leave' ? 0 : (file.counts.doubtful ?? 0))
  )
}
