import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'
import { useSession } from '../../../app/session'
import { stale } from '../../../app/stale'
import { Select } from '../../../parts/Select'
import { ErrorNote } from '../../../parts/States'
import { NewList } from '../steps/NewList'
import type { Wanted } from './answers'

type Catalogue = Shape<'Catalogue'>
type Option = { value: string | number; words: string }
type FieldType = Shape<'OwnFieldInput'>['type']
const OPEN = ''

/** Chooses what stands here for something of the other firm, or makes it. */
export function WhatStandsForIt({
  wanted,
  value,
  catalogue,
  onChange,
}: {
  wanted: Wanted
  value: string | number | null
  catalogue: Catalogue
  onChange: (value: string | number | null) => void
}) {
  const outcomes = useQuery({
    queryKey: ['own-words', 'outcomes'],
    queryFn: async () => (await ask(api.GET('/api/own-words/{kind}', { params: { path: { kind: 'outcomes' } } }))).words,
    enabled: wanted.kind === 'outcomes',
  })
  const options = optionsOf(wanted, catalogue, outcomes.data ?? [])
  return (
    <>
      <Select
        label={wanted.open ? 'Or leave it open for now' : 'Here it is'}
        value={value ?? OPEN}
        options={[...options, ...(wanted.open ? [{ value: 'open', words: 'left open; the step says so' }] : [])]}
        onChange={(picked) =>
          onChange(picked === 'open' ? null : (options.find((one) => String(one.value) === picked)?.value ?? null))
        }
      />
      {wanted.kind === 'lists' && <NewList name={wanted.words} onMade={onChange} />}
      {wanted.kind === 'fields' && <NewField wanted={wanted} catalogue={catalogue} onMade={onChange} />}
      {wanted.kind === 'stages' && <NewStage words={wanted.words} catalogue={catalogue} onMade={onChange} />}
    </>
  )
}

function optionsOf(wanted: Wanted, catalogue: Catalogue, outcomes: { key: string; words: string }[]): Option[] {
  const named = (all: { id: number; name: string }[]) => all.map((one) => ({ value: one.id, words: one.name }))
  const worded = (all: { key: string; words: string }[]) => all.map((one) => ({ value: one.key, words: one.words }))
  const { subject, type } = (wanted.about ?? {}) as { subject?: string; type?: string }
  switch (wanted.kind) {
    case 'fields':
      return catalogue.fields
        .filter((field) => field.subject === subject && field.type === type && !field.retired)
        .map((field) => ({ value: field.key, words: field.label }))
    case 'colleagues':
      return named(catalogue.colleagues)
    case 'lists':
      return named(catalogue.lists)
    case 'sequences':
      return named(catalogue.sequences)
    case 'letters':
      return named(catalogue.letters)
    case 'stages':
      return worded(catalogue.stages)
    case 'statuses':
      return worded(catalogue.statuses)
    default:
      return worded(outcomes)
  }
}

/** Makes what is not there; an admin may. */
function Make({ words, onMake, error, busy }: { words: string; onMake: () => void; error: unknown; busy: boolean }) {
  const { account } = useSession()
  if (account.role !== 'admin') return <p className="muted text-xs mt-2">An admin can make one under Settings.</p>
  return (
    <p className="mt-2">
      <button type="button" className="btn btn-sm btn-plain" disabled={busy} onClick={onMake}>
        {words}
      </button>
      {error != null && <ErrorNote error={error} />}
    </p>
  )
}

/** A field of this name and kind. It is there as soon as its column is made, some seconds later. */
function NewField({ wanted, catalogue, onMade }: { wanted: Wanted; catalogue: Catalogue; onMade: (key: string) => void }) {
  const client = useQueryClient()
  const about = (wanted.about ?? {}) as { subject?: 'person' | 'company'; type?: string; choices?: string[] }
  const make = useMutation({
    mutationFn: async () => {
      await ask(
        api.POST('/api/fields', {
          body: { label: wanted.words, subject: about.subject, type: about.type as FieldType, choices: about.choices },
        }),
      )
      return waitFor(async () => {
        const fields = (await ask(api.GET('/api/catalogue'))).fields
        return fields.find((field) => field.subject === about.subject && field.label === wanted.words)?.key
      })
    },
    onSuccess: (key) => {
      stale(client, 'fields')
      onMade(key)
    },
  })
  if (catalogue.fields.some((field) => field.subject === about.subject && field.label === wanted.words)) return null
  return (
    <Make
      words={make.isPending ? 'Making it…' : `Make the field “${wanted.words}”`}
      onMake={() => make.mutate()}
      error={make.error}
      busy={make.isPending}
    />
  )
}

const EVERY_MS = 500
const MOST_TRIES = 60

async function waitFor(look: () => Promise<string | undefined>): Promise<string> {
  for (let tries = 0; tries < MOST_TRIES; tries += 1) {
    const found = await look()
    if (found) return found
    await new Promise((done) => setTimeout(done, EVERY_MS))
  }
  throw new Error('The field is not there yet. Try again in a moment.')
}

/** A stage of this name, before those at which a deal is over. */
function NewStage({ words, catalogue, onMade }: { words: string; catalogue: Catalogue; onMade: (key: string) => void }) {
  const client = useQueryClient()
  const make = useMutation({
    mutationFn: async () => {
      const stages = (await ask(api.GET('/api/stages'))).stages.map(({ key, words, outcome }) => ({ key, words, outcome }))
      const open = stages.filter((stage) => stage.outcome === 'open')
      const over = stages.filter((stage) => stage.outcome !== 'open')
      const body = { stages: [...open, { key: null, words, outcome: 'open' as const }, ...over] }
      return (await ask(api.PUT('/api/stages', { body }))).stages.find((stage) => stage.words === words)?.key ?? ''
    },
    onSuccess: (key) => {
      stale(client, 'stages')
      onMade(key)
    },
  })
  if (catalogue.stages.some((stage) => stage.words === words)) return null
  return <Make words={`Make the stage “${words}”`} onMake={() => make.mutate()} error={make.error} busy={make.isPending} />
}
