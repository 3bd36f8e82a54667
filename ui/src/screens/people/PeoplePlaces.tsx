import { SubPlaces } from '../../parts/SubPlaces'

const PLACES = [
  { to: '/people', words: 'Everybody' },
  { to: '/companies', words: 'Companies' },
  { to: '/lists', words: 'Lists and filters' },
  { to: '/doubles', words: 'Doubles' },
  { to: '/files', words: 'Files brought in' },
  { to: '/bin', words: 'Bin' },
]

/** The places that belong to People. */
export function PeoplePlaces() {
  return <SubPlaces label="People" places={PLACES} />
}
