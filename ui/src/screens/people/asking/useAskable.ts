import { createContext, useContext, useMemo } from 'react'
import { useCatalogue } from '../../../app/useCatalogue'

/** Within letters one may also ask what outside services know. */
export const AskInLetters = createContext(false)

/** The catalogue with what may be asked here. */
export function useAskable() {
  const { data: catalogue } = useCatalogue()
  const inLetters = useContext(AskInLetters)
  return useMemo(
    () =>
      catalogue && {
        ...catalogue,
        fields: catalogue.fields.map((field) =>
          inLetters && field.uses.includes('passage') ? { ...field, uses: [...field.uses, 'condition'] } : field,
        ),
      },
    [catalogue, inLetters],
  )
}
