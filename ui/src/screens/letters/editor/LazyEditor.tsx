import { type ComponentProps, lazy, Suspense } from 'react'
import type { LetterEditor } from './LetterEditor'

const Editor = lazy(async () => ({ default: (await import('./LetterEditor')).LetterEditor }))

/** The editor on screens that seldom need it: it comes when it is shown. */
export function LazyEditor(props: ComponentProps<typeof LetterEditor>) {
  return (
    <Suspense fallback={<div className="skeleton h-8" />}>
      <Editor {...props} />
    </Suspense>
  )
}
