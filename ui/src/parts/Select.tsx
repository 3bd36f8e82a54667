/** A choice with its label above. */
export function Select({
  label,
  value,
  options,
  onChange,
}: {
  label: string
  value: string | number
  options: { value: string | number; words: string }[]
  onChange: (value: string) => void
}) {
  return (
    <label>
      <span className="field-label">{label}</span>
      <select
        className="select select-sm w-full bg-[var(--sheet)]"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        <option value="" disabled>
          choose…
        </option>
        {options.map((one) => (
          <option key={one.value} value={one.value}>
            {one.words}
          </option>
        ))}
      </select>
    </label>
  )
}
