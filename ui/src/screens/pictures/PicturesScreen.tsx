import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../api/client'
import { bytes, plural } from '../../app/format'
import { Header } from '../../parts/Header'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { UsedIn } from '../../parts/UsedIn'
import { BringPicture } from '../letters/desk/PicturePick'
import { usePictures } from '../letters/desk/usePictures'
import { LetterPlaces } from '../letters/library/LetterPlaces'

function Card({ picture }: { picture: Shape<'Picture'> }) {
  const client = useQueryClient()
  const remove = useMutation({
    mutationFn: () => ask(api.DELETE('/api/pictures/{id}', { params: { path: { id: picture.id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['pictures'] }),
  })
  return (
    <li className="text-[13px]">
      <img
        src={picture.url}
        alt={picture.name}
        className="h-40 w-full object-cover bg-base-200 border border-base-300"
        loading="lazy"
      />
      <p className="font-semibold truncate mt-1.5">{picture.name}</p>
      <p className="muted text-xs">
        {picture.width} × {picture.height}, {bytes(picture.bytes)}
      </p>
      <p className="muted text-xs truncate">
        Used in <UsedIn uses={picture.used_in} />
      </p>
      {remove.error && <ErrorNote error={remove.error} />}
      {picture.used_in.length === 0 && (
        <button type="button" className="quiet-word !text-xs" onClick={() => remove.mutate()}>
          Take it away
        </button>
      )}
    </li>
  )
}

/** The library of pictures, with where each is used. */
export function PicturesScreen() {
  const { data, error, refetch } = usePictures()
  return (
    <>
      <Header
        title="Pictures"
        aside={<span className="muted">{data && plural(data.length, 'picture')}</span>}
        actions={<BringPicture />}
      />
      <LetterPlaces />
      {error && <ErrorNote error={error} retry={refetch} />}
      {!data && !error && <Loading />}
      {data?.length === 0 && <Empty>No pictures yet. Bring one, or paste it into a letter.</Empty>}
      <ul className="grid grid-cols-4 gap-5">
        {data?.map((picture) => (
          <Card key={picture.id} picture={picture} />
        ))}
      </ul>
      {data && data.length > 0 && (
        <p className="muted text-xs mt-6">
          Pictures are made as small as letters need, and what a camera writes into them is taken out.
        </p>
      )}
    </>
  )
}
