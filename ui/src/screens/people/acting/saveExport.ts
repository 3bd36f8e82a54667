import { api, problemOf, type Shape } from '../../../api/client'

type Body = { people: Shape<'Chosen'>; format: 'csv' | 'xlsx' | 'vcard'; columns: string[]; sort: Shape<'Sort'> | null }

/** Writes people to a file and hands it to the browser. */
export async function saveExport(body: Body): Promise<void> {
  const { response, data, error } = await api.POST('/api/people/export', {
    body: { ...body, sort: body.sort ?? undefined },
    parseAs: 'blob',
  })
  if (!response.ok) throw problemOf(response.status, error)
  const name = /filename="([^"]+)"/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? 'people'
  const link = document.createElement('a')
  link.href = URL.createObjectURL(data as Blob)
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}
