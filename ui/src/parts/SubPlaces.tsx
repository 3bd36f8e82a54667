import { NavLink } from 'react-router'

const PLACES = [
  { to: '/people', words: 'Everybody' },
  { to: '/companies', words: 'Companies' },
  { to: '/lists', words: 'Lists and filters' },
  { to: '/doubles', words: 'Doubles' },
  { to: '/files', words: 'Files brought in' },
  { to: '/bin', words: 'Bin' },
]

/** The places that belong to People. */
export function SubPlaces() {
  return (
    <nav aria-label="People" className="flex gap-4 text-[13px] border-b border-base-300 mb-3 -mt-2">
      {PLACES.map((place) => (
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
