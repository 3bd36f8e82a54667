import type { Shape } from '../api/client'
import { classes } from '../parts/classes'
import { day, moment, plural, clock as timeOf } from './format'
import { NextLetters } from './NextLetters'
import { useSession } from './session'
import { usePostMoves, usePracticeClock } from './usePost'

const HEIGHT = 20
const LINK = 'hover:underline min-h-6 focus-visible:outline-[var(--strip-bar)]'
const HOUR_MS = 3_600_000
// A label that begins later would run into what stands beside the axis.
const LAST_LABEL = 0.9

/** Bars of letters over the next two days; midnights and nines are marked. */
function Axis({ post, timeZone }: { post: Shape<'Post'>; timeZone: string }) {
  const start = new Date(post.now).getTime()
  const span = post.hours * HOUR_MS
  const most = Math.max(1, ...post.bins.map((bin) => bin.letters))
  const at = (instant: number) => `${((instant - start) / span) * 100}%`
  const marks = Array.from({ length: post.hours + 1 }, (_, hour) => new Date(start - (start % HOUR_MS) + hour * HOUR_MS)).filter(
    (mark) =>
      mark.getTime() >= start && timeOf(mark.toISOString(), timeZone) === '9:00' && (mark.getTime() - start) / span < LAST_LABEL,
  )
  return (
    <div
      className="relative grow h-full mx-2"
      role="img"
      aria-label={
        post.bins.length === 0
          ? 'No letters in the next two days'
          : post.bins.map((bin) => `${moment(bin.at, timeZone)}: ${plural(bin.letters, 'letter')}`).join('; ')
      }
    >
      <div className="absolute inset-x-0 bottom-1.5 border-b border-[var(--strip-text)]/40" />
      <div className="absolute left-0 inset-y-1.5 border-l border-[#e8705c]" />
      <span className="absolute left-1 top-0.5 text-[11px] opacity-80">now</span>
      {marks.map((mark) => (
        <span
          key={mark.getTime()}
          className="absolute top-0.5 text-[11px] opacity-80 whitespace-nowrap"
          style={{ left: at(mark.getTime()) }}
        >
          {day(mark.toISOString(), timeZone).split(' ')[0]} 9:00
        </span>
      ))}
      {post.bins.map((bin) => (
        <div
          key={bin.at}
          className="absolute bottom-1.5 bg-[var(--strip-bar)]"
          title={`${moment(bin.at, timeZone)}: ${plural(bin.letters, 'letter')}`}
          style={{
            left: at(Math.max(new Date(bin.at).getTime(), start)),
            width: '0.85%',
            height: 2 + (bin.letters / most) * HEIGHT,
          }}
        />
      ))}
    </div>
  )
}

function Words({ post, timeZone }: { post: Shape<'Post'>; timeZone: string }) {
  if (post.held) {
    return (
      <span className="text-[var(--strip-bar)] whitespace-nowrap">
        All post is held{post.held.by && `, by ${post.held.by.split(' ')[0]}`} since {timeOf(post.held.at, timeZone)}
      </span>
    )
  }
  if (post.trouble.length > 0) {
    return (
      <span role="status" className="text-[var(--strip-bar)] truncate max-w-[370px]" title={post.trouble.join(' ')}>
        {post.trouble[0]}
      </span>
    )
  }
  if (!post.next) return <span className="whitespace-nowrap opacity-80">Nothing on its way</span>
  const soon = day(post.next.at, timeZone) === day(post.now, timeZone)
  return (
    <span className="whitespace-nowrap">
      Next <strong className="font-semibold">{soon ? timeOf(post.next.at, timeZone) : moment(post.next.at, timeZone)}</strong> ·{' '}
      <NextLetters next={post.next} between="·" className={LINK} />
    </span>
  )
}

/** Always there: what goes out in the next two days, the one move that holds it, and in practice the clock. */
export function PostStrip() {
  const { firm } = useSession()
  const { post, hold, release } = usePostMoves()
  const { clock, moving, forward } = usePracticeClock()
  const button = classes(
    'border border-[var(--strip-text)]/50 rounded-sm px-2.5 h-7 font-medium hover:bg-white/10',
    'disabled:opacity-60 whitespace-nowrap focus-visible:outline-[var(--strip-bar)]',
  )
  return (
    <section
      aria-label="The post"
      className="col-span-2 h-10 bg-[var(--strip)] text-[var(--strip-text)] px-3.5 flex items-center gap-3.5 text-[13px]"
    >
      {post?.held ? (
        <button
          type="button"
          className={`${button} !border-[var(--strip-bar)] text-[var(--strip-bar)]`}
          onClick={() => release.mutate()}
        >
          Release all post
        </button>
      ) : (
        <button type="button" className={button} onClick={() => hold.mutate()}>
          Hold all post
        </button>
      )}
      {post && <Words post={post} timeZone={firm.time_zone} />}
      {post && <Axis post={post} timeZone={firm.time_zone} />}
      <span className="text-[var(--strip-bar)] whitespace-nowrap">Practice clock</span>
      <span className="whitespace-nowrap" data-testid="practice-clock">
        {clock && moment(clock.now, firm.time_zone)}
      </span>
      <button
        type="button"
        className={button}
        disabled={moving}
        aria-label="Clock forward to the next thing"
        onClick={() => forward.mutate('next')}
      >
        Next
      </button>
      <button
        type="button"
        className={button}
        disabled={moving}
        aria-label="Clock forward an hour"
        onClick={() => forward.mutate('hour')}
      >
        +1 h
      </button>
      <button
        type="button"
        className={button}
        disabled={moving}
        aria-label="Clock forward a day"
        onClick={() => forward.mutate('day')}
      >
        +1 day
      </button>
    </section>
  )
}
