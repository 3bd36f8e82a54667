import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type DragEvent, useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { api, ask, type Shape, upload } from '../../api/client'
import { useTakeBack } from '../../app/changes'
import { moment, number } from '../../app/format'
import { useSession } from '../../app/session'
import { TakenBackWords } from '../../app/TakenBackWords'
import { classes } from '../../parts/classes'
import { Header } from '../../parts/Header'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { PeoplePlaces } from '../people/PeoplePlaces'

const STATES: Record<Shape<'ImportRow'>['state'], string> = {
  reading: 'waits for its columns',
  checking: 'being checked',
  checked: 'checked, not taken in yet',
  taking_in: 'being taken in',
  done: 'taken in',
  failed: 'cannot be read',
}

function DropFile() {
  const navigate = useNavigate()
  const client = useQueryClient()
  const input = useRef<HTMLInputElement>(null)
  const [over, setOver] = useState(false)
  const send = useMutation({
    mutationFn: (file: File) => upload<Shape<'Import'>>(`/api/imports?name=${encodeURIComponent(file.name)}`, file),
    onSuccess: (made) => {
      client.invalidateQueries({ queryKey: ['imports'] })
      navigate(`/files/${made.id}`)
    },
  })
  const drop = (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    const file = event.dataTransfer.files[0]
    if (file) send.mutate(file)
  }
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: files can also be chosen with the button within
    <div
      className={classes(
        'border border-dashed rounded-sm p-6 mb-5',
        over ? 'border-primary bg-[var(--merged)]' : 'border-base-300 bg-[var(--sheet)]',
      )}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <p className="font-serif text-lg">Drop a file with people here, or choose one.</p>
      <p className="muted mb-3">
        CSV with any delimiter and encoding, XLSX, or vCard; up to 250 MB. Nothing is written before you have seen what would
        change.
      </p>
      <input
        ref={input}
        type="file"
        className="sr-only"
        aria-label="File with people"
        accept=".csv,.tsv,.txt,.xlsx,.vcf,text/csv,text/vcard"
        onChange={(event) => event.target.files?.[0] && send.mutate(event.target.files[0])}
      />
      <button type="button" className="btn btn-sm btn-primary" disabled={send.isPending} onClick={() => input.current?.click()}>
        {send.isPending ? 'Taking the file on…' : 'Choose a file'}
      </button>
      {send.error && <ErrorNote error={send.error} />}
    </div>
  )
}

function UndoCell({ change }: { change: Shape<'Change'> }) {
  const back = useTakeBack(change.id)
  if (change.state === 'undone')
    return (
      <span className="muted">
        taken back
        <TakenBackWords change={change} />
      </span>
    )
  if (change.state === 'undoing') return <span className="muted">being taken back…</span>
  return (
    <>
      <button
        type="button"
        className="btn btn-xs btn-plain"
        disabled={change.state !== 'done' || back.isPending}
        onClick={() => back.mutate()}
      >
        Take back
      </button>
      {back.error && <ErrorNote error={back.error} />}
    </>
  )
}

/** Files that were brought in, and what was done to many records: each with its way back. */
export function FilesScreen() {
  const { firm } = useSession()
  const imports = useQuery({
    queryKey: ['imports'],
    queryFn: async () => (await ask(api.GET('/api/imports'))).imports,
    refetchInterval: (query) => (query.state.data?.some((one) => ['checking', 'taking_in'].includes(one.state)) ? 800 : false),
  })
  const changes = useQuery({ queryKey: ['changes'], queryFn: async () => (await ask(api.GET('/api/changes'))).changes })
  const acts = changes.data?.filter((change) => change.kind !== 'import') ?? []
  return (
    <>
      <Header title="Bring people in" />
      <PeoplePlaces />
      <DropFile />
      {imports.error && <ErrorNote error={imports.error} />}
      {!imports.data && !imports.error && <Loading lines={4} />}
      {imports.data?.length === 0 && <Empty>No file has been brought in yet.</Empty>}
      {imports.data && imports.data.length > 0 && (
        <table className="plain w-full mb-8">
          <thead>
            <tr>
              <th>File</th>
              <th>State</th>
              <th className="!text-right">Rows</th>
              <th className="!text-right">New</th>
              <th className="!text-right">Updated</th>
              <th className="!text-right">Refused</th>
              <th>By</th>
              <th>When</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {imports.data.map((one) => (
              <tr key={one.id}>
                <td className="font-semibold">
                  <Link to={`/files/${one.id}`} className="hover:underline">
                    {one.file_name}
                  </Link>
                </td>
                <td className={one.state === 'failed' ? 'text-error' : ''}>{STATES[one.state]}</td>
                {[one.rows, one.counts.new ?? 0, one.counts.update ?? 0, one.counts.refused ?? 0].map((count, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: columns are known by their place
                  <td key={i} className="text-right">
                    <Link to={`/files/${one.id}`} className="hover:underline">
                      {number(count)}
                    </Link>
                  </td>
                ))}
                <td>{one.by}</td>
                <td>{moment(one.created_at, firm.time_zone)}</td>
                <td className="text-right">{one.change && <UndoCell change={one.change} />}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {acts.length > 0 && (
        <section>
          <h2 className="border-b border-base-300 pb-1 mb-1">Done to many records</h2>
          <table className="plain w-full">
            <tbody>
              {acts.map((change) => (
                <tr key={change.id}>
                  <td>{change.words}</td>
                  <td className="muted">{change.by}</td>
                  <td className="muted">{moment(change.created_at, firm.time_zone)}</td>
                  <td className="text-right">
                    <UndoCell change={change} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </>
  )
}
