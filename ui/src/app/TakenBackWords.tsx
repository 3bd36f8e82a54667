import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, ask } from '../api/client'
import { ErrorNote } from '../parts/States'
import { OpensPeople } from '../screens/people/behind/OpensPeople'
import { type Change, useTellChange } from './changes'
import { number, plural } from './format'

/** "3 were changed by somebody since and stay as they are", and who; then what the act leaves behind. */
export function TakenBackWords({ change }: { change: Change }) {
  const one = 'company, tag or list it made is used and stays'
  const many = 'companies, tags and lists it made are used and stay'
  return (
    <>
      {change.kept > 0 && (
        <>
          {' '}
          <OpensPeople
            title={`Not taken back: ${change.words}`}
            count={change.kept}
            className="underline underline-offset-4"
            queryKey={['kept', change.id]}
            load={(cursor) => ask(api.GET('/api/changes/{id}/kept', { params: { path: { id: change.id }, query: { cursor } } }))}
          >
            {change.kept === 1 ? 'One was' : `${number(change.kept)} were`} changed by somebody since
          </OpensPeople>{' '}
          and {change.kept === 1 ? 'stays as it is' : 'stay as they are'}.
        </>
      )}
      {change.stays_made > 0 && ` ${plural(change.stays_made, one, many)}.`}
      <StaysOut change={change} />
      <Joined change={change} />
    </>
  )
}

/** Who joined a sequence because of it and has had nothing yet; they can be removed. */
function Joined({ change }: { change: Change }) {
  const tell = useTellChange()
  const client = useQueryClient()
  const remove = useMutation({
    mutationFn: () => ask(api.POST('/api/changes/{id}/remove-joined', { params: { path: { id: change.id } } })),
    onSuccess: ({ changes }) => {
      client.invalidateQueries({ queryKey: ['change', change.id] })
      changes.forEach(tell)
    },
  })
  if (change.joined === 0) return null
  return (
    <>
      {' '}
      <OpensPeople
        title="Joined because of this"
        count={change.joined}
        className="underline underline-offset-4"
        queryKey={['joined', change.id]}
        load={(cursor) => ask(api.GET('/api/changes/{id}/joined', { params: { path: { id: change.id }, query: { cursor } } }))}
      >
        {plural(change.joined, 'person', 'people')}
      </OpensPeople>{' '}
      joined a sequence because of this and {change.joined === 1 ? 'has' : 'have'} had nothing yet.{' '}
      <button
        type="button"
        className="underline underline-offset-4 font-semibold"
        disabled={remove.isPending}
        onClick={() => remove.mutate()}
      >
        Remove {change.joined === 1 ? 'them' : `all ${number(change.joined)}`}
      </button>
      {remove.error && <ErrorNote error={remove.error} />}
    </>
  )
}

const WHY: Record<string, string> = { ended: 'has ended', stopped: 'was stopped' }

/** What taking it back does not bring back: places in sequences that run. */
export function StaysOut({ change }: { change: Change }) {
  if (change.stays_out === 0) return null
  return (
    <>
      {' '}
      <OpensPeople
        title="Out of their sequences"
        count={change.stays_out}
        className="underline underline-offset-4"
        queryKey={['stays-out', change.id]}
        load={(cursor) => ask(api.GET('/api/changes/{id}/stays-out', { params: { path: { id: change.id }, query: { cursor } } }))}
      >
        {change.stays_out === 1 ? 'One place in a sequence stays' : `${number(change.stays_out)} places in sequences stay`} empty
      </OpensPeople>
      : {change.stays_out_of.map(({ name, state }) => `“${name}” ${WHY[state] ?? 'goes on without them'}`).join(', ')}. Add them
      again if they should go on.
    </>
  )
}
