import { recall, remember } from '../ui/remembered'
import { client, data } from './client'

/** The worker that keeps pages, cards, sounds and lessons for when there is no network; only where the page is secure. */
const worker = () => ('serviceWorker' in navigator ? navigator.serviceWorker : undefined)

export function startOffline() {
  // A page that was open while a newer one was installed may ask for a part that is gone.
  window.addEventListener('vite:preloadError', (e) => {
    e.preventDefault()
    location.reload()
  })
  void worker()
    ?.register('/sw.js')
    .catch(() => undefined)
}

const place = 'bright-chalk.kept-for'

/** Forgets what was kept for somebody else, or for anybody at a sign-out. */
export async function keepFor(who: string) {
  const before = recall(place)
  remember(place, who)
  if (before !== who && typeof caches !== 'undefined')
    await Promise.all(['answers', 'media'].map((name) => caches.delete(name))).catch(() => undefined)
}

const week = 7 * 24 * 3600 * 1000
let fetched = false

/**
 * Fetches, one after the other and only once a visit, what shall be there without a network: each card with its picture
 * and its sound, each class, and the lessons made in the last week. The worker keeps what passes through it.
 */
export async function fetchForLater() {
  const sw = worker()
  const saving = (navigator as { connection?: { saveData?: boolean } }).connection?.saveData
  if (fetched || !sw?.controller || saving || !navigator.onLine) return
  fetched = true
  const pass = async (path: string) => {
    await fetch(`/api${path}`).then(
      (r) => r.arrayBuffer(),
      () => undefined,
    )
    await new Promise((done) => setTimeout(done, 30))
  }
  for (const path of ['/session', '/vocabulary', '/days', '/routines', '/sounds']) await pass(path)
  const cards = await data(client.GET('/cards'))
  for (const c of cards) {
    await pass(`/cards/${c.card_id}`)
    if (c.picture) await pass(`/pictures/${c.picture}`)
    if (c.take_id) await pass(`/cards/${c.card_id}/sound?take=${c.take_id}`)
  }
  for (const c of await data(client.GET('/classes'))) await pass(`/classes/${c.class_id}`)
  for (const l of await data(client.GET('/lessons', { params: { query: {} } })))
    if (Date.now() - new Date(l.created_at).getTime() < week) await pass(`/lessons/${l.lesson_id}`)
}
