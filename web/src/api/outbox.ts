import { remember } from '../ui/remembered'
import { createStore, del, entries, set } from 'idb-keyval'
import { useEffect, useRef, useState, useSyncExternalStore } from 'react'
import { CallError, keepChanged, passes, queryClient, type Problem } from './client'

/** Something typed that the server does not have yet: a call that may be made again and again. */
export type Letter = {
  id: string
  who: string // member
  label: string // for people
  page: string // where it was typed
  path: string
  method?: 'PUT' | 'POST' | 'DELETE' // PUT where it is not said
  body: unknown
  from?: unknown // what it began from, for the page
  at: number
  problem?: string // an answer that sending again will not change
}

const again = 4000
const none: Letter[] = []

/** Where letters stay over reloads, tabs and sign-ins; in memory alone where the browser keeps nothing. */
const database = (() => {
  try {
    return typeof indexedDB === 'undefined' ? undefined : createStore('bright-chalk', 'outbox')
  } catch {
    return undefined
  }
})()
const tabs = typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel('bright-chalk-outbox')

let letters: Letter[] = none
const listeners = new Set<() => void>()
const held = new Set<string>()

function show(next: Letter[]) {
  letters = next
  listeners.forEach((f) => f())
}

/** Letters on their way into the database, which takes a moment; a tab may be closed within it. */
const onTheWay = 'bright-chalk.letter '

function hurried(): Letter[] {
  try {
    return Object.keys(localStorage)
      .filter((k) => k.startsWith(onTheWay))
      .map((k) => JSON.parse(localStorage.getItem(k) ?? '') as Letter)
  } catch {
    return none // storage is forbidden, or holds something else
  }
}

const hurry = (id: string, letter?: Letter) => remember(onTheWay + id, letter && JSON.stringify(letter))

async function read() {
  if (!database) return
  const all = await entries<string, Letter>(database).catch(() => [])
  const byId = new Map(all)
  for (const letter of hurried()) if ((byId.get(letter.id)?.at ?? 0) < letter.at) byId.set(letter.id, letter)
  show([...byId.values()].sort((a, b) => a.at - b.at))
}

/** Looks anew what is kept, other tabs' letters too. */
export const readAnew = read

/** When the letters of former visits have been read. */
const loaded = read()
if (tabs) tabs.onmessage = () => void read()

/** Keeps a letter in the place of the one with its id. */
export async function keep(given: Letter) {
  const before = kept(given.id, given.who)?.at ?? 0 // two within a millisecond are told apart
  const letter = given.at > before ? given : { ...given, at: before + 0.01 }
  show([...letters.filter((l) => l.id !== letter.id), letter])
  if (database) {
    hurry(letter.id, letter)
    const stored = await set(letter.id, letter, database).then(
      () => true,
      () => false,
    )
    if (stored && kept(letter.id, letter.who)?.at === letter.at) hurry(letter.id)
  }
  tabs?.postMessage('changed')
}

export async function drop(id: string) {
  if (!letters.some((l) => l.id === id)) return
  show(letters.filter((l) => l.id !== id))
  hurry(id)
  if (database) await del(id, database).catch(() => undefined)
  tabs?.postMessage('changed')
}

/**
 * Puts away a letter that was sent, or keeps what came of it, unless it was written on meanwhile: another tab's newer one
 * may not have reached this tab yet, and must not go with the old one.
 */
async function settle(sent: Letter, next?: Letter) {
  const newer = (l?: Letter) => l !== undefined && l.at > sent.at
  if (newer(kept(sent.id, sent.who)) || newer(hurried().find((l) => l.id === sent.id))) return
  if (!database) return next ? keep(next) : drop(sent.id)
  const same = await database(
    'readwrite',
    (store) =>
      new Promise<boolean>((done, fail) => {
        const there = store.get(sent.id) as IDBRequest<Letter | undefined>
        there.onerror = () => fail(there.error ?? new Error('no outbox'))
        there.onsuccess = () => {
          const mine = there.result?.at === sent.at
          if (mine && next) store.put(next, sent.id)
          else if (mine) store.delete(sent.id)
          done(mine)
        }
      }),
  ).catch(() => false)
  if (same) hurry(sent.id)
  await read()
  tabs?.postMessage('changed')
}

export const kept = (id: string, who: string) => letters.find((l) => l.id === id && l.who === who)

/** A page that sends a letter itself holds it; when the page is left, it is sent from here. */
export function useHeld(id: string) {
  useEffect(() => {
    held.add(id)
    return () => void held.delete(id)
  }, [id])
}

/** How the ids of letters begin that take something away. */
export const taken = 'away '

