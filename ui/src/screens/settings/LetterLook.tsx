import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { stale } from '../../app/stale'
import { ErrorNote, Loading } from '../../parts/States'
import { PicturePick } from '../letters/desk/PicturePick'
import { useLook } from '../letters/desk/useLook'
import { usePictures } from '../letters/desk/usePictures'

const COLOURS = [
  { key: 'accent', words: 'Links and buttons' },
  { key: 'on_accent', words: 'Words on buttons' },
  { key: 'ink', words: 'Text' },
  { key: 'sheet', words: 'Sheet' },
  { key: 'page', words: 'Behind the sheet' },
] as const

type Values = Shape<'Look'>['values']

function Sample({ values, stack, firm }: { values: Values; stack?: string; firm: string }) {
  return (
    <div
      className="p-4 border border-base-300"
      style={{ background: values.page }}
      role="img"
      aria-label="How a designed letter looks"
    >
      <div className="p-5" style={{ background: values.sheet, color: values.ink, fontFamily: stack }}>
        <p className="italic mb-3" style={{ color: values.accent }}>
          {firm}
        </p>
        <p className="text-lg font-semibold mb-2">A quieter spring</p>
        <p className="mb-3">
          Dear Ana, here is <span style={{ color: values.accent, textDecoration: 'underline' }}>what one room noticed</span>.
        </p>
        <span
          className="inline-block rounded-sm px-4 py-2 font-semibold"
          style={{ background: values.accent, color: values.on_accent }}
        >
          Choose a morning
        </span>
      </div>
    </div>
  )
}

/** The look of designed letters: colours checked for being readable, one face of type, a logo; and the firm's postal address. */
export function LetterLook({ admin, firm }: { admin: boolean; firm: string }) {
  const client = useQueryClient()
  const { data, error } = useLook()
  const { data: pictures } = usePictures()
  const [choosing, setChoosing] = useState(false)
  const change = useMutation({
    mutationFn: (body: { values: Partial<Values>; postal_address?: string }) =>
      ask(api.PUT('/api/look', { body: { ...body, values: { ...data?.values, ...body.values } as Record<string, never> } })),
    onSuccess: (saved) => {
      client.setQueryData(['look'], saved)
      stale(client, 'look')
    },
  })
  const logo = pictures?.find((one) => one.id === data?.values.logo_picture_id)
  return (
    <section className="mb-8 max-w-3xl">
      <h2 className="border-b border-base-300 pb-1 mb-3">How letters look</h2>
      {error && <ErrorNote error={error} />}
      {change.error && <ErrorNote error={change.error} />}
      {!data && !error && <Loading lines={4} />}
      {data && (
        <fieldset disabled={!admin} className="grid grid-cols-[minmax(0,1fr)_320px] gap-8">
          <div className="space-y-2">
            {COLOURS.map((colour) => (
              <label key={colour.key} className="flex items-center gap-3">
                <input
                  type="color"
                  className="h-7 w-10 border border-base-300"
                  defaultValue={data.values[colour.key]}
                  onBlur={(event) =>
                    event.target.value !== data.values[colour.key] &&
                    change.mutate({ values: { [colour.key]: event.target.value } })
                  }
                />
                {colour.words}
              </label>
            ))}
            <label className="flex items-center gap-3">
              <span className="w-24">Type</span>
              <select
                className="select select-sm bg-[var(--sheet)] w-44"
                value={data.values.font}
                onChange={(event) => change.mutate({ values: { font: event.target.value } })}
              >
                {data.fonts.map((font) => (
                  <option key={font.key} value={font.key}>
                    {font.key[0]?.toUpperCase() + font.key.slice(1)}
                  </option>
                ))}
              </select>
            </label>
            <p className="flex items-center gap-3">
              <span className="w-24">Logo</span>
              {logo ? (
                <img src={logo.url} alt={logo.name} className="h-8" />
              ) : (
                <span className="muted">the firm’s name in letters</span>
              )}
              <button type="button" className="btn btn-xs btn-plain" onClick={() => setChoosing(true)}>
                Choose…
              </button>
              {logo && (
                <button
                  type="button"
                  className="quiet-word !text-xs"
                  onClick={() => change.mutate({ values: { logo_picture_id: null } })}
                >
                  none
                </button>
              )}
            </p>
            <label className="block">
              <span className="field-label">Postal address, below every letter</span>
              <input
                className="text-field"
                defaultValue={data.postal_address}
                maxLength={200}
                onBlur={(event) =>
                  event.target.value !== data.postal_address && change.mutate({ values: {}, postal_address: event.target.value })
                }
              />
            </label>
          </div>
          <div>
            <Sample values={data.values} stack={data.fonts.find((one) => one.key === data.values.font)?.stack} firm={firm} />
            <ul className="text-xs mt-2">
              {data.contrasts.map((pair) => (
                <li key={pair.what} className={pair.enough ? 'muted' : 'text-error font-semibold'}>
                  {pair.what}: {pair.ratio} to 1, {pair.enough ? 'easy to read' : 'hard to read, 4.5 is needed'}
                </li>
              ))}
            </ul>
          </div>
        </fieldset>
      )}
      {choosing && (
        <PicturePick
          onClose={() => setChoosing(false)}
          onPick={(picture) => {
            setChoosing(false)
            change.mutate({ values: { logo_picture_id: picture.id } })
          }}
        />
      )}
    </section>
  )
}
