import { useQueryClient } from '@tanstack/react-query'
import { ApiProblem, api, ask, type Shape } from '../../api/client'
import { stale } from '../../app/stale'
import { useInTurn } from '../../app/useInTurn'

/** Saving parts of a person's record. */
export function useSavePerson(person: Shape<'Person'>) {
  const client = useQueryClient()
  const onSuccess = (saved: Shape<'Person'>) => {
    client.setQueryData(['person', person.id], saved)
    stale(client, 'person')
  }
  const path = { id: person.id }
  const key = ['person', person.id] as const
  const save = useInTurn(
    key,
    person,
    (values: Record<string, unknown>, version) =>
      ask(api.PATCH('/api/people/{id}', { params: { path }, body: { values, version } })),
    { onSuccess },
  )
  const address = useInTurn(
    key,
    person,
    (body: { email: string; as: 'further' | 'in_use' }, version) =>
      ask(api.POST('/api/people/{id}/addresses', { params: { path }, body: { ...body, version } })),
    { onSuccess },
  )
  const dropAddress = useInTurn(
    key,
    person,
    (addressId: number) =>
      ask(api.DELETE('/api/people/{id}/addresses/{address_id}', { params: { path: { ...path, address_id: addressId } } })),
    { onSuccess },
  )
  const overtaken = save.error instanceof ApiProblem && save.error.code === 'changed_meanwhile'
  const reload = () => {
    save.reset()
    client.invalidateQueries({ queryKey: key })
  }
  return { save, address, dropAddress, overtaken, reload }
}
