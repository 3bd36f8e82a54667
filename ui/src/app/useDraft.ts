import { useCallback, useState } from 'react'

const name = (key: string) => `nimble.draft.${key}`

function read<Draft>(key: string, empty: Draft): Draft {
  try {
    const kept = sessionStorage.getItem(name(key))
    return kept === null ? empty : (JSON.parse(kept) as Draft)
  } catch {
    return empty
  }
}

/**
 * What is typed into a form and not sent yet: it is there again when the form was left, by Escape, by going elsewhere or by a
 * reload, until it is sent. Kept for this tab alone.
 *
 * @returns what is typed, how it changes, and its end
 */
export function useDraft<Draft>(key: string, empty: Draft): [Draft, (draft: Draft) => void, () => void] {
  const [draft, setDraft] = useState<Draft>(() => read(key, empty))
  const type = useCallback(
    (typed: Draft) => {
      setDraft(typed)
      try {
        sessionStorage.setItem(name(key), JSON.stringify(typed))
      } catch {
        // A store that is full or forbidden keeps nobody from typing.
      }
    },
    [key],
  )
  const done = useCallback(() => {
    sessionStorage.removeItem(name(key))
    setDraft(empty)
  }, [key, empty])
  return [draft, type, done]
}
