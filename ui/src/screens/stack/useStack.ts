import { keepPreviousData, useQueries } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import type { Only } from './marks'

type Stack = Shape<'Stack'>
export type Row = Stack['rows'][number]
/** Letters in one answer of the server. */
export const PAGE = 200

/** The letters of a step, some of them or all, read page by page as they come into sight. */
export function useStack(stepId: number, only: Only, at: number) {
  const [sight, setSight] = useState({ first: 0, last: 0 })
  const near = [at, at + 2, Math.max(0, at - 1), sight.first, sight.last].map((place) => Math.floor(place / PAGE))
  const wanted = [...new Set([0, ...near])].sort((one, other) => one - other)
  const pages = useQueries({
    queries: wanted.map((page) => ({
      queryKey: ['stack', stepId, only, page] as const,
      queryFn: () =>
        ask(api.GET('/api/steps/{id}/stack', { params: { path: { id: stepId }, query: { only, from: page * PAGE } } })),
      placeholderData: page === 0 ? keepPreviousData : undefined,
    })),
  })
  const stack = pages[0]?.data
  const byPage = new Map(wanted.map((page, i) => [page, pages[i]?.data?.rows]))
  const rowAt = (place: number): Row | undefined => byPage.get(Math.floor(place / PAGE))?.[place % PAGE]
  return { stack, error: pages.find((page) => page.error)?.error, rowAt, onSight: setSight }
}

/** The place of the next letter with a gap among all of them. */
export const nextGap = (stepId: number, after: number) =>
  ask(api.GET('/api/steps/{id}/stack/next-gap', { params: { path: { id: stepId }, query: { after } } })).then((found) => found.at)