const requestOf = (letter: Letter): RequestInit =>
  letter.method === 'DELETE'
    ? { method: 'DELETE' }
    : {
        method: letter.method ?? 'PUT',
        body: JSON.stringify(letter.body),
        headers: { 'Content-Type': 'application/json' },
      }

/** While a page can still put something back, it holds a lock on its letter, so that no other tab sends it. */
const releases = new Map<string, () => void>()

function hold(id: string) {
  held.add(id)
  // eslint-disable-next-line @typescript-eslint/no-unnecessary-condition -- only where the page is secure
  void navigator.locks?.request(id, () => new Promise<void>((done) => releases.set(id, done)))
}

function release(id: string) {
  held.delete(id)
  releases.get(id)?.()
  releases.delete(id)
}

/**
 * Sends a letter while no tab writes on what it is about, or could still put it back: it holds the lock that a page
 * takes before it looks what is kept. What send gives comes back, false where somebody has the letter.
 */
async function whileFree<T>(letter: Letter, send: () => Promise<T>): Promise<T | false> {
  if (letter.from !== undefined && letter.page === location.pathname) return false // its page is being opened here
  // eslint-disable-next-line @typescript-eslint/no-unnecessary-condition -- only where the page is secure
  if (!navigator.locks) return send()
  return navigator.locks.request(letter.id, { ifAvailable: true }, (lock) => lock !== null && send())
}

/**
 * Things that are taken away on this page: until it is left they can be put back, then they go. Closing the window
 * leaves it too; where even that fails, the letter goes with the next visit.
 */
export function useTakenAway(who: string) {
  const [ids, setIds] = useState<ReadonlySet<string>>(new Set())
  const mine = useRef(new Map<string, Letter>())
  useEffect(() => {
    const away = mine.current
    const leave = () => {
      for (const letter of away.values()) void fetch(`/api${letter.path}`, { ...requestOf(letter), keepalive: true })
    }
    window.addEventListener('pagehide', leave)
    return () => {
      window.removeEventListener('pagehide', leave)
      for (const id of away.keys()) release(id)
      if (away.size > 0) void flush(who)
    }
  }, [who])
  const takeAway = (id: string, letter: Pick<Letter, 'label' | 'page' | 'path' | 'method' | 'body'>) => {
    const whole: Letter = { id: `${taken}${id}`, who, at: Date.now(), ...letter }
    hold(whole.id)
    mine.current.set(whole.id, whole)
    void keep(whole)
    setIds((before) => new Set(before).add(id))
  }
  const putBack = (id: string) => {
    mine.current.delete(`${taken}${id}`)
    release(`${taken}${id}`)
    void drop(`${taken}${id}`)
    setIds((before) => new Set([...before].filter((x) => x !== id)))
  }
  return { away: ids, takeAway, putBack }
}

/** Sends what can be sent, the oldest first; stops at the first sign that nothing gets through. */
export async function flush(who: string) {
  await loaded
  for (const letter of letters.filter((l) => l.who === who && !l.problem && !held.has(l.id)))
    if ((await whileFree(letter, () => post(letter))) === 'no line') return
}

async function post(letter: Letter): Promise<'no line' | 'settled'> {
  let answer: Response
  try {
    answer = await fetch(`/api${letter.path}`, requestOf(letter))
  } catch {
    return 'no line'
  }
  await keepChanged(letter.method ?? 'PUT', `/api${letter.path}`, answer)
  if (held.has(letter.id)) return 'settled' // opened meanwhile: the page goes on from there
  if (answer.ok || (letter.id.startsWith(taken) && answer.status === 404)) {
    await settle(letter)
    void queryClient.invalidateQueries()
    return 'settled'
  }
  const problem = (await answer.json().catch(() => ({}))) as Partial<Problem>
  const error = new CallError(answer.status, problem)
  if (passes(error)) return 'no line'
  await settle(letter, { ...letter, problem: error.message })
  return 'settled'
}

/** Sends from one tab at a time for as long as somebody is signed in. */
export function useOutbox(who: string) {
  useEffect(() => {
    const send = () => {
      if (!letters.some((l) => l.who === who && !l.problem)) return
      // eslint-disable-next-line @typescript-eslint/no-unnecessary-condition -- only where the page is secure
      if (!navigator.locks) void flush(who)
      else void navigator.locks.request('bright-chalk-outbox', { ifAvailable: true }, (mine) => mine && flush(who))
    }
    void loaded.then(send)
    const timer = setInterval(send, again)
    window.addEventListener('online', send)
    return () => {
      clearInterval(timer)
      window.removeEventListener('online', send)
    }
  }, [who])
}

const subscribe = (f: () => void) => {
  listeners.add(f)
  return () => listeners.delete(f)
}

/** All letters, those of others who signed in at this browser as well. */
export const useLetters = () =>
  useSyncExternalStore(
    subscribe,
    () => letters,
    () => none,
  )
