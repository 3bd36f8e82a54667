import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { api, ask, type Shape } from '../../api/client'

import { stale } from '../../app/stale'
import { Modal } from '../../parts/Modal'
import { ErrorNote } from '../../parts/States'
import { TimeSelect } from '../../parts/TimeSelect'

type Box = Shape<'Mailbox'>
type Input = Shape<'MailboxInput'>

const NEW: Input = {
  address: '',
  name: '',
  account_id: null,
  reply_to: null,
  filing_address: null,
  daily_limit: 50,
  pace_from: 120,
  pace_to: 240,
  hours_from: 0,
  hours_to: 1440,
}

function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: what is handed in is the control
    <label className="block mb-3">
      <span className="field-label">{label}</span>
      {children}
    </label>
  )
}

function Minutes({
  label,
  seconds,
  onChange,
}: {
  label: string
  seconds: number | null
  onChange: (seconds: number | null) => void
}) {
  return (
    <input
      className="text-field !w-20"
      type="number"
      min={0.1}
      max={60}
      step={0.1}
      aria-label={label}
      defaultValue={seconds === null ? '' : Math.round(seconds / 6) / 10}
      onChange={(event) => onChange(event.target.value === '' ? null : Math.round(Number(event.target.value) * 60))}
    />
  )
}

/** One mailbox: whose, where answers go, how many a day, at what pace, in which hours; and its retiring. */
export function MailboxForm({ box, onClose }: { box: Box | null; onClose: () => void }) {
  const client = useQueryClient()
  const { data: colleagues } = useQuery({
    queryKey: ['colleagues'],
    queryFn: async () => (await ask(api.GET('/api/colleagues'))).colleagues,
  })
  const [typed, setTyped] = useState<Input>(box ? pick(box) : NEW)
  const put = (change: Input) => setTyped({ ...typed, ...change })
  const done = () => {
    stale(client, 'mailboxes')
    onClose()
  }
  const save = useMutation({
    mutationFn: () =>
      box
        ? ask(api.PATCH('/api/mailboxes/{id}', { params: { path: { id: box.id } }, body: { ...typed, version: box.version } }))
        : ask(api.POST('/api/mailboxes', { body: { ...typed, address: typed.address ?? '', name: typed.name ?? '' } })),
    onSuccess: done,
  })
  const retire = useMutation({
    mutationFn: (anyway: boolean) =>
      ask(api.POST('/api/mailboxes/{id}/retire', { params: { path: { id: box?.id ?? 0 } }, body: { anyway } })),
    onSuccess: done,
  })
  const whole = (text: string) => (text === '' ? null : Number(text))
  return (
    <Modal title={box ? box.address : 'A new mailbox'} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          save.mutate()
        }}
      >
        {(save.error ?? retire.error) != null && <ErrorNote error={save.error ?? retire.error} />}
        <div className="grid grid-cols-2 gap-x-4">
          <Line label="Address">
            <input
              className="text-field"
              type="email"
              required
              value={typed.address ?? ''}
              onChange={(event) => put({ address: event.target.value })}
            />
          </Line>
          <Line label="Name people see">
            <input
              className="text-field"
              required
              value={typed.name ?? ''}
              onChange={(event) => put({ name: event.target.value })}
            />
          </Line>
          <Line label="Of whom">
            <select
              className="select select-sm bg-[var(--sheet)] w-full"
              value={typed.account_id ?? ''}
              onChange={(event) => put({ account_id: whole(event.target.value) })}
            >
              <option value="">the firm</option>
              {colleagues?.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
          </Line>
          <Line label="Letters a day, at most">
            <input
              className="text-field"
              type="number"
              min={1}
              max={2000}
              required
              value={typed.daily_limit ?? ''}
              onChange={(event) => put({ daily_limit: Number(event.target.value) })}
            />
          </Line>
          <Line label="Answers go to">
            <input
              className="text-field"
              type="email"
              placeholder="the same address"
              value={typed.reply_to ?? ''}
              onChange={(event) => put({ reply_to: event.target.value || null })}
            />
          </Line>
          <Line label="A copy of each letter to">
            <input
              className="text-field"
              type="email"
              placeholder="nobody"
              value={typed.filing_address ?? ''}
              onChange={(event) => put({ filing_address: event.target.value || null })}
            />
          </Line>
        </div>
        <fieldset className="mb-3">
          <legend className="field-label">One letter every</legend>
          <span className="flex items-center gap-2">
            <Minutes
              label="Minutes between two letters, at least"
              seconds={typed.pace_from ?? null}
              onChange={(pace_from) => put({ pace_from })}
            />
            to
            <Minutes
              label="Minutes between two letters, at most"
              seconds={typed.pace_to ?? null}
              onChange={(pace_to) => put({ pace_to })}
            />
            minutes <span className="muted">(empty: as they come)</span>
          </span>
        </fieldset>
        <fieldset className="mb-4">
          <legend className="field-label">Letters leave between</legend>
          <span className="flex items-center gap-2">
            <TimeSelect
              whole
              className="bg-[var(--sheet)] w-24"
              label="Letters leave from"
              value={typed.hours_from ?? 0}
              onChange={(hours_from) => put({ hours_from })}
            />
            and
            <TimeSelect
              whole
              className="bg-[var(--sheet)] w-24"
              label="Letters leave until"
              value={typed.hours_to ?? 1440}
              onChange={(hours_to) => put({ hours_to })}
            />
            <span className="muted">our time</span>
          </span>
        </fieldset>
        <div className="flex gap-2 justify-end">
          {box && (
            <button
              type="button"
              className="btn btn-sm btn-plain mr-auto text-error"
              disabled={retire.isPending}
              onClick={() => retire.mutate(retire.error != null)}
            >
              {retire.error != null ? 'Retire it anyway' : 'Retire it'}
            </button>
          )}
          <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={save.isPending}>
            {box ? 'Save' : 'Make it'}
          </button>
        </div>
      </form>
    </Modal>
  )
}

function pick(box: Box): Input {
  const { address, name, account_id, reply_to, filing_address, daily_limit, pace_from, pace_to, hours_from, hours_to } = box
  return { address, name, account_id, reply_to, filing_address, daily_limit, pace_from, pace_to, hours_from, hours_to }
}
