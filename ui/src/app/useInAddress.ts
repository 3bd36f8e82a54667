import { useCallback, useEffect, useRef, useState } from 'react'
import { useSearchParams } from 'react-router'

function read<Shown extends Record<string, string>>(params: URLSearchParams, empty: Shown): Shown {
  return Object.fromEntries(Object.entries(empty).map(([name, without]) => [name, params.get(name) ?? without])) as Shown
}

/**
 * What a screen shows of itself (a search, a filter, a page, what is open), in the address of the page: Back finds it again, and
 * it can be sent to a colleague. What goes without saying does not stand there.
 *
 * @param empty what is shown when the address says nothing, by name; the same object each time
 * @returns what is shown, and how it changes
 */
export function useInAddress<Shown extends Record<string, string>>(empty: Shown): [Shown, (change: Partial<Shown>) => void] {
  const [params, setParams] = useSearchParams()
  const [shown, setShown] = useState(() => read(params, empty))
  const now = useRef({ params, shown })
  useEffect(() => {
    if (params.toString() === now.current.params.toString()) return
    now.current = { params, shown: read(params, empty) }
    setShown(now.current.shown)
  }, [params, empty])
  const show = useCallback(
    (change: Partial<Shown>) => {
      const next = { ...now.current.shown, ...change }
      const written = new URLSearchParams(now.current.params)
      for (const [name, value] of Object.entries(next)) value === empty[name] ? written.delete(name) : written.set(name, value)
      now.current = { params: written, shown: next }
      setShown(next)
      setParams(written, { replace: true })
    },
    [empty, setParams],
  )
  return [shown, show]
}
