import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { useCreate } from '../../../app/useCreate'
import { Modal } from '../../../parts/Modal'
import { Starters } from '../../../parts/Starters'
import { ErrorNote } from '../../../parts/States'
import { MakeItYours, type Source } from './MakeItYours'

/** Begins a sequence: empty, from a starter, or from a file; what comes from elsewhere is made one's own first. */
export function NewSequence({ onClose }: { onClose: () => void }) {
  const create = useCreate()
  const input = useRef<HTMLInputElement>(null)
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
      <Starters
        starters={starters}
        error={error}
        onTake={(starter) => setSource({ starter })}
        show={(shown) => (
          <>
            <p className="font-serif text-lg mb-2">{shown.about}</p>
            <ol className="list-decimal pl-5 max-h-60 overflow-auto">
              {shown.steps.map((step) => (
                <li key={step}>{step}</li>
              ))}
            </ol>
          </>
        )}
      />
    </Modal>
  )
}
