let playing: HTMLAudioElement | undefined
let turn = 0

const gap = 350 // milliseconds between two sounds, enough to tell them apart

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
