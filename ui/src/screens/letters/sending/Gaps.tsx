import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { number, plural } from '../../../app/format'
import { OpensPeople } from '../../people/behind/OpensPeople'
import { useSieve } from '../../people/table/usePeople'
import { MendGap } from '../../stack/MendGap'
import { useChecks } from '../reading/ChecksPane'
import { ReadersBehind } from '../reading/ReadersBehind'
import { behindAudience } from './behindAudience'
import type { LetterStep } from './oneLetter'

const ROW = 'flex items-baseline gap-3 border-b border-base-300 py-2'

/** The next one is shown once the list has been read again. */
const NEXT_COMES = () => {}

/** The gap of one letter after the other, until none is left or somebody has had enough. */
function Filling({ stepId, onEnd }: { stepId: number; onEnd: () => void }) {
  const { data } = useQuery({
    queryKey: ['stack', stepId, 'gaps', 0],
    queryFn: () => ask(api.GET('/api/steps/{id}/stack', { params: { path: { id: stepId }, query: { only: 'gaps', from: 0 } } })),
  })
  const row = data?.rows[0]
  if (!data) return null
  if (!row) return <p className="muted py-2">Every gap is filled.</p>
  return <OneGap key={row.person_id} stepId={stepId} personId={row.person_id} onEnd={onEnd} />
}

function OneGap({ stepId, personId, onEnd }: { stepId: number; personId: number; onEnd: () => void }) {
  const { data } = useQuery({
    queryKey: ['stack', stepId, 'letter', personId],
    queryFn: () => ask(api.GET('/api/steps/{id}/stack/{person_id}', { params: { path: { id: stepId, person_id: personId } } })),
  })
  const gap = data?.gaps[0]
  if (!gap) return null
  return <MendGap key={gap.field} stepId={stepId} personId={personId} field={gap.field} onClose={onEnd} onDone={NEXT_COMES} />
}

/** The fields that are empty, each opening those who lack it. */
function Lacking({ letterId, sequenceId }: { letterId: number; sequenceId: number }) {
  const { data: checks } = useChecks(letterId, sequenceId)
  const gaps = (checks?.advice ?? []).flatMap(({ code, field, ...gap }) => (code === 'gap' && field ? [{ ...gap, field }] : []))
  return (
    <span className="muted text-[13px]">
      {gaps.map((gap, i) => (
        <span key={gap.field}>
          {i > 0 && ', '}
          <ReadersBehind
            letterId={letterId}
            sequenceId={sequenceId}
            asked={{ gap: gap.field }}
            title={gap.words}
            count={gap.count ?? 0}
          >
            no {gap.excerpt}
          </ReadersBehind>
        </span>
      ))}
    </span>
  )
}

/** Those who match and do not get it, by what keeps them. */
function NotThey({ audience, sieve }: { audience: Shape<'Audience'>; sieve: Shape<'Sieve'> }) {
  const reasons = sieve.stages.flatMap((stage) => stage.reasons).filter((reason) => reason.count > 0)
  const without = reasons.reduce((sum, reason) => sum + reason.count, 0)
  if (without === 0) return null
  return (
    <p className={ROW}>
      <strong className="font-semibold whitespace-nowrap">{plural(without, 'does not get it', 'do not get it')}</strong>
      <span className="muted text-[13px]">
        {reasons.map((reason, i) => (
          <span key={reason.key}>
            {i > 0 && ', '}
            <OpensPeople
              title={reason.words}
              count={reason.count}
              queryKey={['sieve', audience, reason.key]}
              load={behindAudience(audience, reason.key)}
            >
              {number(reason.count)} {reason.words}
            </OpensPeople>
          </span>
        ))}
      </span>
    </p>
  )
}

/** Who has a gap, who does not get it, and what is missing before it can go. */
export function Gaps({
  sequenceId,
  step,
  ready,
  audience,
  onSendOthers,
}: {
  sequenceId: number
  step: LetterStep
  ready: Shape<'Ready'>
  audience: Shape<'Audience'>
  onSendOthers: () => void
}) {
  const [filling, setFilling] = useState(false)
  const { data: sieve } = useSieve(audience)
  const gap = ready.remarks.find((remark) => remark.code === 'gaps')
  const others = ready.letters - ready.waiting
  const inTheWay = ready.remarks.filter((remark) => remark.blocking && remark.code !== 'gaps')
  return (
    <section aria-label="Before it goes" className="mt-3">
      {inTheWay.map((remark) => (
        <p key={`${remark.code}${remark.words}`} className={ROW}>
          <span className="text-error grow">{remark.words}</span>
        </p>
      ))}
      {gap && (
        <>
          <p className={ROW}>
            <Link to={`/stack/${step.id}?gaps`} className="text-error font-semibold hover:underline">
              {plural(ready.gaps, 'has a gap', 'have a gap')}
            </Link>
            <Lacking letterId={step.letter_id} sequenceId={sequenceId} />
            <span className="grow" />
            <button type="button" className="word" onClick={() => setFilling(!filling)}>
              Fill
            </button>
            {others > 0 && (
              <>
                <span className="muted">·</span>
                <button type="button" className="word" onClick={onSendOthers}>
                  Send the other {number(others)}
                </button>
              </>
            )}
          </p>
          {filling && <Filling stepId={step.id} onEnd={() => setFilling(false)} />}
        </>
      )}
      {sieve && <NotThey audience={audience} sieve={sieve} />}
    </section>
  )
}
