import { useMutation, useQueries } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { useTellChange } from '../../app/changes'
import { money } from '../../app/format'
import { useCatalogue } from '../../app/useCatalogue'
import { Modal } from '../../parts/Modal'
import { ErrorNote, Loading } from '../../parts/States'

type Person = Shape<'Person'>
const COMPANY = 'person.company'
// They follow from others, or both are kept.
const NOT_PICKED = [
  'person.name_order',
  'person.standing_since',
  'person.consent_on',
  'person.added_on',
  'person.address_blocked',
  'person.do_not_mail',
  'person.address_failed',
]

const partOf = (person: Person, key: string) => (key === COMPANY ? person.company : person.values[key]) ?? null

/** Two records side by side: one is kept, field by field from either. */
export function MergeDialog({ ids, onClose }: { ids: [number, number]; onClose: () => void }) {
  const tell = useTellChange()
  const { data: catalogue } = useCatalogue()
  const [kept, setKept] = useState<0 | 1>(0)
  const [picked, setPicked] = useState<Record<string, 0 | 1>>({})
  const people = useQueries({
    queries: ids.map((id) => ({
      queryKey: ['person', id],
      queryFn: () => ask(api.GET('/api/people/{id}', { params: { path: { id } } })),
    })),
  }).map((result) => result.data)
  const [first, second] = people
  const stays = people[kept]
  const goes = people[kept === 0 ? 1 : 0]
  const differing = () => {
    if (!first || !second || !catalogue) return []
    const keys = [
      COMPANY,
      ...catalogue.fields
        .filter((field) => field.key in first.values && !NOT_PICKED.includes(field.key))
        .map((field) => field.key),
    ]
    return keys.filter((key) => JSON.stringify(partOf(first, key)) !== JSON.stringify(partOf(second, key)))
  }
  const side = (key: string): 0 | 1 => {
    const chosen = picked[key]
    if (chosen !== undefined) return chosen
    return stays && partOf(stays, key) === null ? (kept === 0 ? 1 : 0) : kept
  }
  const merge = useMutation({
    mutationFn: () => {
      if (!stays || !goes) throw new Error('Both records are needed.')
      const values = Object.fromEntries(
        differing()
          .filter((key) => side(key) !== kept)
          .map((key) => [key, partOf(goes, key)]),
      )
      return ask(
        api.POST('/api/people/{id}/merge', {
          params: { path: { id: stays.id } },
          body: { with: goes.id, values, version: stays.version, with_version: goes.version },
        }),
      )
    },
    onSuccess: (change) => {
      tell(change)
      onClose()
    },
  })
  const say = (person: Person, key: string): string => {
    const value = partOf(person, key)
    const field = catalogue?.fields.find((one) => one.key === key)
    if (value === null || value === undefined || value === '') return 'nothing'
    if (field?.type === 'choice') return field.choices.find((one) => one.value === value)?.words ?? String(value)
    if (field?.type === 'reference') return catalogue?.colleagues.find((one) => one.id === value)?.name ?? String(value)
    if (field?.type === 'money') return money(Number(value))
    return Array.isArray(value) ? value.join(', ') : String(value)
  }
  return (
    <Modal wide title="One person or two?" onClose={onClose}>
      {merge.error && <ErrorNote error={merge.error} />}
      {(!first || !second || !catalogue) && <Loading lines={6} />}
      {first && second && catalogue && (
        <>
          <table className="plain w-full">
            <thead>
              <tr>
                <th className="w-32" />
                {[first, second].map((person, i) => (
                  <th key={person.id}>
                    <label className="flex gap-2 items-center text-sm text-base-content font-semibold">
                      <input
                        type="radio"
                        name="kept"
                        className="radio radio-xs"
                        checked={kept === i}
                        onChange={() => {
                          setKept(i as 0 | 1)
                          setPicked({})
                        }}
                      />
                      keep {person.name}
                    </label>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {differing().map((key) => (
                <tr key={key}>
                  <td className="muted">
                    {key === COMPANY ? 'Company' : catalogue.fields.find((field) => field.key === key)?.label}
                  </td>
                  {[first, second].map((person, i) => (
                    <td key={person.id} className={side(key) === i ? 'bg-[var(--merged)]' : ''}>
                      <label className="flex gap-2 items-center cursor-pointer">
                        <input
                          type="radio"
                          name={key}
                          className="radio radio-xs"
                          checked={side(key) === i}
                          onChange={() => setPicked({ ...picked, [key]: i as 0 | 1 })}
                        />
                        <span className={partOf(person, key) === null ? 'muted' : ''}>{say(person, key)}</span>
                      </label>
                    </td>
                  ))}
                </tr>
              ))}
              <tr>
                <td className="muted">Kept of both</td>
                <td colSpan={2}>history, deals, sequences, tags, lists and addresses; a “no” of either stays a no</td>
              </tr>
            </tbody>
          </table>
          <div className="flex justify-end gap-2 mt-4">
            <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
              Not now
            </button>
            <button type="button" className="btn btn-sm btn-primary" disabled={merge.isPending} onClick={() => merge.mutate()}>
              Make one record
            </button>
          </div>
        </>
      )}
    </Modal>
  )
}
