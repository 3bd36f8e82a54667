import { classes } from './classes'

/** A few ways of looking, of which one is chosen. */
export function Segments<Value extends string>({
  label,
  options,
  chosen,
  onChoose,
}: {
  label: string
  options: { value: Value; words: string }[]
  chosen: Value
  onChoose: (value: Value) => void
}) {
  return (
    <span className="inline-flex" role="group" aria-label={label}>
      {options.map((option, i) => (
        <button
          key={option.value}
          type="button"
          aria-pressed={chosen === option.value}
          onClick={() => onChoose(option.value)}
          className={classes(
            'btn btn-xs btn-plain rounded-none',
            i === 0 ? 'rounded-l-sm' : '-ml-px',
            i === options.length - 1 ? 'rounded-r-sm' : '',
            chosen === option.value ? '!border-primary !text-primary z-10 font-semibold' : '',
          )}
        >
          {option.words}
        </button>
      ))}
    </span>
  )
}
