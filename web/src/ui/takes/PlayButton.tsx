import { Button, Key } from '../parts'
import { useKeys } from '../useKeys'
import { playInTurn } from './play'

export function PlayButton({ src, label, shortcut }: { src: string; label: string; shortcut?: string }) {
  useKeys(shortcut ? { [`alt+${shortcut}`]: () => void playInTurn(src) } : {}, { everywhere: true })
  return (
    <Button onClick={() => void playInTurn(src)}>
      <span aria-hidden>▶</span> {label} {shortcut && <Key>alt {shortcut}</Key>}
    </Button>
  )
}
