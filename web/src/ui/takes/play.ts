import { encodeWav } from './model'

let playing: HTMLAudioElement | undefined
let turn = 0

const gap = 350 // milliseconds between two sounds, enough to tell them apart

/** Plays a part of decoded samples, such as the bit that should be left off. */
export async function playPart(samples: Float32Array, hertz: number, fromMs: number, toMs: number): Promise<void> {
  const part = samples.slice(Math.floor((fromMs * hertz) / 1000), Math.ceil((toMs * hertz) / 1000))
  const url = URL.createObjectURL(new Blob([encodeWav([part], hertz)], { type: 'audio/wav' }))
  await playInTurn(url).finally(() => URL.revokeObjectURL(url))
}

/** Plays sounds one after the other; a new call silences the one before. */
export async function playInTurn(...urls: string[]): Promise<void> {
  const mine = ++turn
  playing?.pause()
  for (const [i, url] of urls.entries()) {
    if (i > 0) await new Promise((d) => setTimeout(d, gap))
    if (mine !== turn) return
    const audio = new Audio(url)
    playing = audio
    await audio.play()
    await new Promise((d) => audio.addEventListener('ended', d, { once: true }))
  }
}
