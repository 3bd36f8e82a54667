import { SubPlaces } from '../../../parts/SubPlaces'

const PLACES = [
  { to: '/letters', words: 'All letters' },
  { to: '/passages', words: 'Passages' },
  { to: '/pictures', words: 'Pictures' },
  { to: '/practice-post', words: 'Practice post' },
]

/** The places that belong to Letters. */
export function LetterPlaces() {
  return <SubPlaces label="Letters" places={PLACES} />
}
