import { useMutation, useQueryClient } from '@tanstack/react-query'
import type { FormEvent } from 'react'
import { useNavigate } from 'react-router'
import { api, ask } from '../../../api/client'
import { useDraft } from '../../../app/useDraft'
import { Modal } from '../../../parts/Modal'
import { ErrorNote } from '../../../parts/States'
import { AddressTaken } from '../../person/AddressTaken'

const FIELDS = [
  { name: 'person.first_name', words: 'First name' },
  { name: 'person.last_name', words: 'Last name' },
  { name: 'person.email', words: 'Address' },
  { name: 'person.company', words: 'Company' },
  { name: 'person.city', words: 'City' },
] as const

const NOTHING: Record<string, string> = {}

/** A new record; what is typed is there again when one comes back to it. */
export function AddPerson({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate()
  const client = useQueryClient()
  const [values, setValues, added] = useDraft('person', NOTHING)
  const add = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/people', {
          body: { values: Object.fromEntries(Object.entries(values).filter(([, value]) => value.trim())) },
        }),
      ),
    onSuccess: (person) => {
      added()
      client.invalidateQueries({ queryKey: ['people'] })
      navigate(`/people/${person.id}`)
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    add.mutate()
  }
  return (
    <Modal title="Add person" onClose={onClose}>
      <form onSubmit={submit} className="grid gap-3">
        {add.error && <ErrorNote error={add.error} />}
        {FIELDS.map((field) => (
          <label key={field.name}>
            <span className="field-label">{field.words}</span>
            <input
              className="text-field"
              value={values[field.name] ?? ''}
              onChange={(event) => setValues({ ...values, [field.name]: event.target.value })}
            />
            {field.name === 'person.email' && <AddressTaken email={values[field.name] ?? ''} />}
          </label>
        ))}
        <div className="mt-2 flex justify-end gap-2">
          <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
            Not now
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={add.isPending}>
            Add person
          </button>
        </div>
      </form>
    </Modal>
  )
}
