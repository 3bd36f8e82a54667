import { type ComponentType, createContext } from 'react'
import type { Shape } from '../../../api/client'

export type Acting = {
  title: string
  people: Shape<'SamePeople'>
  count: number
  total: number
  onLeave: () => void
}

/**
 * What can be done with the people behind a number. Given from the top of the page: the dialogs of these acts show numbers
 * themselves, and people behind those.
 */
export const ActsContext = createContext<ComponentType<Acting> | null>(null)
