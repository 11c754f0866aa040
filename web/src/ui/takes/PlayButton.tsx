import { useEffect } from 'react'
import { Button, Key } from '../parts'
import { playInTurn } from './play'

export function PlayButton({ src, label, shortcut }: { src: string; label: string; shortcut?: string }) {
  useEffect(() => {
    if (!shortcut) return
    const onKey = (e: KeyboardEvent) => {
      if (e.key === shortcut && e.altKey) {
        e.preventDefault()
        void playInTurn(src)
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [shortcut, src])
  return (
    <Button onClick={() => void playInTurn(src)}>
      <span aria-hidden>▶</span> {label} {shortcut && <Key>alt {shortcut}</Key>}
    </Button>
  )
}
