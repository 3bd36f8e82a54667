import { useEffect, useState } from 'react'

/**
 * Enter takes the first of what was found, also when it is pressed before anything has come: who types quickly waits for nothing.
 * @returns what Enter does, and what is to be done when other words are typed
 */
export function useFirst<T>(first: T | undefined, take: (one: T) => void) {
  const [waits, setWaits] = useState(false)
  useEffect(() => {
    if (!waits || first === undefined) return
    setWaits(false)
    take(first)
  }, [waits, first, take])
  return { takeFirst: () => setWaits(true), forget: () => setWaits(false) }
}
