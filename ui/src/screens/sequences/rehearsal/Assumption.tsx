import { percent } from '../../../app/format'
import { classes } from '../../../parts/classes'
import { Popover } from '../../../parts/Popover'
import { useTyped } from '../../../parts/useTyped'
import type { Assumed, Rehearsal } from './useRehearsal'

const WORDS = {
  last_time: 'people answer as they did last time',
  nobody: 'nobody answers',
  everybody_opens: 'everybody opens',
  rates: 'people answer at rates of your own',
} as const
type Kind = keyof typeof WORDS
type Rates = NonNullable<Assumed['rates']>
const RATES: { name: keyof Rates; words: string }[] = [
  { name: 'opened', words: 'open' },
  { name: 'clicked', words: 'of those who open, click' },
  { name: 'replied', words: 'reply' },
  { name: 'bounced', words: 'have an address that fails' },
]

export const assumptionWords = (assumed: Assumed) => WORDS[assumed.assume as Kind]

/** What people are assumed to do, and the other assumptions one can make. */
export function Assumption({
  assumed,
  rates,
  onChange,
}: {
  assumed: Assumed
  rates: Rehearsal['rates']
  onChange: (assumed: Assumed) => void
}) {
  const own: Rates = assumed.rates ?? {
    ...{ opened: rates.opened, replied: rates.replied, bounced: rates.bounced },
    clicked: rates.opened > 0 ? Math.min(1, rates.clicked / rates.opened) : 0,
  }
  const others = (Object.keys(WORDS) as Kind[]).filter((kind) => kind !== assumed.assume && kind !== 'rates')
  const of100 = `Of 100 letters ${whole(rates.opened)} are opened, ${whole(rates.clicked)} clicked, ${whole(rates.replied)} answered`
  return (
    <p className="muted mb-4">
      {of100}
      {rates.bounced > 0 && `, ${whole(rates.bounced)} fail`}. Or:{' '}
      {others.map((kind) => (
        <span key={kind}>
          <button type="button" className="word" onClick={() => onChange({ assume: kind, seed: assumed.seed })}>
            {WORDS[kind]}
          </button>
          {' · '}
        </span>
      ))}
      <Popover words="rates of your own…" label="Rates of your own">
        {() => (
          <div className="w-72">
            {RATES.map(({ name, words }) => (
              <Rate
                key={name}
                words={words}
                share={own[name] ?? 0}
                onChange={(share) => onChange({ assume: 'rates', rates: { ...own, [name]: share }, seed: assumed.seed })}
              />
            ))}
            <p className="muted text-xs px-1.5 pt-1">In percent of letters.</p>
          </div>
        )}
      </Popover>
      {(assumed.assume === 'rates' || assumed.assume === 'last_time') && (
        <>
          {' · '}
          <button type="button" className="word" onClick={() => onChange({ ...assumed, seed: (assumed.seed ?? 1) + 1 })}>
            another throw of the dice
          </button>
        </>
      )}
    </p>
  )
}

const whole = (share: number) => percent(share).replace(' %', '')

function Rate({ words, share, onChange }: { words: string; share: number; onChange: (share: number) => void }) {
  const { text, type, leave } = useTyped(String(Math.round(share * 100)))
  return (
    <label className={classes('flex items-center gap-2 px-1.5 py-0.5')}>
      <input
        type="number"
        min={0}
        max={100}
        className="text-field !w-16"
        value={text}
        onBlur={leave}
        onChange={(event) => {
          type(event.target.value)
          const typed = Number(event.target.value)
          if (event.target.value !== '' && typed >= 0 && typed <= 100) onChange(typed / 100)
        }}
      />
      {words}
    </label>
  )
}
