import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useRef } from 'react'
import { useNavigate } from 'react-router'
import { api, ask, type Shape, upload } from '../../../api/client'
import { Modal } from '../../../parts/Modal'
import { Starters } from '../../../parts/Starters'
import { ErrorNote } from '../../../parts/States'

/** A field among words, as a chip. */
function Chip({ field }: { field: string }) {
  const [name, fallback] = field.split('|')
  return (
    <span className="merged">
      {name}
      {fallback && <span className="font-normal"> or “{fallback}”</span>}
    </span>
  )
}

/** Words with {{fields}} as chips. */
function Words({ text }: { text: string }) {
  const pieces = text.split(/(\{\{[^}]*\}\})/).map((piece, i) => ({ piece, key: `${i} ${piece}` }))
  return (
    <>
      {pieces.map(({ piece, key }) =>
        piece.startsWith('{{') ? <Chip key={key} field={piece.slice(2, -2)} /> : <span key={key}>{piece}</span>,
      )}
    </>
  )
}

/** Begins a letter: empty, from a starter, or from a file; then one goes there, or where it was asked for. */
export function NewLetter({
  title = 'A new letter',
  children,
  onMade,
  onClose,
}: {
  title?: string
  /** What else it can begin with. */
  children?: ReactNode
  onMade?: (id: number) => void
  onClose: () => void
}) {
  const client = useQueryClient()
  const navigate = useNavigate()
  const input = useRef<HTMLInputElement>(null)
  const { data: starters, error } = useQuery({
    queryKey: ['starters'],
    queryFn: async () => (await ask(api.GET('/api/letters/starters'))).starters,
    staleTime: Number.POSITIVE_INFINITY,
  })
  const made = (letter: Shape<'Letter'>) => {
    client.invalidateQueries({ queryKey: ['letters'] })
    client.invalidateQueries({ queryKey: ['catalogue'] })
    if (onMade) onMade(letter.id)
    else navigate(`/letters/${letter.id}`)
  }
  const make = useMutation({
    mutationFn: (body: { manner?: 'plain' | 'designed'; starter?: string }) => ask(api.POST('/api/letters', { body })),
    onSuccess: made,
  })
  const bring = useMutation({
    mutationFn: (file: File) => upload<Shape<'Letter'>>(`/api/letters/file?name=${encodeURIComponent(file.name)}`, file),
    onSuccess: made,
  })
  return (
    <Modal wide title={title} onClose={onClose}>
      {(make.error ?? bring.error) && <ErrorNote error={make.error ?? bring.error} />}
      <div className="flex gap-2 mb-5">
        <button type="button" className="btn btn-sm btn-primary" onClick={() => make.mutate({ manner: 'plain' })}>
          Empty, plain
        </button>
        <button type="button" className="btn btn-sm btn-plain" onClick={() => make.mutate({ manner: 'designed' })}>
          Empty, designed
        </button>
        <button type="button" className="btn btn-sm btn-plain" onClick={() => input.current?.click()}>
          From a file…
        </button>
        <input
          ref={input}
          type="file"
          accept=".json,.eml,.html,.htm,.md,.markdown,.txt"
          className="hidden"
          aria-label="File of a letter"
          onChange={(event) => {
            const file = event.target.files?.[0]
            if (file) bring.mutate(file)
            event.target.value = ''
          }}
        />
        <span className="muted text-xs self-center">JSON of ours, .eml, HTML or Markdown</span>
      </div>
      {children}
      <Starters
        starters={starters}
        error={error}
        onTake={(starter) => make.mutate({ starter })}
        show={(shown) => (
          <div className="sheet !shadow-none px-5 py-4 font-serif text-[15px] leading-6 whitespace-pre-wrap max-h-72 overflow-auto">
            <p className="font-sans text-xs font-semibold mb-3">
              <Words text={shown.subject} />
            </p>
            <Words text={shown.words} />
          </div>
        )}
      />
    </Modal>
  )
}
