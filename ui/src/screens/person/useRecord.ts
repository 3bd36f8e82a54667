import { useMutation, useQueryClient } from '@tanstack/react-query'
import { ApiProblem, api, ask, type Shape } from '../../api/client'

const AFFECTED = ['people', 'history', 'sieve', 'stack', 'letter', 'catalogue', 'sequence', 'ready', 'company', 'doubles']

/** Saving parts of a person's record; a colleague's change in between is told, and nothing is overwritten. */
export function useSavePerson(person: Shape<'Person'>) {
  const client = useQueryClient()
  const onSuccess = (saved: Shape<'Person'>) => {
    client.setQueryData(['person', person.id], saved)
    for (const key of AFFECTED) client.invalidateQueries({ queryKey: [key] })
  }
  const path = { id: person.id }
  const save = useMutation({
    mutationFn: (values: Record<string, unknown>) =>
      ask(api.PATCH('/api/people/{id}', { params: { path }, body: { values, version: person.version } })),
    onSuccess,
  })
  const address = useMutation({
    mutationFn: (body: { email: string; as: 'further' | 'in_use' }) =>
      ask(api.POST('/api/people/{id}/addresses', { params: { path }, body: { ...body, version: person.version } })),
    onSuccess,
  })
  const dropAddress = useMutation({
    mutationFn: (addressId: number) =>
      ask(api.DELETE('/api/people/{id}/addresses/{address_id}', { params: { path: { ...path, address_id: addressId } } })),
    onSuccess,
  })
  const overtaken = save.error instanceof ApiProblem && save.error.code === 'changed_meanwhile'
  const reload = () => {
    save.reset()
    client.invalidateQueries({ queryKey: ['person', person.id] })
  }
  return { save, address, dropAddress, overtaken, reload }
}
