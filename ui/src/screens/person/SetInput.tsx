import type { ReactNode } from 'react'
import { type Choice, Choices } from '../../parts/Choices'
import { Popover } from '../../parts/Popover'

/** Words that a record wears, with a menu to put them on and take them off. */
export function SetInput<Value extends string | number>({
  label,
  options,
  chosen,
  typed = false,
  onChange,
}: {
  label: string
  options: Choice[]
  chosen: Value[]
  typed?: boolean
  onChange: (values: Value[]) => void
}) {
  const words: ReactNode[] = chosen.map((value) => (
    <span key={value} className="chip bg-base-200 mr-1">
      {options.find((one) => one.value === value)?.words ?? value}
    </span>
  ))
  return (
    <Popover
      words={words.length > 0 ? words : <span className="muted">none</span>}
      label={`${label}: choose`}
      className="w-full min-h-7 px-1.5 text-left leading-7 rounded-sm border border-transparent hover:border-base-300"
    >
      {() => (
        <Choices
          label={label}
          options={options}
          chosen={chosen}
          typed={typed}
          onChange={(values) => onChange(values as Value[])}
        />
      )}
    </Popover>
  )
}
