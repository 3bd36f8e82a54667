import { useMutation, useQueryClient } from '@tanstack/react-query'
import { createContext, useContext } from 'react'
import { api, ask, type Shape } from '../api/client'
import { stale } from './stale'

export type Change = Shape<'Change'>
export const ChangesContext = createContext<(change: Change) => void>(() => undefined)

/** Tells the page that something was done to many records, so that it shows how far it is and offers to take it back. */
export const useTellChange = () => useContext(ChangesContext)

/** Taking back what was done to many records. */
export function useTakeBack(id: number) {
  const client = useQueryClient()
  return useMutation({
    mutationFn: () => ask(api.POST('/api/changes/{id}/undo', { params: { path: { id } } })),
    onSuccess: (change) => {
      client.setQueryData(['change', id], change)
      stale(client, 'change')
    },
  })
}
