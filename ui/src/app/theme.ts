import { useSyncExternalStore } from 'react'

export type Theme = 'desk' | 'night'

const KEY = 'nimble.theme'
const listeners = new Set<() => void>()

function stored(): Theme {
  const kept = localStorage.getItem(KEY)
  if (kept === 'desk' || kept === 'night') return kept
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'desk'
}

/** Puts the kept theme on the page. */
export function applyTheme() {
  document.documentElement.dataset.theme = stored()
}

/** The theme in use, and a way to choose another. */
export function useTheme(): [Theme, (theme: Theme) => void] {
  const theme = useSyncExternalStore((listener) => {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }, stored)
  const choose = (next: Theme) => {
    localStorage.setItem(KEY, next)
    applyTheme()
    for (const listener of listeners) listener()
  }
  return [theme, choose]
}
