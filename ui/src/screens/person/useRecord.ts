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
  // Whoever goes quickly from field to field saves one after the other, each on what the one before left.
  const scope = { id: `person ${person.id}` }
  const version = () => client.getQueryData<Shape<'Person'>>(['person', person.id])?.version ?? person.version
  const save = useMutation({
    scope,
    mutationFn: (values: Record<string, unknown>) =>
      ask(api.PATCH('/api/people/{id}', { params: { path }, body: { values, version: version() } })),
    onSuccess,
  })
  const address = useMutation({
    scope,
    mutationFn: (body: { email: string; as: 'further' | 'in_use' }) =>
      ask(api.POST('/api/people/{id}/addresses', { params: { path }, body: { ...body, version: version() } })),
    onSuccess,
  })
  const dropAddress = useMutation({
    scope,
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
