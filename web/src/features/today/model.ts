import type { Notice, TodayView } from './api'

const purposes = {
  introduce: 'New',
  again: 'Again',
  revise: 'Revision',
  compare: 'Two beside each other',
  'catch-up': 'Catch up',
}

/** What a lesson is for, in a word or two. */
export const purposeName = (p: keyof typeof purposes) => purposes[p]

const told: Record<Notice['kind'], string> = {
  asked: 'asks you to read',
  yes: 'said yes to',
  agreed: 'agreed',
  'sent-back': 'sent back',
  remark: 'said something of',
  answer: 'answered you on',
  mention: 'named you on',
  'taken-over': 'took your wording over on',
}

/** What somebody did, before the name of the card. */
export const did = (n: Notice) => told[n.kind]

/** A day as people say it, seen from today. */
export function dayFrom(date: string, today: string) {
  const days = Math.round((Date.parse(date) - Date.parse(today)) / 86_400_000)
  if (days === 0) return 'today'
  if (days === 1) return 'tomorrow'
  if (days === -1) return 'yesterday'
  const name = new Date(`${date}T12:00:00Z`)
  return days > 1 && days < 7
    ? name.toLocaleDateString('en-GB', { weekday: 'long' })
    : name.toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short' })
}

/** The classes to begin with: the own ones, or all where the member has none. */
export function sides(classes: TodayView['classes']) {
  const mine = classes.filter((c) => c.mine)
  return mine.length > 0 ? { first: mine, rest: classes.filter((c) => !c.mine) } : { first: classes, rest: [] }
}

/** Cards that wait for the member, and those that wait for others. */
export function waitsFor(waiting: TodayView['waiting'], mayDecide: boolean) {
  const me = waiting.filter((w) => !w.mine && !w.said && (w.asked || mayDecide))
  return { me, others: waiting.filter((w) => !me.includes(w)) }
}
