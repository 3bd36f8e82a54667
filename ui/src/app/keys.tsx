import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from 'react'

/** A key of the screen one is on, with what it does; "ctrl+shift+z", "alt+ArrowUp". */
export type Key = {
  key: string
  words: string
  run: () => void
  /** Whether it leads away from what stands on the page. */
  leaves?: boolean
  /** Whether it is one while somebody types as well: held with another key it is no letter. */
  whileTyping?: boolean
}

type Unsaved = () => boolean
type Registry = { register: (keys: Key[]) => () => void; guard: (unsaved: Unsaved) => () => void; shown: Key[] }

/** Somebody may go on typing while the field they were in has gone; their letters are no commands so soon. */
const QUIET_MS = 1000

const KeysContext = createContext<Registry | null>(null)

/** True while somebody types, so that letters stay letters. A box is ticked, not typed into. */
function typing(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement) return !/^(checkbox|radio|file|button|submit)$/.test(target.type)
  return target instanceof HTMLElement && (target.isContentEditable || /^(TEXTAREA|SELECT)$/.test(target.tagName))
}

/** The keys that are held and the one that is pressed; "?" needs Shift by itself. */
function named(event: KeyboardEvent): string {
  const held = [(event.ctrlKey || event.metaKey) && 'ctrl', event.altKey && 'alt'].filter(Boolean)
  const shift = held.length > 0 && event.shiftKey ? ['shift'] : []
  // With Alt some keyboards write another sign.
  const letter = event.altKey ? /^Key([A-Z])$/.exec(event.code)?.[1] : undefined
  return [...held, ...shift, letter ?? event.key].join('+').toLowerCase()
}

/** Listens to the keys that screens register, and knows them for the `?` page. */
export function KeysProvider({ children }: { children: ReactNode }) {
  const [shown, setShown] = useState<Key[]>([])
  const current = useRef<Key[]>([])
  const unsaved = useRef(new Set<Unsaved>())
  const registry = useMemo<Registry>(
    () => ({
      shown,
      register: (keys) => {
        current.current = [...current.current, ...keys]
        setShown(current.current)
        return () => {
          current.current = current.current.filter((key) => !keys.includes(key))
          setShown(current.current)
        }
      },
      guard: (one) => {
        unsaved.current.add(one)
        return () => unsaved.current.delete(one)
      },
    }),
    [shown],
  )
  useEffect(() => {
    const page = document.documentElement
    let quiet = 0
    const typed = (event: KeyboardEvent) => {
      window.clearTimeout(quiet)
      delete page.dataset.typing
      // Held with another key it was a command, and what follows may be one too.
      if (event.ctrlKey || event.metaKey) return
      page.dataset.typing = ''
      quiet = window.setTimeout(() => delete page.dataset.typing, QUIET_MS)
    }
    const listen = (event: KeyboardEvent) => {
      if (typing(event.target)) typed(event)
      if (document.querySelector('dialog[open]')) return
      const pressed = named(event)
      if (pressed.length === 1 && page.dataset.typing !== undefined) return
      // Enter presses what has the focus.
      if (pressed === 'enter' && (event.target as Element).closest?.('button, a, input, summary, [role=button]')) return
      const key = current.current.findLast((one) => one.key.toLowerCase() === pressed)
      if (!key || (typing(event.target) && !key.whileTyping)) return
      event.preventDefault()
      if (key.leaves && [...unsaved.current].some((one) => one())) return
      key.run()
    }
    window.addEventListener('keydown', listen)
    return () => {
      window.clearTimeout(quiet)
      delete page.dataset.typing
      window.removeEventListener('keydown', listen)
    }
  }, [])
  return <KeysContext.Provider value={registry}>{children}</KeysContext.Provider>
}

/** Registers the keys of a screen for as long as it is shown. */
export function useKeys(keys: Key[]) {
  const registry = useContext(KeysContext)
  const latest = useRef(keys)
  latest.current = keys
  const names = keys.map((key) => `${key.key}:${key.words}`).join('|')
  // biome-ignore lint/correctness/useExhaustiveDependencies: the names tell when the keys changed; what they do is read when pressed
  useEffect(() => {
    const stable = latest.current.map((key, i) => ({ ...key, run: () => latest.current[i]?.run() }))
    return registry?.register(stable)
  }, [names])
}

/** While something of a screen is not saved, no key leads away from it. */
export function useUnsaved(unsaved: Unsaved) {
  const registry = useContext(KeysContext)
  const guard = registry?.guard
  const latest = useRef(unsaved)
  latest.current = unsaved
  useEffect(() => guard?.(() => latest.current()), [guard])
}

export function useShownKeys(): Key[] {
  return useContext(KeysContext)?.shown ?? []
}
