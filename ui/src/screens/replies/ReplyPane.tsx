import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { moment, money } from '../../app/format'
import { useSession } from '../../app/session'
import { useCreate } from '../../app/useCreate'
import { useDraft } from '../../app/useDraft'
import { Modal } from '../../parts/Modal'
import { SentLetterPage } from '../../parts/SentLetterPage'
import { ErrorNote } from '../../parts/States'
import { AddOne } from '../sequences/members/AddOne'
import type { Sort } from './sorts'

type Reply = Shape<'Reply'>
const SORTS: { key: Sort; words: string; hint: string }[] = [
  { key: 'interested', words: 'Interested', hint: 'I' },
  { key: 'later', words: 'Later', hint: 'L' },
  { key: 'no', words: 'No', hint: 'X' },
  { key: 'done', words: 'Done', hint: 'D' },
]

function ConversionDialog({ reply, onClose }: { reply: Reply; onClose: () => void }) {
  const client = useQueryClient()
  const [draft, setDraft, sent] = useDraft(`conversion ${reply.id}`, { label: 'visit booked', pounds: '' })
  const { label, pounds } = draft
  const record = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/replies/{id}/conversion', {
          params: { path: { id: reply.id } },
          body: { label, value_pence: Math.round(Number(pounds || 0) * 100) },
        }),
      ),
    onSuccess: () => {
      sent()
      client.invalidateQueries()
      onClose()
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    record.mutate()
  }
  return (
    <Modal title="Record a conversion" onClose={onClose}>
      <form onSubmit={submit}>
        {record.error && <ErrorNote error={record.error} />}
        <label className="block mb-3">
          <span className="field-label">What it brought</span>
          <input
            className="text-field"
            required
            maxLength={120}
            value={label}
            onChange={(event) => setDraft({ ...draft, label: event.target.value })}
          />
        </label>
        <label className="block">
          <span className="field-label">Worth, in pounds</span>
          <input
            className="text-field"
            type="number"
            min={0}
            step="0.01"
            placeholder="0"
            value={pounds}
            onChange={(event) => setDraft({ ...draft, pounds: event.target.value })}
          />
        </label>
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
            Not now
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={record.isPending}>
            Record it
          </button>
        </div>
      </form>
    </Modal>
  )
}

/** One reply: who, to what, the words without quotes, and what to do with it. */
export function ReplyPane({ reply, onSort }: { reply: Reply; onSort: (to: Sort) => void }) {
  const { firm } = useSession()
  const [letter, setLetter] = useState<number | null>(null)
  const [converting, setConverting] = useState(false)
  const [adding, setAdding] = useState(false)
  const create = useCreate()
  const answers = reply.answers
  return (
    <section aria-label="The reply">
      <div className="flex items-baseline gap-3">
        <h2 className="text-xl">
          {reply.person_id ? (
            <Link to={`/people/${reply.person_id}`} className="hover:underline">
              {reply.name}
            </Link>
          ) : (
            reply.name
          )}
        </h2>
        <span className="muted">{reply.company ?? reply.from_address}</span>
        <span className="grow" />
        <span className="muted text-xs">{moment(reply.received_at, firm.time_zone)}</span>
      </div>
      <p className="muted mb-3">
        {answers ? (
          <>
            Answers{' '}
            <button type="button" className="underline underline-offset-2" onClick={() => setLetter(answers.delivery_id ?? null)}>
              “{answers.letter}”
            </button>
            , step {answers.step} of{' '}
            <Link to={`/sequences/${answers.sequence_id}`} className="underline underline-offset-2">
              {answers.sequence}
            </Link>
          </>
        ) : reply.kind === 'unmatched' ? (
          'Nobody with this address is in the records, and it answers none of our letters.'
        ) : (
          'Matched by the address.'
        )}
      </p>
      <article className="sheet letter-text px-9 py-7 whitespace-pre-wrap">{reply.text}</article>
      {reply.member && (
        <p className="mt-3">
          <span className="muted">In the sequence: </span>
          <strong className="font-semibold text-success">{reply.member.status_words}</strong>
          {reply.member.state === 'left' && <span className="muted"> · taken out, no further letter goes</span>}
          {reply.member.state === 'finished' && <span className="muted"> · had gone through it</span>}
          {reply.member.state === 'active' && <span className="muted"> · still in it</span>}
        </p>
      )}
      {reply.conversion && (
        <p className="mt-1 text-success font-semibold">
          Converted: {reply.conversion.label}, {money(reply.conversion.value_pence)}
        </p>
      )}
      <div className="flex flex-wrap gap-2 mt-4 items-center">
        {SORTS.map((sort) => (
          <button
            key={sort.key}
            type="button"
            aria-pressed={reply.sort === sort.key}
            className={`btn btn-sm btn-plain ${reply.sort === sort.key ? '!border-primary text-primary' : ''}`}
            onClick={() => onSort(sort.key)}
          >
            {sort.words} <kbd className="key">{sort.hint}</kbd>
          </button>
        ))}
      </div>
      <div className="flex flex-wrap gap-2 mt-3 items-center">
        {reply.person_id && (
          <button
            type="button"
            className="btn btn-sm btn-plain"
            disabled={create.letter.isPending}
            onClick={() => create.letter.mutate({ audience: { people: [reply.person_id ?? 0] } })}
          >
            Write to {reply.name?.split(' ')[0] ?? 'them'}…
          </button>
        )}
        {reply.person_id && (
          <button type="button" className="btn btn-sm btn-plain" onClick={() => setAdding(true)}>
            Add to a sequence…
          </button>
        )}
        {reply.person_id && !reply.conversion && (
          <button type="button" className="btn btn-sm btn-primary" onClick={() => setConverting(true)}>
            Record a conversion…
          </button>
        )}
      </div>
      {adding && reply.person_id && (
        <AddOne person={{ id: reply.person_id, name: reply.name ?? 'them' }} onClose={() => setAdding(false)} />
      )}
      {letter !== null && (
        <SentLetterPage
          id={letter}
          load={() => ask(api.GET('/api/deliveries/{id}', { params: { path: { id: letter } } }))}
          onClose={() => setLetter(null)}
        />
      )}
      {converting && <ConversionDialog reply={reply} onClose={() => setConverting(false)} />}
    </section>
  )
}
