import { useEffect, useRef, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import type { Shape } from '../../api/client'
import { inTheWay } from '../../app/away'
import { clock, moment, number } from '../../app/format'
import { useKeys } from '../../app/keys'
import { useSession } from '../../app/session'
import { classes } from '../../parts/classes'
import { Header, StateBadge } from '../../parts/Header'
import { ErrorNote, Loading } from '../../parts/States'
import { OnItsWay } from '../letters/sending/OnItsWay'
import { oneLetter } from '../letters/sending/oneLetter'
import { SequenceDesk } from '../letters/sending/SequenceDesk'
import { ProposalBar } from './change/ProposalBar'
import { useProposal } from './change/useProposal'
import { SequenceMenu } from './library/SequenceMenu'
import { MembersTab } from './members/MembersTab'
import { PlanTab } from './plan/PlanTab'
import { flat } from './plan/plan'
import { ResultsTab } from './ResultsTab'
import { RehearsalTab } from './rehearsal/RehearsalTab'
import { StartDialog } from './start/StartDialog'
import { StopDialog } from './start/StopDialog'
import { useSequence } from './useSequence'

function Name({ sequence, onChange }: { sequence: Shape<'Sequence'>; onChange: (name: string) => void }) {
  const [name, setName] = useState(sequence.name)
  useEffect(() => setName(sequence.name), [sequence.name])
  return (
    <input
      aria-label="Name of the sequence"
      className={classes(
        'as-wide-as-its-words bg-transparent border-b border-transparent hover:border-base-300',
        'focus:border-primary !outline-none truncate',
      )}
      value={name}
      onChange={(event) => setName(event.target.value)}
      onBlur={() => (name.trim() && name !== sequence.name ? onChange(name.trim()) : setName(sequence.name))}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  )
}

/** The plan: a draft is changed as one goes, what is under way is proposed to be another first. */
function Plan({
  sequence,
  change,
  onMembers,
}: {
  sequence: Shape<'Sequence'>
  change: ReturnType<typeof useSequence>['change']
  onMembers: () => void
}) {
  const underWay = sequence.state === 'running' || sequence.state === 'paused'
  const proposal = useProposal(sequence, underWay)
  const [asItRuns, setAsItRuns] = useState(false)
  if (!underWay)
    return (
      <PlanTab
        key={sequence.state}
        sequence={sequence}
        editable={sequence.state === 'draft'}
        error={change.error}
        onChange={change.mutate}
        onMembers={onMembers}
      />
    )
  const { query, discard } = proposal
  const proposed = query.data
  const error = query.error ?? discard.error ?? proposal.change.error
  return (
    <>
      {error && <ErrorNote error={error} retry={query.refetch} />}
      {!proposed && !query.error && <Loading />}
      {!proposed && query.error && (
        <button type="button" className="btn btn-sm btn-plain" onClick={() => discard.mutate(undefined)}>
          Discard what is proposed
        </button>
      )}
      {proposed && (
        <>
          <ProposalBar sequence={proposed} asItRuns={asItRuns} onShow={setAsItRuns} onDiscard={() => discard.mutate(undefined)} />
          <PlanTab
            key={asItRuns ? 'as it runs' : 'proposed'}
            sequence={asItRuns && proposed.proposal?.proposed ? sequence : proposed}
            editable={!(asItRuns && proposed.proposal?.proposed)}
            error={proposal.change.error}
            onChange={proposal.change.mutate}
            onMembers={onMembers}
          />
        </>
      )}
    </>
  )
}

/**
 * What one is shown of a sequence first: of one letter the letter, else the plan. It stays what it was when the page was opened, so that
 * nobody who lays out a plan is led away from it by its first letter.
 */
function useHome(id: number, sequence: Shape<'Sequence'> | undefined): 'letter' | 'plan' {
  const seen = useRef<{ id: number; home: 'letter' | 'plan' } | null>(null)
  if (sequence && seen.current?.id !== id) seen.current = { id, home: sequence.one_letter ? 'letter' : 'plan' }
  return seen.current?.id === id ? seen.current.home : 'plan'
}

/** One sequence: its letter if it is one, its plan, its members, its results. */
export function SequenceScreen() {
  const params = useParams()
  const id = Number(params.id)
  const navigate = useNavigate()
  const { firm } = useSession()
  const { query, change, start, move, notYet } = useSequence(id)
  const [starting, setStarting] = useState(false)
  const [stopping, setStopping] = useState(false)
  const sequence = query.data
  const letter = sequence ? oneLetter(sequence) : null
  const home = useHome(id, sequence)
  const asked = params.tab ?? home
  const tab = asked === 'letter' && !letter ? 'plan' : asked
  const to = (part: string) => (part === home ? `/sequences/${id}` : `/sequences/${id}/${part}`)
  useKeys([
    ...(letter ? [{ key: 'l', words: 'Letter', leaves: true, run: () => navigate(to('letter')) }] : []),
    { key: 'p', words: 'Plan', leaves: true, run: () => navigate(to('plan')) },
    { key: 'h', words: 'Rehearsal', leaves: true, run: () => navigate(`/sequences/${id}/rehearsal`) },
    { key: 'm', words: 'Members', leaves: true, run: () => navigate(`/sequences/${id}/members`) },
    { key: 'r', words: 'Results', leaves: true, run: () => navigate(`/sequences/${id}/results`) },
    ...(sequence?.state === 'draft' && tab !== 'letter' ? [{ key: 's', words: 'Start…', run: () => setStarting(true) }] : []),
  ])
  useEffect(() => {
    if (sequence && (sequence.state !== 'draft' || sequence.start_at)) setStarting(false)
  }, [sequence])
  if (inTheWay(query.error, query.data)) return <ErrorNote error={query.error} retry={query.refetch} />
  if (!sequence) return <Loading />
  // What was sent by hand a moment ago: it can be taken back, on whichever part of the page one is.
  const sent = sequence.state === 'draft' && sequence.undo_seconds != null
  const rehearsable = ['draft', 'running', 'paused'].includes(sequence.state)
  const letters = (of: 'sent' | 'due') =>
    flat(sequence.steps).reduce((sum, { step }) => sum + (step.kind === 'letter' ? step.counts[of] : 0), 0)
  const tabLink = (part: string, words: string) => (
    <Link
      to={to(part)}
      aria-current={part === tab ? 'page' : undefined}
      className={classes(
        'pb-1.5 border-b-2',
        part === tab ? 'border-primary font-semibold' : 'border-transparent muted hover:text-base-content',
      )}
    >
      {words}
    </Link>
  )
  const running = (
    <>
      {sequence.state === 'running' && (
        <button type="button" className="btn btn-sm btn-plain" onClick={() => move.mutate('pause')}>
          Pause
        </button>
      )}
      {sequence.state === 'paused' && (
        <button type="button" className="btn btn-sm btn-primary" onClick={() => move.mutate('resume')}>
          Resume
        </button>
      )}
      {(sequence.state === 'running' || sequence.state === 'paused') && (
        <button type="button" className="btn btn-sm btn-plain" onClick={() => setStopping(true)}>
          Stop…
        </button>
      )}
    </>
  )
  const notices = (
    <>
      {(change.error || move.error || notYet.error) && <ErrorNote error={change.error ?? move.error ?? notYet.error} />}
      {sent && <OnItsWay sequenceId={id} seconds={sequence.undo_seconds ?? 0} onUndo={() => notYet.mutate(undefined)} />}
      {sequence.start_at && !sent && (
        <p className="bg-[var(--merged)] px-3 py-2 mb-3 flex gap-3 items-baseline">
          <span className="grow">
            Starts by itself on <strong className="font-semibold">{moment(sequence.start_at, firm.time_zone)}</strong>. A change
            of the plan takes that off.
          </span>
          <button type="button" className="btn btn-xs btn-plain" onClick={() => notYet.mutate(undefined)}>
            Not then
          </button>
        </p>
      )}
      {sequence.start_refused && (
        <p className="bg-[var(--gap)] px-3 py-2 mb-3">
          <strong className="text-error font-semibold">It did not start at its time.</strong> {sequence.start_refused}
        </p>
      )}
    </>
  )
  const tabs = (
    <nav aria-label="Parts of the sequence" className="flex gap-6 border-b border-base-300 mb-4">
      {letter && tabLink('letter', 'Letter')}
      {tabLink('plan', 'Plan')}
      {rehearsable && tabLink('rehearsal', 'Rehearsal')}
      {tabLink('members', `Members ${number(sequence.state === 'draft' ? 0 : sequence.sieve.matching)}`)}
      {tabLink('results', 'Results')}
    </nav>
  )
  const stop = stopping && (
    <StopDialog
      name={sequence.name}
      sent={letters('sent')}
      due={letters('due')}
      onStop={() => {
        move.mutate('stop')
        setStopping(false)
      }}
      onClose={() => setStopping(false)}
    />
  )
  if (letter && tab === 'letter')
    return (
      <>
        <SequenceDesk
          sequence={sequence}
          step={letter}
          moves={{ change, start }}
          actions={running}
          notices={notices}
          tabs={tabs}
        />
        {stop}
      </>
    )
  return (
    // A plan and its step each scroll for themselves, below what stands above them.
    <div className={tab === 'plan' ? 'h-full flex flex-col [&>*]:shrink-0' : undefined}>
      <Header
        over={{ to: '/sequences', words: 'Sequences' }}
        title={<Name sequence={sequence} onChange={(name) => change.mutate({ name })} />}
        aside={
          <StateBadge
            state={sequence.state}
            more={
              sequence.state === 'draft' && sequence.updated_at
                ? `saved ${clock(sequence.updated_at, firm.time_zone)}`
                : undefined
            }
          />
        }
        actions={
          <>
            <SequenceMenu id={sequence.id} />
            {running}
            {sequence.state === 'draft' && !sent && (
              <button type="button" className="btn btn-sm btn-primary" onClick={() => setStarting(true)}>
                Start…
              </button>
            )}
          </>
        }
      />
      {notices}
      {tabs}
      {tab === 'plan' && <Plan sequence={sequence} change={change} onMembers={() => navigate(`/sequences/${id}/members`)} />}
      {tab === 'rehearsal' && rehearsable && <RehearsalTab sequence={sequence} />}
      {tab === 'members' && <MembersTab sequence={sequence} />}
      {tab === 'results' && <ResultsTab sequence={sequence} />}
      {starting && <StartDialog sequence={sequence} start={start} onClose={() => setStarting(false)} />}
      {stop}
    </div>
  )
}
