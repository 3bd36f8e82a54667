import type { ReactNode } from 'react'
import type { Shape } from '../../../api/client'
import { Choices } from '../../../parts/Choices'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import type { Group, Test } from './conditions'
import { SpanWord } from './SpanWord'

type Catalogue = Shape<'Catalogue'>
type Props<Kind extends Test['kind']> = {
  test: Extract<Test, { kind: Kind }> & { negated: boolean }
  catalogue: Catalogue
  onChange: (test: Extract<Test, { kind: Kind }> & { negated: boolean }) => void
}

function Pick({
  words,
  label,
  items,
  onPick,
}: {
  words: string
  label: string
  items: { value: number; words: string }[]
  onPick: (value: number) => void
}) {
  return (
    <Popover words={words} label={label}>
      {(shut) => (
        <MenuList
          className="w-72"
          items={items}
          onPick={(value) => {
            onPick(value)
            shut()
          }}
        />
      )}
    </Popover>
  )
}

/** A whole number among words. */
export function CountWord({ value, label, onChange }: { value: number; label: string; onChange: (value: number) => void }) {
  return (
    <input
      type="number"
      min={1}
      aria-label={label}
      className="w-12 h-6 leading-6 border-b border-dashed border-primary text-primary bg-transparent px-1"
      value={value}
      onChange={(event) => onChange(Math.max(1, Math.round(Number(event.target.value)) || 1))}
    />
  )
}

/** What somebody got or did: which letter, of which sequence, how often, within what time. */
export function ActivityTest({ test, catalogue, onChange }: Props<'activity'>) {
  const activity = catalogue.activities.find((one) => one.key === test.activity)
  if (!activity) return null
  const letter = catalogue.letters.find((one) => one.id === test.letterId)
  const sequence = catalogue.sequences.find((one) => one.id === test.sequenceId)
  return (
    <>
      <Popover words={test.negated ? activity.negated : activity.words} label="What they did, or did not">
        {(shut) => (
          <MenuList
            className="w-72"
            items={catalogue.activities.flatMap((one) => [
              { value: `${one.key} false`, words: one.words },
              { value: `${one.key} true`, words: one.negated },
            ])}
            onPick={(picked) => {
              const [key = test.activity, negated] = picked.split(' ')
              onChange({ ...test, activity: key, negated: negated === 'true' })
              shut()
            }}
          />
        )}
      </Popover>{' '}
      <Pick
        words={letter ? `“${letter.name}”` : 'any letter'}
        label="Which letter"
        items={[{ value: 0, words: 'any letter' }, ...catalogue.letters.map((one) => ({ value: one.id, words: one.name }))]}
        onPick={(id) => onChange({ ...test, letterId: id || null })}
      />{' '}
      <Popover
        words={sequence ? `of “${sequence.name}”` : test.link || test.atLeast > 1 ? '' : '…'}
        label="Narrow it: sequence, link, how often"
        className={sequence ? 'word' : 'quiet-word'}
      >
        {() => (
          <div className="w-72 grid gap-2">
            <label>
              <span className="field-label">Of the sequence</span>
              <select
                className="select select-sm w-full bg-[var(--sheet)]"
                value={test.sequenceId ?? ''}
                onChange={(event) => onChange({ ...test, sequenceId: Number(event.target.value) || null })}
              >
                <option value="">any</option>
                {catalogue.sequences.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </select>
            </label>
            {test.activity === 'clicked' && (
              <label>
                <span className="field-label">At this link</span>
                <input
                  className="text-field"
                  placeholder="any link"
                  value={test.link ?? ''}
                  onChange={(event) => onChange({ ...test, link: event.target.value.trim() || null })}
                />
              </label>
            )}
            <label>
              <span className="field-label">At least so often</span>
              <input
                type="number"
                min={1}
                className="text-field !w-20"
                value={test.atLeast}
                onChange={(event) => onChange({ ...test, atLeast: Math.max(1, Number(event.target.value) || 1) })}
              />
            </label>
          </div>
        )}
      </Popover>
      {test.link && <span> at the link {test.link}</span>}
      {test.atLeast > 1 && <span> at least {test.atLeast} times</span>} {test.within ? 'in the last ' : 'at '}
      <SpanWord any value={test.within} onChange={(within) => onChange({ ...test, within })} />
    </>
  )
}

/** A place in a sequence, with a status, at a step. */
export function MembershipTest({ test, catalogue, onChange }: Props<'membership'>) {
  const sequence = catalogue.sequences.find((one) => one.id === test.sequenceId)
  const statuses = catalogue.statuses.map((one) => ({ value: one.key, words: one.words }))
  const said = catalogue.memberships.find((one) => one.key === test.membership)
  if (!said) return null
  return (
    <>
      <Popover words={test.negated ? said.negated : said.words} label="Is or was a member">
        {(shut) => (
          <MenuList
            items={catalogue.memberships.flatMap((one) => [
              { value: `${one.key} false`, words: one.words },
              { value: `${one.key} true`, words: one.negated },
            ])}
            onPick={(picked) => {
              const [key = test.membership, negated] = picked.split(' ')
              onChange({ ...test, membership: key, negated: negated === 'true' })
              shut()
            }}
          />
        )}
      </Popover>{' '}
      <Pick
        words={sequence ? `“${sequence.name}”` : 'any sequence'}
        label="Which sequence"
        items={[{ value: 0, words: 'any sequence' }, ...catalogue.sequences.map((one) => ({ value: one.id, words: one.name }))]}
        onPick={(id) => onChange({ ...test, sequenceId: id || null })}
      />{' '}
      <Popover
        words={
          test.status.length > 0
            ? `with the status ${test.status.map((key) => statuses.find((one) => one.value === key)?.words ?? key).join(' or ')}`
            : '…'
        }
        label="With which status, at which step"
        className={test.status.length > 0 ? 'word' : 'quiet-word'}
      >
        {() => (
          <div className="w-56">
            <Choices
              label="status"
              options={statuses}
              chosen={test.status}
              onChange={(status) => onChange({ ...test, status: status.map(String) })}
            />
            <label className="block mt-2">
              <span className="field-label">Next letter is step</span>
              <input
                type="number"
                min={1}
                className="text-field !w-20"
                placeholder="any"
                value={test.step ?? ''}
                onChange={(event) => onChange({ ...test, step: Number(event.target.value) || null })}
              />
            </label>
          </div>
        )}
      </Popover>
      {test.step && <span> at step {test.step}</span>}
      {test.stepId && <span> at one of its steps</span>}
      {test.laneId && <span> in one of its lanes</span>}
    </>
  )
}

/** So many deals of which the rest holds; `where` draws the rest. */
export function DealsTest({
  test,
  onChange,
  where,
}: Omit<Props<'deals'>, 'catalogue'> & { where: (group: Group, onChange: (group: Group) => void) => ReactNode }) {
  return (
    <>
      <button
        type="button"
        className="cursor-pointer hover:text-primary"
        title="Turn into the opposite"
        onClick={() => onChange({ ...test, negated: !test.negated })}
      >
        has {test.negated ? 'fewer than' : 'at least'}
      </button>{' '}
      <CountWord value={test.atLeast} label="How many deals" onChange={(atLeast) => onChange({ ...test, atLeast })} />{' '}
      {test.atLeast === 1 ? 'deal' : 'deals'} {test.where.parts.length > 0 && 'that '}
      {where(test.where, (group) => onChange({ ...test, where: group }))}
    </>
  )
}
