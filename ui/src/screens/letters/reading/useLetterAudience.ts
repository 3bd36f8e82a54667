import { useQuery } from '@tanstack/react-query'
import type { JSONContent } from '@tiptap/react'
import { useMemo } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import type { AudienceCounts } from '../editor/writing'
import { lookedAtFor } from './lookedAtFor'

/** Every merge field and every condition that a document names, each once. */
export function namedIn(document: JSONContent): { fields: string[]; conditions: object[] } {
  const fields = new Set<string>()
  const conditions = new Map<string, object>()
  const walk = (node: JSONContent) => {
    if (node.type === 'mergeField' && node.attrs) fields.add(String(node.attrs.field))
    if (node.type === 'conditional' && node.attrs) conditions.set(JSON.stringify(node.attrs.condition), node.attrs.condition)
    for (const part of [...(node.attrs?.alt ?? []), ...(node.attrs?.href ?? []), ...(node.content ?? [])]) walk(part)
  }
  walk(document)
  return { fields: [...fields], conditions: [...conditions.values()] }
}

/** Of those a letter is written for: how many have nothing for a field, and how many see each passage. */
export function useLetterAudience(letter: Shape<'Letter'>, sequenceId?: number): AudienceCounts | undefined {
  const named = useMemo(() => {
    const parts = [letter.subject, letter.preview, letter.body].map((part) => namedIn(part as JSONContent))
    return {
      fields: [...new Set(parts.flatMap((part) => part.fields))],
      conditions: [...new Map(parts.flatMap((part) => part.conditions).map((one) => [JSON.stringify(one), one])).values()],
    }
  }, [letter.subject, letter.preview, letter.body])
  const { data } = useQuery({
    queryKey: ['letter-audience', letter.id, sequenceId, named],
    queryFn: () =>
      ask(
        api.POST('/api/letters/{id}/audience', {
          params: { path: { id: letter.id }, query: lookedAtFor(sequenceId) },
          body: { fields: named.fields, conditions: named.conditions as Record<string, never>[] },
        }),
      ),
    placeholderData: (before) => before,
    staleTime: 10_000,
  })
  return useMemo(
    () =>
      data && {
        letterId: letter.id,
        sequenceId,
        words: data.words,
        total: data.total,
        without: data.without,
        seeing: Object.fromEntries(
          named.conditions.map((condition, i) => [JSON.stringify(condition), data.seeing[i] ?? { words: '…' }]),
        ),
      },
    [data, named, letter.id, sequenceId],
  )
}
