import { useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'
import { useCatalogue } from '../../../app/useCatalogue'
import { useTyped } from '../../../parts/useTyped'

type Step = Shape<'Step'>

/** What a colleague is to do, whose it is, by when, and what may come of it. */
export function TaskStep({ step, onChange }: { step: Step; onChange: (change: Partial<Step>) => void }) {
  const { data: catalogue } = useCatalogue()
  const { data: outcomes } = useQuery({
    queryKey: ['own-words', 'outcomes'],
    queryFn: async () => (await ask(api.GET('/api/own-words/{kind}', { params: { path: { kind: 'outcomes' } } }))).words,
  })
  const words = useTyped(step.words ?? '')
  const due = useTyped(String(step.due_in ?? 1))
  const chosen = step.outcomes ?? []
  return (
    <div className="grid gap-3 mb-3">
      <label>
        <span className="field-label">What is to be done</span>
        <input
          className="text-field"
          maxLength={300}
          placeholder="Ring and offer a listening visit"
          value={words.text}
          onChange={(event) => words.type(event.target.value)}
          onBlur={() => {
            words.leave()
            if (words.text.trim() !== (step.words ?? '')) onChange({ words: words.text.trim() || null })
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
      </label>
      <div className="flex gap-3">
        <label className="grow">
          <span className="field-label">For whom</span>
          <select
            className="select select-sm w-full bg-[var(--sheet)]"
            value={String(step.of ?? 'owner')}
            onChange={(event) => {
              const of = event.target.value
              onChange({ of: of === 'owner' || of === 'sender' ? of : Number(of) })
            }}
          >
            <option value="owner">the person’s owner</option>
            <option value="sender">whoever they hear from</option>
            {catalogue?.colleagues.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <label className="w-32">
          <span className="field-label">Working days for it</span>
          <input
            type="number"
            min={0}
            max={260}
            className="text-field"
            value={due.text}
            onBlur={due.leave}
            onChange={(event) => {
              due.type(event.target.value)
              if (event.target.value !== '')
                onChange({ due_in: Math.min(260, Math.max(0, Math.trunc(Number(event.target.value)))) })
            }}
          />
        </label>
      </div>
      <label className="flex gap-2 items-center">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={step.waits ?? true}
          onChange={(event) => onChange({ waits: event.target.checked })}
        />
        The sequence waits until it is done
      </label>
      {outcomes && outcomes.length > 0 && (
        <fieldset>
          <legend className="field-label">What may come of it; none ticked is any of them</legend>
          {outcomes.map((one) => (
            <label key={one.key} className="flex gap-2 items-center py-1">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={chosen.includes(one.key)}
                onChange={(event) =>
                  onChange({ outcomes: event.target.checked ? [...chosen, one.key] : chosen.filter((key) => key !== one.key) })
                }
              />
              {one.words}
            </label>
          ))}
        </fieldset>
      )}
    </div>
  )
}
