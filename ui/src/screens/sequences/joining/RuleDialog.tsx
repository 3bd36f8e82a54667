import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { stale } from '../../../app/stale'
import { useCatalogue } from '../../../app/useCatalogue'
import { Modal } from '../../../parts/Modal'
import { Select } from '../../../parts/Select'
import { ErrorNote } from '../../../parts/States'
import { AudienceEditor } from '../AudienceEditor'
import { Outlook } from './Outlook'
import { FieldRule, ListRule, TagRule, YearlyRule } from './RuleParts'
import { beginning, KINDS, type Kind, READY, type Settings } from './rules'

type Rule = Shape<'JoinRule'>
type Draft = { kind: Kind; settings: Settings; again: string; gap_days: number; now_too: boolean }

/** One rule of joining: what makes somebody join, whether again, and whom it would take in. */
export function RuleDialog({ sequence, rule, onClose }: { sequence: Shape<'Sequence'>; rule: Rule | null; onClose: () => void }) {
  const client = useQueryClient()
  const { data: catalogue } = useCatalogue()
  const [draft, setDraft] = useState<Draft>(() =>
    rule
      ? { kind: rule.kind as Kind, settings: rule.settings, again: rule.again, gap_days: rule.gap_days, now_too: rule.now_too }
      : { kind: 'tag', settings: {}, again: 'never', gap_days: 0, now_too: false },
  )
  const say = (settings: Settings) => setDraft({ ...draft, settings })
  const saved = () => {
    stale(client, 'joining')
    stale(client, 'tags')
    onClose()
  }
  const save = useMutation({
    mutationFn: async () => {
      const { kind, ...rest } = draft
      const body = { ...rest, again: rest.again as 'never', ...(KINDS[kind].nowToo ? {} : { now_too: false }) }
      if (rule)
        return ask(
          api.PATCH('/api/join-rules/{id}', { params: { path: { id: rule.id } }, body: { ...body, version: rule.version } }),
        )
      return ask(
        api.POST('/api/sequences/{id}/joining', {
          params: { path: { id: sequence.id } },
          body: { ...body, kind, live: true },
        }),
      )
    },
    onSuccess: saved,
  })
  const drop = useMutation({
    mutationFn: (id: number) => ask(api.DELETE('/api/join-rules/{id}', { params: { path: { id } } })),
    onSuccess: saved,
  })
  const ready = READY[draft.kind](draft.settings)
  const error = save.error ?? drop.error
  if (!catalogue) return null
  return (
    <Modal wide={draft.kind === 'filter'} title="Who joins by themselves" onClose={onClose}>
      <div className="grid gap-3">
        {!rule && (
          <Select
            label="Joins"
            value={draft.kind}
            options={Object.entries(KINDS).map(([value, { words }]) => ({ value, words }))}
            onChange={(kind) => setDraft({ ...draft, kind: kind as Kind, settings: beginning(kind as Kind) })}
          />
        )}
        {rule && <p className="font-serif text-lg">{KINDS[draft.kind]?.words ?? rule.words}</p>}
        {draft.kind === 'tag' && <TagRule settings={draft.settings} onChange={say} />}
        {draft.kind === 'list' && <ListRule settings={draft.settings} catalogue={catalogue} onChange={say} />}
        {draft.kind === 'field' && <FieldRule settings={draft.settings} catalogue={catalogue} onChange={say} />}
        {draft.kind === 'yearly' && <YearlyRule settings={draft.settings} catalogue={catalogue} onChange={say} />}
        {draft.kind === 'filter' && (
          <AudienceEditor audience={draft.settings.audience ?? {}} onChange={(audience) => say({ audience })} />
        )}
        {/* A tag that is still to be made is nobody's yet. */}
        {ready && !draft.settings.tag && <Outlook sequence={sequence} kind={draft.kind} settings={draft.settings} />}
        {KINDS[draft.kind]?.nowToo && (
          <fieldset>
            <legend className="field-label">When it is switched on</legend>
            {[true, false].map((nowToo) => (
              <label key={String(nowToo)} className="flex gap-2 items-center py-0.5">
                <input
                  type="radio"
                  className="radio radio-xs"
                  checked={draft.now_too === nowToo}
                  onChange={() => setDraft({ ...draft, now_too: nowToo })}
                />
                {nowToo ? 'those join too of whom it is true already' : 'only those join of whom it becomes true from then on'}
              </label>
            ))}
          </fieldset>
        )}
        {draft.kind !== 'yearly' && (
          <Again again={draft.again} gap={draft.gap_days} onChange={(next) => setDraft({ ...draft, ...next })} />
        )}
        {error && <ErrorNote error={error} />}
      </div>
      <div className="flex gap-2 mt-4">
        {rule && (
          <button type="button" className="btn btn-sm btn-plain" disabled={drop.isPending} onClick={() => drop.mutate(rule.id)}>
            Take this rule away
          </button>
        )}
        <span className="grow" />
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={!ready || save.isPending}
          onClick={() => save.mutate()}
        >
          {rule ? 'Keep it' : 'They join'}
        </button>
      </div>
    </Modal>
  )
}

function Again({
  again,
  gap,
  onChange,
}: {
  again: string
  gap: number
  onChange: (next: { again: string; gap_days: number }) => void
}) {
  return (
    <div className="flex gap-3 items-end">
      <div className="grow">
        <Select
          label="Somebody who was in it before"
          value={again}
          options={[
            { value: 'never', words: 'does not join again' },
            { value: 'finished', words: 'joins again once they have come to its end' },
            { value: 'every', words: 'joins again every time' },
          ]}
          onChange={(value) => onChange({ again: value, gap_days: value === 'every' ? gap || 30 : 0 })}
        />
      </div>
      {again === 'every' && (
        <label>
          <span className="field-label">Days between, at least</span>
          <input
            type="number"
            min={0}
            max={3650}
            className="text-field !w-28"
            value={gap}
            onChange={(event) => onChange({ again, gap_days: Math.max(0, Math.trunc(Number(event.target.value))) })}
          />
        </label>
      )}
    </div>
  )
}
