import { useEffect, useRef, useState } from 'react'
import type { Bit, Lesson } from '../../api/client'
import { encodeWav } from '../../ui/takes/model'
import { blend } from './blend'
import type { Play } from './marks'
import type { Pack } from './usePreload'

const rate = 44_100

/** Sounds of the board: one take, or the takes of a word one after the other with a gap, as the mark says. */
export function usePlayer(
  play: Play,
  bitsOf: (word: string) => readonly Bit[],
  pack: Pack | undefined,
  lesson: Lesson,
  on: boolean,
) {
  const audio = useRef<HTMLAudioElement>(null)
  const [active, setActive] = useState<number>()
  const [refused, setRefused] = useState(false) // a browser lets a window sound only after a press in it
  const done = useRef(play.n) // what was played before this face was opened stays unheard
  const samples = useRef(new Map<string, Float32Array>())
  const last = useRef({ pack, bitsOf })
  useEffect(() => {
    last.current = { pack, bitsOf }
  })
  useEffect(() => {
    const player = audio.current
    const { pack } = last.current
    if (!on || !player || !pack || play.n === done.current) return
    done.current = play.n
    let over = false
    let url: string | undefined
    const sound = async (src: string, starts: number[]) => {
      player.src = src
      try {
        await player.play()
        setRefused(false)
      } catch (e) {
        if (!over && e instanceof DOMException && e.name === 'NotAllowedError') setRefused(true)
        return
      }
      const follow = () => {
        if (over) return
        if (player.ended || player.paused) return setActive(undefined)
        setActive(
          Math.max(
            0,
            starts.findLastIndex((s) => s <= player.currentTime),
          ),
        )
        requestAnimationFrame(follow)
      }
      if (starts.length > 0) follow()
    }
    const decoded = async (card: string) => {
      const known = samples.current.get(card)
      const take = pack.takes.get(card)
      if (known || !take) return known
      const clip = await new OfflineAudioContext(1, 1, rate).decodeAudioData(await take.arrayBuffer())
      samples.current.set(card, clip.getChannelData(0))
      return samples.current.get(card)
    }
    const run = async () => {
      if (play.gap === null || !play.word) {
        const src = pack.sounds.get(play.card)
        if (src) await sound(src, [])
        return
      }
      const voices = await Promise.all(
        last.current
          .bitsOf(play.word)
          .filter((b) => b.sound !== '')
          .map(async (b) => {
            const found = b.card ? await decoded(b.card) : undefined
            return found && { samples: found, held: Boolean(b.card && lesson.cards[b.card]?.stretch) }
          }),
      )
      const all = voices.flatMap((v) => (v ? [v] : []))
      if (over || all.length !== voices.length) return
      const made = blend(all, rate, play.gap)
      url = URL.createObjectURL(new Blob([encodeWav([made.samples], rate)], { type: 'audio/wav' }))
      await sound(url, made.starts)
    }
    void run().catch(() => undefined) // a take that cannot be decoded: the adult says it
    return () => {
      over = true
      player.pause()
      setActive(undefined)
      if (url) URL.revokeObjectURL(url)
    }
  }, [play, on, lesson])
  return { audio, active, refused, retry: () => setRefused(false) }
}

/** The sounds of a word for which the lesson has no take; none: it can be blended from recordings. */
export const unrecorded = (bits: readonly Bit[], pack: Pack): string[] =>
  bits.filter((b) => b.sound !== '' && !(b.card && pack.takes.has(b.card))).map((b) => b.grapheme)
