import { useEffect, useState } from 'react'
import type { Lesson } from '../../api/client'

export type Pack = { pictures: Map<string, string>; words: Map<string, string>; sounds: Map<string, string> }

/** Fetches every picture and sound of a lesson once, so that teaching goes on when the network drops. */
export function usePreload(lesson: Lesson) {
  const [pack, setPack] = useState<Pack>()
  const [missing, setMissing] = useState(0)
  useEffect(() => {
    let left = false
    const urls: string[] = []
    const load = async () => {
      const p: Pack = { pictures: new Map(), words: new Map(), sounds: new Map() }
      let failed = 0
      const get = async (into: Map<string, string>, key: string, path: string) => {
        try {
          const answer = await fetch(path)
          if (!answer.ok) throw new Error(String(answer.status))
          const url = URL.createObjectURL(await answer.blob())
          urls.push(url)
          into.set(key, url)
        } catch {
          failed++
        }
      }
      const jobs: Promise<void>[] = []
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
    void load()
    return () => {
      left = true
      urls.forEach((u) => URL.revokeObjectURL(u))
    }
  }, [lesson])
  return { pack, missing }
}
