import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import { api, ask, type Shape, upload } from '../../../api/client'
import { bytes } from '../../../app/format'
import { ErrorNote } from '../../../parts/States'

/** Files that go with the letter. */
export function Attachments({ letter }: { letter: Shape<'Letter'> }) {
  const client = useQueryClient()
  const input = useRef<HTMLInputElement>(null)
  const keep = (attachments: Shape<'Attachment'>[]) => {
    client.setQueryData<Shape<'Letter'>>(['letter', letter.id], (now) => now && { ...now, attachments })
    client.invalidateQueries({ queryKey: ['checks', letter.id] })
  }
  const add = useMutation({
    mutationFn: (file: File) =>
      upload<{ attachments: Shape<'Attachment'>[] }>(
        `/api/letters/${letter.id}/attachments?name=${encodeURIComponent(file.name)}`,
        file,
      ),
    onSuccess: (saved) => keep(saved.attachments),
  })
  const remove = useMutation({
    mutationFn: (file_id: number) =>
      ask(api.DELETE('/api/letters/{id}/attachments/{file_id}', { params: { path: { id: letter.id, file_id } } })),
    onSuccess: (saved) => keep(saved.attachments),
  })
  return (
    <div className="mt-3 text-xs">
      {add.error && <ErrorNote error={add.error} />}
      <span className="muted">{letter.attachments.length === 0 ? 'Nothing goes with it. ' : 'With it go: '}</span>
      {letter.attachments.map((file) => (
        <span key={file.id} className="chip bg-base-200 mr-2 font-medium">
          {file.name}, {bytes(file.bytes)}{' '}
          <button
            type="button"
            className="underline cursor-pointer min-h-6"
            onClick={() => remove.mutate(file.id)}
            aria-label={`Take ${file.name} off`}
          >
            take off
          </button>
        </span>
      ))}
      <button
        type="button"
        className="quiet-word !text-xs !text-primary"
        disabled={add.isPending}
        onClick={() => input.current?.click()}
      >
        Attach a file…
      </button>
      <input
        ref={input}
        type="file"
        className="hidden"
        aria-label="File to attach"
        onChange={(event) => {
          const file = event.target.files?.[0]
          if (file) add.mutate(file)
          event.target.value = ''
        }}
      />
    </div>
  )
}
