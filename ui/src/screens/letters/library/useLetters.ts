import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, ask } from '../../../api/client'

/** Letters whose name or text has these words, newest change first. */
export function useLetters(words: string, archived: boolean) {
  return useQuery({
    queryKey: ['letters', words, archived],
    queryFn: async () =>
      (await ask(api.GET('/api/letters', { params: { query: { words: words || undefined, archived: archived || undefined } } })))
        .letters,
    placeholderData: keepPreviousData,
  })
}

/** How they did, by their numbers; asked apart, since it is counted over all letters that ever went. */
export function useLetterFigures() {
  return useQuery({
    queryKey: ['letters', 'figures'],
    queryFn: async () =>
      new Map((await ask(api.GET('/api/letters/figures'))).letters.map((letter) => [letter.letter_id, letter] as const)),
  })
}
