import { useParams } from 'react-router'
import { LetterDesk } from './LetterDesk'

/** A letter of the library. */
export function LetterScreen() {
  const id = Number(useParams().id)
  return <LetterDesk key={id} id={id} />
}
