import { problemOf } from '../api/client'

/** Hands the browser what the server wrote as a file, under the name it gave; what it could not write is a problem like any other. */
export function saveFile({ response, data, error }: { response: Response; data?: unknown; error?: unknown }, otherwise: string) {
  if (!response.ok) throw problemOf(response.status, error)
  const name = /filename="([^"]+)"/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? otherwise
  const link = document.createElement('a')
  link.href = URL.createObjectURL(data as Blob)
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}
