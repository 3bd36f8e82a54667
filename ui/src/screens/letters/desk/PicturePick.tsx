import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import type { Shape } from '../../../api/client'
import { Modal } from '../../../parts/Modal'
import { ErrorNote, Loading } from '../../../parts/States'
import { sendPicture } from '../editor/pasting'
import { usePictures } from './usePictures'

/** A button that takes pictures from this machine into the library. */
export function BringPicture({
  onTaken,
  words = 'Bring a picture…',
}: {
  onTaken?: (picture: Shape<'Picture'>) => void
  words?: string
}) {
  const client = useQueryClient()
  const input = useRef<HTMLInputElement>(null)
  const bring = useMutation({
    mutationFn: (files: File[]) => Promise.all(files.map(sendPicture)),
    onSuccess: (taken) => {
      client.invalidateQueries({ queryKey: ['pictures'] })
      if (taken[0]) onTaken?.(taken[0])
    },
  })
  return (
    <>
      {bring.error && <ErrorNote error={bring.error} />}
      <button type="button" className="btn btn-sm btn-primary" disabled={bring.isPending} onClick={() => input.current?.click()}>
        {bring.isPending ? 'Taking it in…' : words}
      </button>
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png,image/gif,image/webp"
        multiple
        className="hidden"
        aria-label="Picture file"
        onChange={(event) => {
          bring.mutate([...(event.target.files ?? [])])
          event.target.value = ''
        }}
      />
    </>
  )
}

/** Chooses a picture of the library, or brings one. */
export function PicturePick({ onPick, onClose }: { onPick: (picture: Shape<'Picture'>) => void; onClose: () => void }) {
  const { data, error } = usePictures()
  return (
    <Modal wide title="Which picture" onClose={onClose}>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Loading />}
      {data?.length === 0 && <p className="muted mb-3">There are no pictures yet.</p>}
      <ul className="grid grid-cols-4 gap-3 mb-4">
        {data?.map((picture) => (
          <li key={picture.id}>
            <button
              type="button"
              className="block w-full text-left hover:outline outline-primary"
              onClick={() => onPick(picture)}
            >
              <img src={picture.url} alt="" className="h-28 w-full object-cover bg-base-200" loading="lazy" />
              <span className="text-xs truncate block mt-1">{picture.name}</span>
            </button>
          </li>
        ))}
      </ul>
      <div className="flex justify-end gap-2">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
        <BringPicture onTaken={onPick} />
      </div>
    </Modal>
  )
}
