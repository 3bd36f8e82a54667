import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { useCreate } from '../../../app/useCreate'
import { Modal } from '../../../parts/Modal'
import { ErrorNote, Loading } from '../../../parts/States'
import { MakeItYours, type Source } from './MakeItYours'

/** Begins a sequence: empty, from a starter, or from a file; what comes from elsewhere is made one's own first. */
export function NewSequence({ onClose }: { onClose: () => void }) {
  const create = useCreate()
  const input = useRef<HTMLInputElement>(null)
  const [at, setAt] = useState(0)
  const [source, setSource] = useState<Source | null>(null)
  const [wrong, setWrong] = useState(false)
  const { data: starters, error } = useQuery({
    queryKey: ['starters', 'sequences'],
    queryFn: async () => (await ask(api.GET('/api/sequences/starters'))).starters,
    staleTime: Number.POSITIVE_INFINITY,
  })
  const read = async (file: File) => {
    setWrong(false)
    try {
      setSource({ file: JSON.parse(await file.text()) as Shape<'SequenceFile'> })
    } catch {
      setWrong(true)
    }
  }
  if (source) return <MakeItYours source={source} onClose={onClose} />
  const shown = starters?.[at]
  return (
    <Modal wide title="A new sequence" onClose={onClose}>
      {create.sequence.error && <ErrorNote error={create.sequence.error} />}
      <div className="flex gap-2 mb-5 items-center">
        <button type="button" data-first className="btn btn-sm btn-primary" onClick={() => create.sequence.mutate({})}>
          Empty
        </button>
        <button type="button" className="btn btn-sm btn-plain" onClick={() => input.current?.click()}>
          From a file…
        </button>
        <input
          ref={input}
          type="file"
          accept=".json"
          className="hidden"
          aria-label="File of a sequence"
          onChange={(event) => {
            const file = event.target.files?.[0]
            if (file) read(file)
            event.target.value = ''
          }}
        />
        <span className="muted text-xs">JSON, as a sequence is taken out</span>
      </div>
      {wrong && (
        <p role="alert" className="text-error mb-3">
          This file cannot be read: it is no JSON. A sequence is taken out under “More” on its page.
        </p>
      )}
      <h3 className="field-label">Or begin with one of these, and make it yours</h3>
      {error && <ErrorNote error={error} />}
      {!starters && !error && <Loading lines={4} />}
      <div className="grid grid-cols-[210px_minmax(0,1fr)] gap-5">
        <ul>
          {starters?.map((starter, i) => (
            <li key={starter.key}>
              <button
                type="button"
                aria-pressed={i === at}
                className={`block w-full text-left px-2 py-1.5 rounded-sm ${i === at ? 'bg-base-200 font-semibold' : 'hover:bg-base-200'}`}
                onClick={() => setAt(i)}
              >
                {starter.name}
              </button>
            </li>
          ))}
        </ul>
        {shown && (
          <div>
            <p className="font-serif text-lg mb-2">{shown.about}</p>
            <ol className="list-decimal pl-5 max-h-60 overflow-auto">
              {shown.steps.map((step) => (
                <li key={step}>{step}</li>
              ))}
            </ol>
            <p className="text-right mt-3">
              <button type="button" className="btn btn-sm btn-primary" onClick={() => setSource({ starter: shown.key })}>
                Begin with this one
              </button>
            </p>
          </div>
        )}
      </div>
    </Modal>
  )
}
