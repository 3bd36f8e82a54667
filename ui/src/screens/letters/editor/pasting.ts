import type { JSONContent } from '@tiptap/core'
import { ApiProblem, api, ask, type Shape, upload } from '../../../api/client'

const FROM_HERE = 'data-pm-slice'
const NOTATION = /\{\{|«|<<|\$\{|\[[^\]]+\]|\{[^}]+\}|%[A-Za-z_ .]+%/
const MOST_BYTES = 4 * 1024 * 1024

const escaped = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')

/** What is on the clipboard that has to be read as a letter's text; null when the editor can take it as it is. */
export function clipboardHtml(data: DataTransfer): string | null {
  const html = data.getData('text/html')
  if (html.includes(FROM_HERE)) return null
  if (html) return html
  const text = data.getData('text/plain')
  if (!NOTATION.test(text)) return null
  return text
    .split(/\n{2,}/)
    .map((paragraph) => `<p>${escaped(paragraph).replace(/\n/g, '<br>')}</p>`)
    .join('')
}

/** Has the server read it: one reader for what is pasted, brought in and typed. */
export async function readHtml(html: string): Promise<JSONContent[]> {
  if (html.length > MOST_BYTES)
    throw new ApiProblem(
      0,
      'letter_too_long',
      `This is ${Math.round(html.length / 1024 / 1024)} MB; a letter takes 512 kB of text.`,
      'Nothing was pasted, and nothing was lost. Take a part of it.',
    )
  const { document } = await ask(api.POST('/api/letters/read', { body: { html } }))
  return (document.content ?? []) as JSONContent[]
}

/** Pictures among what was pasted or dropped. */
export function pictureFiles(data: DataTransfer | null): File[] {
  return [...(data?.files ?? [])].filter((file) => file.type.startsWith('image/'))
}

/** Takes a picture into the library. */
export function sendPicture(file: File): Promise<Shape<'Picture'>> {
  return upload<Shape<'Picture'>>(`/api/pictures?name=${encodeURIComponent(file.name || 'Pasted picture')}`, file)
}
