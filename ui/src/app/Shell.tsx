import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useEffect, useRef, useState } from 'react'
import { NavLink, useLocation } from 'react-router'
import { api, ask } from '../api/client'
import { classes } from '../parts/classes'
import { KeysPage } from './KeysPage'
import { useKeys } from './keys'
import { Palette } from './Palette'
import { PostStrip } from './PostStrip'
import { useSession } from './session'
import { useScrollPlace } from './useScrollPlace'

const PLACES = [
  { to: '/', words: 'Today' },
  { to: '/people', words: 'People', within: ['/people', '/companies', '/lists', '/doubles', '/files', '/bin'] },
  { to: '/letters', words: 'Letters', within: ['/letters', '/passages', '/pictures', '/practice-post'] },
  { to: '/sequences', words: 'Sequences' },
  { to: '/replies', words: 'Replies' },
  { to: '/results', words: 'Results' },
]

function Place({ to, words, count, within = [] }: { to: string; words: string; count?: number; within?: string[] }) {
  const { pathname } = useLocation()
  const inside = within.some((place) => pathname.startsWith(place))
  return (
    <NavLink
      to={to}
      end={to === '/'}
      className={({ isActive }) =>
        classes(
          'flex justify-between items-center h-8 px-2.5 border-l-[3px] rounded-sm',
          isActive || inside ? 'border-primary bg-[var(--sheet)] font-semibold' : 'border-transparent hover:bg-base-300/40',
        )
      }
    >
      {words}
      {Boolean(count) && <span className="text-error font-semibold">{count}</span>}
    </NavLink>
  )
}

/** What stands around every screen: places on the left, the post below. */
export function Shell({ children }: { children: ReactNode }) {
  const { account, firm } = useSession()
  const [palette, setPalette] = useState(false)
  const [keys, setKeys] = useState(false)
  const screen = useRef<HTMLElement>(null)
  useScrollPlace(screen)
  const { data: counts } = useQuery({
    queryKey: ['today', 'counts'],
    queryFn: () => ask(api.GET('/api/today/counts')),
    refetchInterval: 5000,
  })
  const waiting = (counts?.new_replies ?? 0) + (counts?.in_doubt ?? 0) + (counts?.set_aside ?? 0)
  useKeys([
    { key: '?', words: 'Show these keys', run: () => setKeys(true) },
    { key: '/', words: 'Find anything (also Ctrl K)', run: () => setPalette(true) },
  ])
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k') return
      event.preventDefault()
      setPalette(true)
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [])
  return (
    <div className="grid h-screen grid-cols-[168px_minmax(0,1fr)] grid-rows-[1fr_auto]">
      <a href="#screen" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-base-100 focus:p-2">
        To the screen
      </a>
      <nav aria-label="Places" className="bg-base-200 border-r border-base-300 px-2.5 py-4 flex flex-col gap-0.5 overflow-auto">
        <NavLink to="/" className="font-serif italic text-xl text-primary px-2.5 mb-4">
          Nimble Letter
        </NavLink>
        {PLACES.map((place) => (
          <Place
            key={place.to}
            {...place}
            count={place.to === '/' ? waiting : place.to === '/replies' ? counts?.new_replies : undefined}
          />
        ))}
        <div className="h-4" />
        <Place to="/settings" words="Settings" />
        <button type="button" className="text-left h-8 px-2.5 muted hover:text-primary" onClick={() => setPalette(true)}>
          Find <kbd className="key ml-1">Ctrl K</kbd>
        </button>
        <div className="grow" />
        <div className="border-t border-base-300 pt-2 px-2.5 text-xs muted leading-5">
          {account.name}
          <br />
          {firm.name}
          <br />
          Nimble Letter {__VERSION__}
        </div>
      </nav>
      <main
        ref={screen}
        id="screen"
        tabIndex={-1}
        className="overflow-auto [scrollbar-gutter:stable] pl-6 pr-3 py-4 !outline-none"
      >
        {children}
      </main>
      <PostStrip />
      {palette && <Palette onClose={() => setPalette(false)} />}
      {keys && <KeysPage onClose={() => setKeys(false)} />}
    </div>
  )
}
