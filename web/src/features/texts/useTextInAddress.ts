import { useEffect, useState } from 'react'
import { useAddress } from '../../ui/useAddress'

const plain = { text: '' }

/** Longer texts are not put in the address: it would not be one that somebody can send on. */
const most = 2000
const pause = 400

/** The text under check; it follows into the address when the typing pauses. */
export function useTextInAddress() {
  const [at, change] = useAddress(plain)
  const [text, setText] = useState(at.text)
  useEffect(() => {
    const kept = text.length > most ? '' : text
    if (kept === at.text) return
    const wait = setTimeout(() => change({ text: kept }), pause)
    return () => clearTimeout(wait)
  }, [text, at.text, change])
  return [text, setText] as const
}
