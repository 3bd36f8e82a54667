import { keepPreviousData, useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useMemo, useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'

export const PAGE = 100
/** Under this name the sentence is kept while one looks elsewhere. */
export const KEPT_SENTENCE = 'nimble.sentence'
export type View = { columns: string[]; sort: { field: string; descending?: boolean } | null }
export type Row = Shape<'PersonRow'>

/** What the table asks for: which people, in which order, with which columns. */
export type Asked = { condition?: Shape<'Condition'>; ids?: number[]; words?: string; binned?: boolean } & View

/** Rows of a table of any length: only the pages that are looked at are asked for; an overtaken question is called off. */
export function useRows(asked: Asked, firstIndex: number, lastIndex: number) {
  const pages = useMemo(() => {
    const [from, to] = [Math.floor(firstIndex / PAGE), Math.floor(Math.max(lastIndex, firstIndex) / PAGE)]
    return Array.from({ length: to - from + 1 }, (_, i) => from + i)
  }, [firstIndex, lastIndex])
  const results = useQueries({
    queries: pages.map((page) => ({
      queryKey: ['people', asked, page],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        ask(
          api.POST('/api/people/search', {
            body: { ...asked, sort: asked.sort ?? undefined, offset: page * PAGE, limit: PAGE },
            signal,
          }),
        ),
      placeholderData: page === 0 ? keepPreviousData : undefined,
    })),
  })
  const rows = new Map<number, Row>()
  results.forEach((result, i) => {
    result.data?.people.forEach((person, at) => {
      rows.set((pages[i] ?? 0) * PAGE + at, person)
    })
  })
  const answered = results.find((result) => result.data)
  return {
    rows,
    total: answered?.data?.total,
    error: results.find((result) => result.error)?.error ?? null,
    loading: !answered,
  }
}

/** The account of who a letter would reach. */
export function useSieve(audience: Shape<'Audience'>, enabled = true) {
  return useQuery({
    queryKey: ['sieve', audience],
    queryFn: ({ signal }) => ask(api.POST('/api/audience/sieve', { body: { audience }, signal })),
    placeholderData: keepPreviousData,
    enabled,
  })
}

export function useFilters() {
  return useQuery({ queryKey: ['filters'], queryFn: async () => (await ask(api.GET('/api/filters'))).filters })
}

export const FIRST_VIEW: View = {
  columns: ['company.name', 'person.city', 'person.owner', 'activity.last', 'membership.now'],
  sort: null,
}

/** The columns and the order each colleague chose, kept with their account. */
export function useView(): [View, (view: View) => void] {
  const client = useQueryClient()
  const { data } = useQuery({
    queryKey: ['preferences'],
    queryFn: async () => (await ask(api.GET('/api/preferences'))).preferences,
    staleTime: Number.POSITIVE_INFINITY,
  })
  const [view, setView] = useState<View | null>(null)
  const kept = data?.people_view as View | undefined
  useEffect(() => {
    if (!view) return
    const timer = setTimeout(() => {
      api.PUT('/api/preferences/{key}', { params: { path: { key: 'people_view' } }, body: { value: view } })
      client.setQueryData(['preferences'], (old: Record<string, unknown> | undefined) => ({ ...old, people_view: view }))
    }, 400)
    return () => clearTimeout(timer)
  }, [view, client])
  return [view ?? kept ?? FIRST_VIEW, setView]
}
