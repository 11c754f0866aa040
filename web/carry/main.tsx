import './carry.css'
import { createRoot } from 'react-dom/client'
import type { LessonView, StepKind } from '../src/api/client'
import type { Drawing } from '../src/ui/mouth'
import { emptyPack, type Pack } from '../src/features/teach/usePreload'
import { CarriedLesson } from './CarriedLesson'
import { Family } from './Family'

/** What the pack says beside its page: lessons, and the pictures and sounds that stand on no card of it. */
type Carried = {
  kinds: StepKind[]
  lessons: LessonView[]
  mouths: Record<string, Drawing>
  contrasts: Record<string, Drawing>
  pictures: Record<string, string>
  sounds: Record<string, string>
}

const carried = JSON.parse(document.getElementById('carried')?.textContent ?? 'null') as Carried | null

function blobOf(address: string): Blob {
  const [head = '', data = ''] = address.split(',')
  const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0))
  return new Blob([bytes], { type: head.replace(/^data:|;base64$/g, '') })
}

/** Pictures and sounds stand once in the file: on the cards, and by the words of the lessons. */
function gathered(c: Carried): Pack {
  const p = emptyPack()
  for (const [id, src] of Object.entries(c.pictures)) p.pictures.set(id, src)
  for (const [id, src] of Object.entries(c.sounds)) p.sounds.set(id, src)
  for (const card of document.querySelectorAll('article[data-card]')) {
    const id = card.id.slice(1)
    const picture = card.querySelector<HTMLImageElement>('img.picture')?.src
    const sound = card.querySelector('audio')?.src
    if (picture) p.pictures.set(id, picture)
    if (sound) p.sounds.set(id, sound)
  }
  for (const img of document.querySelectorAll<HTMLImageElement>('.strip img')) p.words.set(img.alt, img.src)
  for (const [id, src] of p.sounds) p.takes.set(id, blobOf(src))
  for (const [id, d] of Object.entries(c.mouths)) p.mouths.set(id, d)
  for (const [id, d] of Object.entries(c.contrasts)) p.contrasts.set(id, d)
  return p
}

if (carried) {
  const box = document.getElementById('stage')
  const look = document.querySelector<HTMLStyleElement>('#stage-style')
  const page = document.querySelector<HTMLStyleElement>('#page-style')
  const root = box && createRoot(box)
  let pack: Pack | undefined
  const swap = (on: boolean) => {
    if (look) look.media = on ? 'all' : 'not all'
    if (page) page.media = on ? 'not all' : 'all'
    window.scrollTo(0, 0)
  }
  const leave = () => {
    root?.render(null)
    swap(false)
  }
  for (const button of document.querySelectorAll<HTMLButtonElement>('[data-stage]'))
    button.addEventListener('click', () => {
      const view = carried.lessons[Number(button.dataset.lesson)]
      if (!root || !view) return
      pack ??= gathered(carried)
      const Face = button.dataset.stage === 'home' ? Family : CarriedLesson
      swap(true)
      root.render(<Face view={view} kinds={carried.kinds} pack={pack} onLeave={leave} />)
    })
}
