import { useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'
import { Select } from '../../../parts/Select'

type Step = Shape<'Step'>

/** Into which other sequence they go on. */
export function HandOverStep({
  sequenceId,
  step,
  onChange,
}: {
  sequenceId: number
  step: Step
  onChange: (change: Partial<Step>) => void
}) {
  const { data } = useQuery({ queryKey: ['sequences'], queryFn: async () => (await ask(api.GET('/api/sequences'))).sequences })
  const others = (data ?? []).filter((one) => one.id !== sequenceId && !['stopped', 'ended'].includes(one.state))
  const chosen = others.find((one) => one.id === step.sequence_id)
  return (
    <div className="grid gap-3 mb-3">
      <Select
        label="Over to"
        value={step.sequence_id ?? ''}
        options={others.map((one) => ({ value: one.id, words: one.state === 'draft' ? `${one.name} (a draft)` : one.name }))}
        onChange={(id) => onChange({ sequence_id: Number(id) })}
      />
      <label className="flex gap-2 items-center">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={step.stays ?? false}
          onChange={(event) => onChange({ stays: event.target.checked })}
        />
        They stay in this one too
      </label>
      {chosen?.state === 'draft' && <p className="muted text-xs">Nobody is handed over before that one has been started.</p>}
    </div>
  )
}
