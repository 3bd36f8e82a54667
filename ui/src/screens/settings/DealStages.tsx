import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { ArrowUp, X } from 'lucide-react'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { money, plural } from '../../app/format'
import { stale } from '../../app/stale'
import { ErrorNote, Loading } from '../../parts/States'
import { DealsBehind } from '../companies/DealsBehind'

type Draft = { key?: string | null; words: string; outcome: Shape<'Stage'>['outcome'] }

/** The stages a deal goes through, in the firm's own words. */
export function DealStages({ admin }: { admin: boolean }) {
  const { data, error } = useQuery({ queryKey: ['stages'], queryFn: async () => (await ask(api.GET('/api/stages'))).stages })
  return (
    <section className="mb-8 max-w-3xl">
      <h2 className="border-b border-base-300 pb-1 mb-1">Stages of deals</h2>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Loading lines={4} />}
      {data && <Stages key={JSON.stringify(data)} stages={data} admin={admin} />}
    </section>
  )
}

function Stages({ stages, admin }: { stages: Shape<'Stage'>[]; admin: boolean }) {
  const client = useQueryClient()
  const [drafts, setDrafts] = useState<Draft[]>(stages)
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT('/api/stages', {
          body: {
            stages: drafts
              .filter((one) => one.words.trim())
              .map(({ key, words, outcome }) => ({ key, words: words.trim(), outcome })),
          },
        }),
      ),
    onSuccess: () => {
      stale(client, 'stages')
    },
  })
  const put = (i: number, change: Partial<Draft>) => setDrafts(drafts.map((one, at) => (at === i ? { ...one, ...change } : one)))
  const move = (i: number) => {
    const next = [...drafts]
    const [moved] = next.splice(i, 1)
    if (moved) next.splice(i - 1, 0, moved)
    setDrafts(next)
  }
  return (
    <>
      {save.error && <ErrorNote error={save.error} />}
      <table className="plain w-full">
        <tbody>
          {drafts.map((draft, i) => {
            const held = stages.find((stage) => stage.key === draft.key)
            return (
              <tr key={draft.key ?? `new${i}`}>
                <td>
                  <input
                    className="text-field"
                    aria-label={`Stage ${i + 1}`}
                    disabled={!admin}
                    value={draft.words}
                    onChange={(event) => put(i, { words: event.target.value })}
                  />
                </td>
                <td>
                  <select
                    className="select select-sm bg-[var(--sheet)]"
                    aria-label={`What stage ${i + 1} means`}
                    disabled={!admin}
                    value={draft.outcome}
                    onChange={(event) => put(i, { outcome: event.target.value as Draft['outcome'] })}
                  >
                    <option value="open">open</option>
                    <option value="won">won</option>
                    <option value="lost">lost</option>
                  </select>
                </td>
                <td className="muted text-right">
                  {held && (
                    <>
                      <DealsBehind title={`Deals at “${held.words}”`} count={held.deals ?? 0} asked={{ stage: held.key }}>
                        {plural(held.deals ?? 0, 'deal')}
                      </DealsBehind>
                      , {money(held.value_pence ?? 0)}
                    </>
                  )}
                </td>
                <td className="text-right whitespace-nowrap">
                  {admin && (
                    <>
                      <button
                        type="button"
                        className="btn btn-xs btn-ghost"
                        disabled={i === 0}
                        aria-label={`Stage ${i + 1} earlier`}
                        onClick={() => move(i)}
                      >
                        <ArrowUp className="mark" aria-hidden />
                      </button>
                      <button
                        type="button"
                        className="btn btn-xs btn-ghost"
                        aria-label={`Take stage ${i + 1} away`}
                        onClick={() => setDrafts(drafts.filter((_, at) => at !== i))}
                      >
                        <X className="mark" aria-hidden />
                      </button>
                    </>
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {admin && (
        <div className="flex gap-2 mt-2">
          <button
            type="button"
            className="btn btn-sm btn-plain"
            onClick={() => setDrafts([...drafts, { words: '', outcome: 'open' }])}
          >
            Add a stage
          </button>
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={JSON.stringify(drafts) === JSON.stringify(stages) || save.isPending}
            onClick={() => save.mutate()}
          >
            Keep these stages
          </button>
        </div>
      )}
    </>
  )
}
