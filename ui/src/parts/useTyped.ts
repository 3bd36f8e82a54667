import { useState } from 'react'

/** What stands in a field that shows a value kept elsewhere: it follows that value, but never over what is being typed. */
export function useTyped(shown: string) {
  const [text, setText] = useState(shown)
  const [known, setKnown] = useState(shown)
  const [typing, setTyping] = useState(false)
  if (shown !== known) {
    setKnown(shown)
    if (!typing) setText(shown)
  }
  return {
    text,
    type: (words: string) => {
      setTyping(true)
      setText(words)
    },
    /** Done with typing: what was typed stays until the value is another. */
    leave: () => setTyping(false),
    putBack: () => {
      setTyping(false)
      setText(shown)
    },
  }
}
