import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { writeDate } from '../../app/dates'
import { money } from '../../app/format'
import { useSession } from '../../app/session'
import { stale } from '../../app/stale'
import { useInTurn } from '../../app/useInTurn'
import { classes } from '../../parts/classes'
import { DateInput } from '../../parts/DateInput'
import { ErrorNote } from '../../parts/States'
import { useTyped } from '../../parts/useTyped'

type Deal = Shape<'Deal'>
const TONES = { open: '', won: 'text-success', lost: 'muted line-through' }

function useSaved() {
  const client = useQueryClient()
  return () => {
    stale(client, 'deal')
  }
}

/** One deal: its stage and value change in place. */
export function DealRow({ deal, catalogue, of }: { deal: Deal; catalogue: Shape<'Catalogue'>; of?: 'company' }) {
  const saved = useSaved()
  const { firm } = useSession()
  const { text: value, type, leave, putBack } = useTyped(String(deal.value_pence / 100))
  const save = useInTurn(
    ['deal', deal.id],
    deal,
    (change: Shape<'DealInput'>, version) =>
      ask(api.PATCH('/api/deals/{id}', { params: { path: { id: deal.id } }, body: { ...change, version } })),
    { onSuccess: saved },
  )
  const pence = Math.round(Number(value.replace(/[£,\s]/g, '')) * 100)
  return (
    <li className="py-1 border-b border-base-300/60">
      <div className="flex items-center gap-2">
        <span className={`grow truncate ${TONES[deal.outcome]}`}>{deal.name}</span>
        <select
          className="select select-xs bg-transparent w-32"
          aria-label={`Stage of ${deal.name}`}
          value={deal.stage}
          onChange={(event) => save.mutate({ stage: event.target.value })}
        >
          {catalogue.stages.map((stage) => (
            <option key={stage.key} value={stage.key}>
              {stage.words}
            </option>
          ))}
        </select>
        <input
          className={classes(
            'w-20 h-6 text-right bg-transparent border border-transparent hover:border-base-300 focus:border-primary',
            'rounded-sm px-1',
          )}
          aria-label={`Value of ${deal.name} in pounds`}
          value={value}
          onChange={(event) => type(event.target.value)}
          onBlur={() => {
            if (!Number.isFinite(pence) || pence < 0 || pence === deal.value_pence) return putBack()
            leave()
            save.mutate({ value_pence: pence })
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      </div>
      <p className="muted text-xs flex gap-2 items-center">
        {of === 'company' && deal.person_id && (
          <Link to={`/people/${deal.person_id}`} className="hover:underline">
            {deal.person}
          </Link>
        )}
        {deal.outcome === 'open' ? (
          <>
            expected{' '}
            <DateInput
              label={`When ${deal.name} is expected`}
              className="bg-transparent w-28 border-b border-transparent hover:border-base-300"
              value={deal.expected_on ?? null}
              onSave={(expected_on) => save.mutate({ expected_on })}
            />
          </>
        ) : (
          deal.closed_on && `${deal.outcome} on ${writeDate(deal.closed_on, firm.date_order)}`
        )}
      </p>
      {save.error && <ErrorNote error={save.error} />}
    </li>
  )
}

/** A person's deals, with what they come to. */
export function Deals({ person, catalogue }: { person: Shape<'Person'>; catalogue: Shape<'Catalogue'> }) {
  const saved = useSaved()
  const [name, setName] = useState('')
  const add = useMutation({
    mutationFn: () =>
      ask(api.POST('/api/people/{id}/deals', { params: { path: { id: person.id } }, body: { name: name.trim() } })),
    onSuccess: () => {
      setName('')
      saved()
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (name.trim()) add.mutate()
  }
  const sum = (outcome: Deal['outcome']) =>
    person.deals.filter((deal) => deal.outcome === outcome).reduce((total, deal) => total + deal.value_pence, 0)
  return (
    <section>
      <h2 className="border-b border-base-300 pb-1 flex items-baseline">
        <span className="grow">Deals</span>
        {person.deals.length > 0 && (
          <span className="muted text-xs font-sans">
            {money(sum('open'))} open, {money(sum('won'))} won
          </span>
        )}
      </h2>
      <ul>
        {person.deals.map((deal) => (
          <DealRow key={deal.id} deal={deal} catalogue={catalogue} />
        ))}
      </ul>
      <form onSubmit={submit} className="mt-1">
        <input
          className="h-7 w-full px-1.5 rounded-sm bg-transparent border border-transparent hover:border-base-300 focus:border-primary"
          aria-label="New deal"
          placeholder="+ a new deal: its name, then Enter"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </form>
      {add.error && <ErrorNote error={add.error} />}
    </section>
  )
}
