import type { Shape } from '../../api/client'
import { moment, number } from '../../app/format'
import { useSession } from '../../app/session'

/** The account from "match" to "would get it". Each number opens its people. */
export function SievePanel({ sieve, onOpen }: { sieve: Shape<'Sieve'>; onOpen: (part: string, words: string) => void }) {
  const { firm } = useSession()
  const width = (count: number) => `${sieve.matching === 0 ? 60 : Math.max(38, (count / sieve.matching) * 100)}%`
  const bar = (part: string, count: number, words: string, tone: string) => (
    <button
      type="button"
      className={`block mx-auto h-6 text-white text-xs font-semibold ${tone} hover:brightness-110`}
      style={{ width: width(count) }}
      onClick={() => onOpen(part, words)}
    >
      {number(count)} {words}
    </button>
  )
  return (
    <section aria-label="Who a letter would reach">
      <h2 className="mb-2">Who a letter would reach</h2>
      {bar('matching', sieve.matching, 'match', 'bg-[#0e5a55]')}
      {sieve.stages.map((stage, i) => (
        <div key={stage.key}>
          {stage.reasons.map((reason) => (
            <button
              key={reason.key}
              type="button"
              disabled={reason.count === 0}
              className="flex w-full justify-between px-0.5 py-0.5 min-h-6 text-[13px] enabled:hover:bg-base-200"
              onClick={() => onOpen(reason.key, reason.words)}
            >
              <span className="muted">{reason.words}</span>
              <span className={reason.count > 0 ? 'text-error font-semibold' : 'muted'}>{number(reason.count)}</span>
            </button>
          ))}
          {i === sieve.stages.length - 1
            ? bar('would_get_it', stage.left, 'would get it', 'bg-[#4c7031]')
            : bar(stage.key, stage.left, stage.words, 'bg-[#0e5a55]')}
        </div>
      ))}
      <p className="muted text-xs mt-3">
        Click a number to see who, and mend the record there. As of {moment(sieve.as_of, firm.time_zone)}.
      </p>
    </section>
  )
}
