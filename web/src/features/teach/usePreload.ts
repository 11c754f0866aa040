import { useEffect, useState } from 'react'
import type { Lesson } from '../../api/client'
import { onChange } from '../../api/live'
import type { Drawing } from '../../ui/mouth'

export type Pack = {
  pictures: Map<string, string>
  words: Map<string, string>
  sounds: Map<string, string>
  takes: Map<string, Blob> // the sounds themselves, to draw their waves
  mouths: Map<string, Drawing> // of the targets, where their sound is drawn
  contrasts: Map<string, Drawing> // of the sounds that targets are told from
}

export const emptyPack = (): Pack => ({
  pictures: new Map(),
  words: new Map(),
  sounds: new Map(),
  takes: new Map(),
  mouths: new Map(),
  contrasts: new Map(),
})

/** Fetches every picture and sound of a lesson once, so that teaching goes on when the network drops. */
export function usePreload(lesson: Lesson, wanted = true) {
  const [pack, setPack] = useState<Pack>()
  const [missing, setMissing] = useState(0)
  const [withdrawn, setWithdrawn] = useState<string[]>([])
  useEffect(() => {
    let left = false
    const urls: string[] = []
    const load = async () => {
      const p = emptyPack()
      let failed = 0
      const get = async (into: Map<string, string>, key: string, path: string) => {
        try {
          const answer = await fetch(path)
          if (!answer.ok) throw new Error(String(answer.status))
          const blob = await answer.blob()
          if (into === p.sounds) p.takes.set(key, blob)
          const url = URL.createObjectURL(blob)
          urls.push(url)
          into.set(key, url)
        } catch {
          failed++
        }
      }
      const draw = async (into: Map<string, Drawing>, id: string, of: string) => {
        const answer = await fetch(`/api/cards/${id}/mouth${of}`).catch(() => undefined)
        if (answer?.ok) into.set(id, (await answer.json()) as Drawing)
        else if (!answer || answer.status >= 500) failed++ // a sound without a drawing has its sign
      }
      const jobs = lesson.targets.map((id) => draw(p.mouths, id, ''))
      for (const id of lesson.targets)
        if (lesson.cards[id]?.contrast) jobs.push(draw(p.contrasts, id, '?contrast=true'))
      for (const face of Object.values(lesson.cards)) {
        if (face.picture) jobs.push(get(p.pictures, face.id, `/api/pictures/${face.picture}`))
        if (face.has_take) jobs.push(get(p.sounds, face.id, `/api/cards/${face.id}/sound`))
      }
      for (const step of lesson.steps)
        for (const c of step.items)
          if (c.kind === 'picture' || c.picture) jobs.push(get(p.words, c.value, `/api/word-pictures/${c.value}`))
      await Promise.all(jobs)
      if (left) return urls.forEach((u) => URL.revokeObjectURL(u))
      setMissing(failed)
      setPack(p)
    }
    if (wanted) void load()
    return () => {
      left = true
      urls.forEach((u) => URL.revokeObjectURL(u))
    }
  }, [lesson, wanted])
  useEffect(
    () =>
      onChange((kind, id) => {
        if (kind !== 'take' || !lesson.cards[id]?.has_take) return
        // A take that was withdrawn is heard no more, also in a lesson that has it.
        void fetch(`/api/cards/${id}/sound`, { cache: 'no-store' }).then(
          (answer) => {
            if (answer.status !== 404) return
            setPack((p) => p && without(p, id))
            setWithdrawn((list) => [...list, id])
          },
          () => undefined,
        )
      }),
    [lesson],
  )
  return { pack, missing, withdrawn }
}

function without(pack: Pack, id: string): Pack {
  const sounds = new Map(pack.sounds)
  const takes = new Map(pack.takes)
  sounds.delete(id)
  takes.delete(id)
  return { ...pack, sounds, takes }
}
