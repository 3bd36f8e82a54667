import type { Shape } from '../../../api/client'
import { useCatalogue } from '../../../app/useCatalogue'
import { Select } from '../../../parts/Select'
import { useTyped } from '../../../parts/useTyped'
import { ActFields } from '../../people/acting/ActFields'
import { NewList } from './NewList'

type Step = Shape<'Step'>
type What = NonNullable<Step['what']>
const WHAT: { value: What; words: string }[] = [
  { value: 'tag', words: 'Tag them' },
  { value: 'untag', words: 'Take a tag off' },
  { value: 'list', words: 'Put them on a list' },
  { value: 'unlist', words: 'Take them off a list' },
  { value: 'field', words: 'Set a field' },
  { value: 'owner', words: 'Give them to an owner' },
  { value: 'standing', words: 'Set their standing' },
  { value: 'stage', words: 'Move their deal to a stage' },
  { value: 'status', words: 'Set their status in this sequence' },
]
const TAGS: (What | undefined)[] = ['tag', 'untag']
const OWN: What[] = ['tag', 'untag', 'stage', 'status']
const BEGUN: Partial<Record<What, Record<string, unknown>>> = { tag: { names: [] }, untag: { names: [] } }

/** What is changed about them, and to what. */
export function ChangeStep({ step, onChange }: { step: Step; onChange: (change: Partial<Step>) => void }) {
  const { data: catalogue } = useCatalogue()
  const to = (step.to ?? {}) as Record<string, unknown>
  if (!catalogue) return null
  return (
    <div className="grid gap-3 mb-3">
      <Select
        label="What is changed"
        value={step.what ?? ''}
        options={WHAT}
        onChange={(what) => onChange({ what: what as What, to: BEGUN[what as What] ?? {} })}
      />
      {step.what === 'stage' && (
        <Select
          label="Stage"
          value={String(to.stage ?? '')}
          options={catalogue.stages.map((one) => ({ value: one.key, words: one.words }))}
          onChange={(stage) => onChange({ to: { stage } })}
        />
      )}
      {step.what === 'status' && (
        <Select
          label="Status"
          value={String(to.status ?? '')}
          options={catalogue.statuses.map((one) => ({ value: one.key, words: one.words }))}
          onChange={(status) => onChange({ to: { status } })}
        />
      )}
      {TAGS.includes(step.what) && (
        <TagNames
          key={step.what}
          names={(to.names as string[] | undefined) ?? []}
          known={catalogue.tags}
          onChange={(names) => onChange({ to: { names } })}
        />
      )}
      {step.what && !OWN.includes(step.what) && (
        <ActFields
          act={{ ...to, kind: step.what } as Shape<'Act'>}
          catalogue={catalogue}
          onChange={({ kind: _kind, ...changed }) => onChange({ to: changed })}
        />
      )}
      {step.what === 'list' && <NewList onMade={(list_id) => onChange({ to: { list_id } })} />}
      {step.what === 'stage' && (
        <p className="muted text-xs">Of the deal that a letter to them would speak of; with none they pass it by.</p>
      )}
    </div>
  )
}

/** Tags with commas between, kept when one leaves the field; a new one is made by it. */
function TagNames({ names, known, onChange }: { names: string[]; known: string[]; onChange: (names: string[]) => void }) {
  const { text, type, leave } = useTyped(names.join(', '))
  return (
    <label>
      <span className="field-label">Tags, with commas between</span>
      <input
        className="text-field"
        list="known-tags"
        value={text}
        onChange={(event) => type(event.target.value)}
        onBlur={() => {
          leave()
          const said = text.split(',').flatMap((name) => name.trim() || [])
          if (said.join() !== names.join()) onChange(said)
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
      <datalist id="known-tags">
        {known.map((tag) => (
          <option key={tag} value={tag} />
        ))}
      </datalist>
    </label>
  )
}
