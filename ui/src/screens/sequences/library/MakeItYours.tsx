import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, type ReactNode, useState } from 'react'
import { useNavigate } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { useSession } from '../../../app/session'
import { stale } from '../../../app/stale'
import { useCatalogue } from '../../../app/useCatalogue'
import { Modal } from '../../../parts/Modal'
import { Select } from '../../../parts/Select'
import { ErrorNote, Loading } from '../../../parts/States'
import { type Answers, answered, type Wanted, withAnswer } from './answers'
import { WhatStandsForIt } from './WhatStandsForIt'

export type Source = { starter: string } | { file: Shape<'SequenceFile'> }
type Question = { key: string; title: string; ready: boolean; body: ReactNode }

/** What comes from elsewhere is made one's own: names, mailbox, and what it speaks of, one question after the other. */
export function MakeItYours({ source, onClose }: { source: Source; onClose: () => void }) {
  const client = useQueryClient()
  const navigate = useNavigate()
  const { firm } = useSession()
  const { data: catalogue } = useCatalogue()
  const [at, setAt] = useState(0)
  const [answers, setAnswers] = useState<Answers>({})
  const asks = useQuery({
    queryKey: ['starters', 'asks', source],
    queryFn: async () => (await ask(api.POST('/api/sequences/file', { body: source }))) as Shape<'SequenceAsks'>,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  })
  const make = useMutation({
    mutationFn: async () => (await ask(api.POST('/api/sequences/file', { body: { ...source, answers } }))) as Shape<'Sequence'>,
    onSuccess: (made) => {
      for (const key of ['sequences', 'letters', 'catalogue', 'tags', 'passages', 'pictures'] as const)
        client.invalidateQueries({ queryKey: [key] })
      stale(client, 'tags')
      navigate(`/sequences/${made.id}`)
    },
  })
  if (!asks.data || !catalogue)
    return (
      <Modal title="Make it yours" onClose={onClose}>
        {asks.error ? <ErrorNote error={asks.error} /> : <Loading lines={3} />}
      </Modal>
    )
  const { data } = asks
  const say = (change: Partial<Answers>) => setAnswers({ ...answers, ...change })
  const box = answers.sender?.mailbox_id ?? null
  const kind = answers.sender?.kind ?? (data.sender as Shape<'Sender'>['kind'] | null) ?? 'mailbox'
  const questions: Question[] = [
    {
      key: 'name',
      title: 'What is it called here?',
      ready: (answers.name ?? data.name).trim() !== '',
      body: (
        <>
          <input
            className="text-field"
            data-first
            aria-label="Its name"
            maxLength={160}
            value={answers.name ?? data.name}
            onChange={(event) => say({ name: event.target.value })}
          />
          <p className="muted text-xs mt-2">Its letters come along: {data.letters.join(', ') || 'none'}.</p>
        </>
      ),
    },
    ...(data.firm
      ? [
          {
            key: 'firm',
            title: `The letters speak of “${data.firm}”. What is to stand there?`,
            ready: true,
            body: (
              <input
                className="text-field"
                data-first
                aria-label="Instead of the other firm"
                maxLength={160}
                value={answers.firm ?? firm.name}
                onChange={(event) => say({ firm: event.target.value })}
              />
            ),
          },
        ]
      : []),
    {
      key: 'sender',
      title: 'From which mailbox do they go?',
      ready: true,
      body: (
        <Select
          label="From"
          value={`${kind} ${box ?? ''}`}
          options={[
            ...catalogue.mailboxes.map((one) => ({ value: `mailbox ${one.id}`, words: one.address })),
            ...catalogue.mailboxes.map((one) => ({ value: `owner ${one.id}`, words: `each person’s owner, or ${one.address}` })),
          ]}
          onChange={(value) => {
            const [who = 'mailbox', id] = value.split(' ')
            say({ sender: { kind: who as 'mailbox', mailbox_id: Number(id) } })
          }}
        />
      ),
    },
    ...data.wanted.map((wanted: Wanted) => ({
      key: `${wanted.kind} ${wanted.id}`,
      title: TITLES[wanted.kind]?.(wanted.words) ?? wanted.words,
      ready: wanted.open || answered(answers, wanted) != null,
      body: (
        <WhatStandsForIt
          wanted={wanted}
          value={answered(answers, wanted)}
          catalogue={catalogue}
          onChange={(value) => setAnswers(withAnswer(answers, wanted, value))}
        />
      ),
    })),
    ...data.links.map((link) => ({
      key: `link ${link}`,
      title: 'Where does this link lead here?',
      ready: (answers.links?.[link] ?? link).trim() !== '',
      body: (
        <>
          <p className="muted text-xs break-all mb-1">{link}</p>
          <input
            className="text-field"
            data-first
            aria-label="The address here"
            value={answers.links?.[link] ?? link}
            onChange={(event) => say({ links: { ...answers.links, [link]: event.target.value.trim() } })}
          />
        </>
      ),
    })),
  ]
  const question = questions[Math.min(at, questions.length - 1)]
  if (!question) return null
  const last = at >= questions.length - 1
  const next = (event: FormEvent) => {
    event.preventDefault()
    if (!question.ready) return
    // What is shown is what is said, though nobody touched it.
    if (question.key === 'firm' && answers.firm === undefined) say({ firm: firm.name })
    if (last) make.mutate()
    else setAt(at + 1)
  }
  return (
    <Modal title="Make it yours" onClose={onClose}>
      <form key={question.key} ref={intoFirstField} onSubmit={next}>
        <p className="muted text-xs mb-1" aria-live="polite">
          {at + 1} of {questions.length}
        </p>
        <h3 className="font-serif text-lg mb-2">{question.title}</h3>
        {question.body}
        {make.error && <ErrorNote error={make.error} />}
        <div className="mt-4 flex gap-2">
          <button type="button" className="btn btn-sm btn-plain" disabled={at === 0} onClick={() => setAt(at - 1)}>
            Before
          </button>
          <span className="grow" />
          <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
            Not now
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={!question.ready || make.isPending}>
            {last ? 'Make the sequence' : 'Next'}
          </button>
        </div>
      </form>
    </Modal>
  )
}

/** Each question is answered from where it begins. */
const intoFirstField = (form: HTMLFormElement | null) =>
  form?.querySelector<HTMLElement>('[data-first], input:not([type=hidden]), select, button:not([disabled])')?.focus()

const TITLES: Record<string, (words: string) => string> = {
  fields: (words) => `Which field is “${words}” here?`,
  colleagues: (words) => `Who does here what ${words} does there?`,
  lists: (words) => `Which list is “${words}” here?`,
  sequences: (words) => `Which sequence is “${words}” here?`,
  letters: (words) => `It asks about the letter “${words}”. Which one is that here?`,
  stages: (words) => `Which stage of a deal is “${words}” here?`,
  statuses: (words) => `Which status is “${words}” here?`,
  outcomes: (words) => `Which outcome of a task is “${words}” here?`,
}
