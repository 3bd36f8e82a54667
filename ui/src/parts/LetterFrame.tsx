import { useEffect, useRef, useState } from 'react'

const DESK = 640

/**
 * A letter as the HTML that goes out, on its sheet of paper. Nothing in it runs; the page around it measures it and hears
 * where a gap is clicked.
 */
export function LetterFrame({
  src,
  title = 'The letter',
  phone = false,
  width,
  onGap,
}: {
  src: string
  title?: string
  phone?: boolean
  /** How much room there is; a letter for the desk is made smaller to fit. */
  width?: number
  onGap?: (field: string) => void
}) {
  const frame = useRef<HTMLIFrameElement>(null)
  const [height, setHeight] = useState(320)
  const [loaded, setLoaded] = useState('')
  const [framed, setFramed] = useState(false)
  const natural = phone ? 360 : DESK
  // A designed letter keeps its frame and is made smaller; a plain one fills whatever room there is.
  const scale = framed && width && width < natural ? width / natural : 1
  const gap = useRef(onGap)
  gap.current = onGap
  useEffect(() => {
    const node = frame.current
    if (!node) return
    let watching: ResizeObserver | null = null
    const ready = () => {
      const page = node.contentDocument
      if (!page?.body) return
      // The height of the letter: the page around it is never lower than its frame.
      const measure = () => setHeight(Math.max(160, Math.ceil(page.documentElement.getBoundingClientRect().height)))
      page.documentElement.style.overflow = 'hidden'
      setFramed(page.querySelector('table.sheet') !== null)
      setLoaded(node.getAttribute('src') ?? '')
      measure()
      watching = new ResizeObserver(measure)
      watching.observe(page.body)
      const open = (event: Event) => {
        const field = (event.target as HTMLElement | null)?.closest?.('[data-gap]')?.getAttribute('data-gap')
        if (!field) return
        if (event instanceof KeyboardEvent && event.key !== 'Enter' && event.key !== ' ') return
        event.preventDefault()
        gap.current?.(field)
      }
      page.addEventListener('click', open)
      page.addEventListener('keydown', open)
      for (const link of page.querySelectorAll('a[href]')) link.setAttribute('target', '_blank')
    }
    node.addEventListener('load', ready)
    return () => {
      node.removeEventListener('load', ready)
      watching?.disconnect()
    }
  }, [])
  return (
    <div
      className="sheet overflow-hidden !bg-white"
      style={{ width: phone ? natural * scale : undefined, height: height * scale }}
      data-testid="letter-frame"
      data-ready={loaded === src}
    >
      <iframe
        ref={frame}
        src={src}
        title={title}
        sandbox="allow-same-origin allow-popups allow-popups-to-escape-sandbox"
        style={{
          width: phone || scale < 1 ? natural : '100%',
          height,
          transform: `scale(${scale})`,
          transformOrigin: '0 0',
          border: 0,
        }}
      />
    </div>
  )
}
