import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { stale } from '../../app/stale'
import { Modal } from '../../parts/Modal'
import { ErrorNote } from '../../parts/States'

type Person = Shape<'Person'>

/** Why nothing may be sent, in a few words. */
export function whyNot(person: Person): string {
  if (!person.email) return 'no address'
  if (person.values['person.do_not_mail']) return 'do not mail'
  if (person.blocked) return `${person.blocked.kind} on the do-not-mail list: ${person.blocked.reason}`
  if (person.values['person.address_failed']) return 'address failed'
  return person.values['person.consent'] === 'no' ? 'said no to letters' : 'somebody with this address said no'
}

/** That nothing is sent to this address, and by whose word. */
export function NoLetters({ person }: { person: Person }) {
  if (person.may_write) return null
  return (
    <>
      <span className="chip bg-[var(--gap)] text-error">{whyNot(person)}</span>
      {person.no_from.map((one) => (
        <Link key={one.id} to={`/people/${one.id}`} className="text-xs underline underline-offset-4">
          see {one.name}
          {one.binned && ', in the bin'}
        </Link>
      ))}
    </>
  )
}

/** The one way in which a no ends. A domain is taken off the do-not-mail list in Settings. */
export function canEndNo(person: Person): boolean {
  return !person.may_write && Boolean(person.email) && person.blocked?.kind !== 'domain'
}

/** Asks how one knows that they want letters again. */
export function EndsNo({ person }: { person: Person }) {
  const [asking, setAsking] = useState(false)
  return (
    <>
      <button type="button" className="btn btn-sm btn-plain" onClick={() => setAsking(true)}>
        They want letters again…
      </button>
      {asking && <WantsLetters person={person} onClose={() => setAsking(false)} />}
    </>
  )
}

function WantsLetters({ person, onClose }: { person: Person; onClose: () => void }) {
  const client = useQueryClient()
  const [how, setHow] = useState('')
  const take = useMutation({
    mutationFn: () =>
      ask(api.POST('/api/people/{id}/wants-letters', { params: { path: { id: person.id } }, body: { how: how.trim() } })),
    onSuccess: () => {
      stale(client, 'no')
      onClose()
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    take.mutate()
  }
  const others = person.no_from.length
  return (
    <Modal title="They want letters again" onClose={onClose}>
      <form onSubmit={submit}>
        <p className="mb-4">
          A no belongs to the address. It ends for {person.email}
          {others > 0 && `, for ${others === 1 ? 'the other record' : `the ${others} other records`} with it too`}, with today’s
          date and your name beside it.
        </p>
        {take.error && <ErrorNote error={take.error} />}
        <label>
          <span className="field-label">How do you know?</span>
          <input
            className="text-field"
            required
            maxLength={200}
            placeholder="Asked for the spring letter on the telephone"
            value={how}
            onChange={(event) => setHow(event.target.value)}
          />
        </label>
        <div className="flex justify-end gap-2 mt-5">
          <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
            Not now
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={!how.trim() || take.isPending}>
            Write to them again
          </button>
        </div>
      </form>
    </Modal>
  )
}
