import { useEffect, useRef, useState } from 'react'
import type { Shape } from '../../../api/client'
import { number } from '../../../app/format'
import { OpensPeople } from '../../people/behind/OpensPeople'
import { AudienceEditor } from '../../sequences/AudienceEditor'
import { AudienceSieve } from '../../sequences/plan/PlanLine'
import { behindAudience } from './behindAudience'

type Audience = Shape<'Audience'>

/** How many get it of how many who match; both open their people. */
export function Reach({ audience, sieve }: { audience: Audience; sieve: Shape<'Sequence'>['sieve'] }) {
  return (
    <>
      <OpensPeople
        title="Would get it"
        count={sieve.would_get_it}
        queryKey={['sieve', audience, 'would_get_it']}
        load={behindAudience(audience, 'would_get_it')}
      >
        {number(sieve.would_get_it)}
      </OpensPeople>{' '}
      of{' '}
      <OpensPeople
        title="Match"
        count={sieve.matching}
        queryKey={['sieve', audience, 'matching']}
        load={behindAudience(audience, 'matching')}
      >
        {number(sieve.matching)}
      </OpensPeople>
    </>
  )
}

/** Said when others get it than when the page was opened, though nobody changed whom it is for. */
export function Moved({ sequence }: { sequence: Shape<'Sequence'> }) {
  const { would_get_it: now } = sequence.sieve
  // What is changed here is shown before it is counted; with the new version the count is that of what was changed.
  const { version } = sequence
  const whom = JSON.stringify(sequence.audience)
  const [seen, setSeen] = useState({ whom, version, people: now })
  const same = seen.whom === whom && seen.version === version
  useEffect(() => {
    if (!same) setSeen({ whom, version, people: now })
  }, [same, whom, version, now])
  if (!same || seen.people === now) return null
  return (
    <p role="status" className="bg-[var(--personal)] px-3 py-1.5 mb-2 flex gap-3 items-baseline">
      <span className="grow">
        It is {number(now)} now who would get it; it was {number(seen.people)} when you looked first.
      </span>
      <button type="button" className="btn btn-xs btn-plain" onClick={() => setSeen({ whom, version, people: now })}>
        Fine
      </button>
    </p>
  )
}

/** To whom it goes, as a sentence that is changed in place; the sieve beside it follows. */
export function ToWhom({
  audience,
  said,
  onChange,
  onDone,
}: {
  audience: Audience
  /** Whether anybody is meant by it yet. */
  said: boolean
  onChange: (audience: Audience) => void
  onDone: () => void
}) {
  const [draft, setDraft] = useState(audience)
  const section = useRef<HTMLElement>(null)
  // With keys one goes on in it, and is back where one opened it when it is shut.
  useEffect(() => {
    const opener = document.activeElement
    section.current?.querySelector<HTMLElement>('input, button')?.focus()
    return () => {
      if (opener instanceof HTMLElement) opener.focus()
    }
  }, [])
  return (
    <section
      ref={section}
      aria-label="To whom"
      className="border border-base-300 rounded-sm p-4 mb-4"
      onKeyDown={(event) => event.key === 'Escape' && onDone()}
    >
      <div className="grid grid-cols-[minmax(0,1fr)_266px] gap-6">
        <AudienceEditor
          audience={draft}
          sentenceFirst={!said}
          onChange={(next) => {
            setDraft(next)
            onChange(next)
          }}
        />
        <AudienceSieve audience={draft} />
      </div>
      <p className="text-right mt-3">
        <button type="button" className="btn btn-sm btn-primary" onClick={onDone}>
          Done
        </button>
      </p>
    </section>
  )
}
