import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { useCreate } from '../../../app/useCreate'
import { MenuList } from '../../../parts/MenuList'
import { Modal } from '../../../parts/Modal'
import { ErrorNote } from '../../../parts/States'
import { AddPeople } from '../../sequences/members/AddPeople'
import { audienceOf } from './audienceOf'

const FRESH = 0

/** Which sequence the people chosen join: one that runs or is paused, where the numbers are read back, or a new one. */
export function JoinDialog({
  people,
  title = 'chosen people',
  onClose,
}: {
  people: Shape<'Chosen'>
  title?: string
  onClose: () => void
}) {
  const create = useCreate()
  const [sequence, setSequence] = useState<{ id: number; name: string } | null>(null)
  const { data } = useQuery({ queryKey: ['sequences'], queryFn: async () => (await ask(api.GET('/api/sequences'))).sequences })
  const open = data?.filter((one) => ['running', 'paused'].includes(one.state)) ?? []
  if (sequence) return <AddPeople sequence={sequence} audience={audienceOf(people)} onClose={onClose} />
  const pick = (id: number) => {
    if (id === FRESH) create.sequence.mutate({ name: `To: ${title}`.slice(0, 100), audience: audienceOf(people) })
    else setSequence(open.find((one) => one.id === id) ?? null)
  }
  return (
    <Modal title="Add to which sequence?" onClose={onClose}>
      {create.sequence.error && <ErrorNote error={create.sequence.error} />}
      {people.words ? (
        <p>A quick search is for looking. Choose the people in the table, or say whom you mean in the sentence.</p>
      ) : (
        <MenuList
          className="w-full"
          items={[{ value: FRESH, words: 'A new sequence' }, ...open.map((one) => ({ value: one.id, words: one.name }))]}
          onPick={pick}
        />
      )}
      <div className="text-right mt-4">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
      </div>
    </Modal>
  )
}
