import { type RefObject, useEffect, useLayoutEffect, useRef } from 'react'
import { useLocation, useNavigationType } from 'react-router'

/** How far down each entry of the browser's history was looked at, in pixels. */
const places = new Map<string, number>()
const BY_HAND = ['wheel', 'pointerdown', 'keydown'] as const

/** A page that one goes back to is found where it was left; any other begins at its top. */
export function useScrollPlace(scroller: RefObject<HTMLElement | null>) {
  const { key, pathname } = useLocation()
  const how = useNavigationType()
  const before = useRef(pathname)
  const current = useRef(key)
  useEffect(() => {
    const element = scroller.current
    const keep = () => element && places.set(current.current, element.scrollTop)
    element?.addEventListener('scroll', keep, { passive: true })
    return () => element?.removeEventListener('scroll', keep)
  }, [scroller])
  useLayoutEffect(() => {
    const element = scroller.current
    const moved = before.current !== pathname
    before.current = pathname
    current.current = key
    if (!element) return
    if (how !== 'POP') {
      if (moved) element.scrollTop = 0
      places.set(key, element.scrollTop)
      return
    }
    return reach(element, places.get(key) ?? 0)
  }, [key, pathname, how, scroller])
}

/** Goes down to a place, as soon as the page is long enough, unless somebody scrolls by hand meanwhile. */
function reach(element: HTMLElement, place: number): () => void {
  const watch = new MutationObserver(() => go())
  const end = () => {
    watch.disconnect()
    for (const kind of BY_HAND) element.removeEventListener(kind, end)
  }
  const go = () => {
    element.scrollTop = place
    if (element.scrollTop >= place - 1) end()
  }
  watch.observe(element, { childList: true, subtree: true })
  for (const kind of BY_HAND) element.addEventListener(kind, end)
  go()
  return end
}
