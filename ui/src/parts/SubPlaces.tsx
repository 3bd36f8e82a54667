import { NavLink } from 'react-router'

/** The places within a place, in a row. */
export function SubPlaces({ label, places }: { label: string; places: { to: string; words: string }[] }) {
  return (
    <nav aria-label={label} className="flex gap-4 text-[13px] border-b border-base-300 mb-3 -mt-2">
      {places.map((place) => (
        <NavLink
          key={place.to}
          to={place.to}
          className={({ isActive }) =>
            `py-1.5 border-b-2 -mb-px ${isActive ? 'border-primary font-semibold' : 'border-transparent muted hover:text-primary'}`
          }
        >
          {place.words}
        </NavLink>
      ))}
    </nav>
  )
}
