import { X } from 'lucide-react'
import { useState } from 'react'
import type { Shape } from '../../api/client'
import { classes } from '../../parts/classes'
import { AddressTaken } from './AddressTaken'

const INPUT = classes(
  'h-7 grow min-w-0 px-1.5 rounded-sm bg-transparent border border-transparent hover:border-base-300',
  'focus:border-primary focus:bg-[var(--sheet)]',
)

/** The address in use and the further ones, any of which can take its place. */
export function Addresses({
  person,
  onUse,
  onAdd,
  onClear,
  onDrop,
}: {
  person: Shape<'Person'>
  onUse: (email: string) => void
  onAdd: (email: string) => void
  onClear: () => void
  onDrop: (id: number) => void
}) {
  const [email, setEmail] = useState(person.email ?? '')
  const [further, setFurther] = useState<string | null>(null)
  const save = () => {
    const wanted = email.trim()
    if (wanted === (person.email ?? '')) return
    wanted ? onUse(wanted) : onClear()
  }
  return (
    <>
      <label htmlFor="person-address" className="muted text-xs">
        Address
      </label>
      <div className="flex">
        <textarea
          id="person-address"
          rows={1}
          className={classes(INPUT, 'h-auto min-h-7 py-1 resize-none break-all [field-sizing:content]')}
          placeholder="nothing yet"
          value={email}
          onChange={(event) => setEmail(event.target.value.replace(/[\r\n]/g, ''))}
          onBlur={save}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return
            event.preventDefault()
            event.currentTarget.blur()
          }}
        />
      </div>
      <div className="col-start-2">
        {email.trim() !== (person.email ?? '') && <AddressTaken email={email} except={person.id} />}
        {person.addresses.map((one) => (
          <p key={one.id} className="flex items-center gap-1 px-1.5 text-[13px]">
            <span className="grow break-all">{one.email}</span>
            <button type="button" className="quiet-word !text-xs" onClick={() => onUse(one.email)}>
              use
            </button>
            <button
              type="button"
              className="quiet-word !text-xs px-1"
              aria-label={`Take ${one.email} away`}
              onClick={() => onDrop(one.id)}
            >
              <X className="mark" aria-hidden />
            </button>
          </p>
        ))}
        {further === null ? (
          <button type="button" className="quiet-word !text-xs px-1.5" onClick={() => setFurther('')}>
            + another address
          </button>
        ) : (
          <input
            // biome-ignore lint/a11y/noAutofocus: it was just asked for
            autoFocus
            className={`${INPUT} w-full`}
            aria-label="Another address"
            placeholder="another address"
            value={further}
            onChange={(event) => setFurther(event.target.value)}
            onBlur={() => (further.trim() ? onAdd(further.trim()) : setFurther(null))}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          />
        )}
        {further && <AddressTaken email={further} except={person.id} />}
      </div>
    </>
  )
}
