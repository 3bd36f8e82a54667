import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { ApiProblem, api, ask, type Shape } from '../../api/client'
import { plural } from '../../app/format'
import { stale } from '../../app/stale'
import { NameInPlace } from '../../parts/NameInPlace'
import { ErrorNote, Loading } from '../../parts/States'
import { UsedIn } from '../../parts/UsedIn'
import { PeopleCount } from '../people/behind/PeopleCount'

type Rename = { tag: { id: number }; name: string; merge: boolean }

/** Tags: renamed everywhere at once; two of one name become one. */
export function Tags() {
  const client = useQueryClient()
  const { data, error } = useQuery({ queryKey: ['tags'], queryFn: async () => (await ask(api.GET('/api/tags'))).tags })
  const rename = useMutation({
    mutationFn: ({ tag, name, merge }: Rename) =>
      ask(api.PATCH('/api/tags/{id}', { params: { path: { id: tag.id } }, body: { name, merge } })),
    onSuccess: () => {
      stale(client, 'tags')
    },
  })
  const clash = rename.error instanceof ApiProblem && rename.error.code === 'tag_exists' ? rename.error : null
  const wanted = rename.variables
  return (
    <section className="mb-8 max-w-3xl">
      <h2 className="border-b border-base-300 pb-1 mb-1">Tags</h2>
      {error && <ErrorNote error={error} />}
      {rename.error && !clash && <ErrorNote error={rename.error} />}
      {clash && wanted && (
        <div role="alert" className="border-l-2 border-accent bg-[var(--personal)] px-3 py-2 my-2 flex gap-3 items-center">
          <p className="grow">
            {clash.message} It is worn by {plural(Number(clash.data.people), 'record')}. Make the two one?
          </p>
          <button type="button" className="btn btn-xs btn-plain" onClick={() => rename.mutate({ ...wanted, merge: true })}>
            Merge them
          </button>
          <button type="button" className="btn btn-xs btn-ghost" onClick={() => rename.reset()}>
            No
          </button>
        </div>
      )}
      {!data && !error && <Loading lines={3} />}
      {data && (
        <table className="plain w-full">
          <tbody>
            {data.map((tag: { id: number; name: string; people: number; used_in: Shape<'Use'>[] }) => (
              <tr key={`${tag.id} ${tag.name} ${rename.status}`}>
                <td className="w-64">
                  <NameInPlace
                    name={tag.name}
                    label={`Name of the tag ${tag.name}`}
                    onSave={(name) => rename.mutate({ tag, name, merge: false })}
                  />
                </td>
                <td className="text-right">
                  <PeopleCount
                    title={tag.name}
                    count={tag.people}
                    condition={{ field: 'person.tags', is: 'one_of', value: [tag.name] }}
                  />
                </td>
                <td>
                  <UsedIn uses={tag.used_in} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  )
}
