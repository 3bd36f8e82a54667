import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask } from '../../api/client'
import { plural, shortDate } from '../../app/format'
import { useNow } from '../../app/usePost'
import { classes } from '../../parts/classes'
import { Header } from '../../parts/Header'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { UsedIn } from '../../parts/UsedIn'
import { usePassages } from '../letters/desk/usePassages'
import { LetterPlaces } from '../letters/library/LetterPlaces'
import { PassageEditor } from './PassageEditor'

/** Texts kept for reuse: changed here, they change in every letter not sent yet. */
export function PassagesScreen() {
  const client = useQueryClient()
  const now = useNow()
  const { data, error, refetch } = usePassages()
  const [chosen, setChosen] = useState<number | null>(null)
  const make = useMutation({
    mutationFn: () => ask(api.POST('/api/passages', { body: { name: `Passage of ${shortDate(now, now)}` } })),
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: ['passages'] })
      setChosen(made.id)
    },
  })
  const shown = data?.find((passage) => passage.id === chosen) ?? data?.[0]
  return (
    <>
      <Header
        title="Passages"
        aside={<span className="muted">{data && plural(data.length, 'passage')}</span>}
        actions={
          <button type="button" className="btn btn-sm btn-primary" onClick={() => make.mutate()}>
            New passage
          </button>
        }
      />
      <LetterPlaces />
      {(error ?? make.error) && <ErrorNote error={error ?? make.error} retry={refetch} />}
      {!data && !error && <Loading />}
      {data?.length === 0 && <Empty>No passages yet. Keep here what you write again and again.</Empty>}
      {data && shown && (
        <div className="grid grid-cols-[300px_minmax(0,1fr)] gap-7 items-start">
          <ul>
            {data.map((passage) => (
              <li key={passage.id}>
                <button
                  type="button"
                  aria-current={passage.id === shown.id}
                  className={classes(
                    'block w-full text-left px-3 py-2 border-l-[3px] border-b border-b-base-300/60',
                    passage.id === shown.id ? 'border-l-primary bg-[var(--sheet)]' : 'border-l-transparent hover:bg-base-200',
                  )}
                  onClick={() => setChosen(passage.id)}
                >
                  <span className="font-semibold block">{passage.name}</span>
                  <span className="muted text-xs line-clamp-2">{passage.words || 'empty'}</span>
                  <span className="muted text-xs block truncate">
                    Used in <UsedIn uses={passage.used_in} />
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <PassageEditor key={shown.id} id={shown.id} onGone={() => setChosen(null)} />
        </div>
      )}
    </>
  )
}
