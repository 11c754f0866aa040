import { useEffect, useState } from 'react'
import type { LessonView, StepKind } from '../src/api/client'
import { useKeys } from '../src/ui/useKeys'
import { touch } from '../src/features/teach/Controls'
import { stateOf } from '../src/features/teach/marks'
import { layouts, screens, type Screen } from '../src/features/teach/model'
import { Stage } from '../src/features/teach/Stage'
import type { Pack } from '../src/features/teach/usePreload'

type Props = { view: LessonView; kinds: readonly StepKind[]; pack: Pack; onLeave: () => void }

/** One thing to do at home: what is asked, and how long it waits for an answer. */
export type Asked = { screen: Screen; says: string; seconds: number; sound: string }

const none = stateOf(new Map())

/** Of a lesson, what a child and an adult do at home: each card and word once, the sentence; no test, no score. */
function asked(list: readonly Screen[]): Asked[] {
  const seen = new Set<string>()
  return list.flatMap((screen): Asked[] => {
    const { show } = screen
    const once = (key: string, a: Omit<Asked, 'screen'>) => {
      if (seen.has(key)) return []
      seen.add(key)
      return [{ screen, ...a }]
    }
    switch (show.kind) {
      case 'letter':
        return once(`letter ${show.face.id}`, { says: 'Which sound?', seconds: 6, sound: show.face.id })
      case 'picture':
        return once(`picture ${show.face.id}`, { says: 'Say its rhyme together.', seconds: 8, sound: '' })
      case 'word':
        return show.hidden === 'none'
          ? once(`word ${show.word}`, { says: 'Say the sounds, then the word.', seconds: 10, sound: '' })
          : []
      case 'sentence':
        return once(`sentence ${show.text}`, { says: 'Read it together.', seconds: 16, sound: '' })
    }
    return []
  })
}

/** For families: each thing waits, without hurry, then shows its answer, and goes on. A press stops the waiting. */
export function Family({ view, kinds, pack, onLeave }: Props) {
  const [list] = useState(() => asked(screens(view.lesson, layouts(kinds))))
  const [at, setAt] = useState(0)
  const [answered, setAnswered] = useState(false)
  const [waits, setWaits] = useState(true)
  const now = list[at]
  const on = () => {
    if (answered || !now) {
      setAnswered(false)
      setAt(at + 1)
    } else setAnswered(true)
  }
  const back = () => {
    setAnswered(false)
    setAt(Math.max(0, at - 1))
  }
  useKeys(
    { ' ': on, ArrowRight: on, ArrowLeft: back, Enter: () => setAnswered(true), Escape: onLeave },
    { everywhere: true },
  )
  const pause = answered ? 5 : (now?.seconds ?? 0)
  useEffect(() => {
    if (!now || !waits) return
    const t = setTimeout(on, pause * 1000)
    return () => clearTimeout(t)
    // Each wait begins with what is shown, and not with every rendering.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at, answered, waits])
  const sound = now?.sound ? pack.sounds.get(now.sound) : undefined
  return (
    <main
      className="slate flex h-screen flex-col overflow-hidden bg-slate text-chalk"
      data-face="home"
      data-at={at}
      data-answered={answered}
    >
      <div className="flex flex-wrap items-center gap-4 p-3 text-xl">
        <h1 className="text-2xl font-bold">{now ? now.says : 'That was all. Well done, both of you.'}</h1>
        <span className="ml-auto">
          {Math.min(at + 1, list.length)} of {list.length}
        </span>
        <button type="button" className={touch} onClick={onLeave}>
          Leave
        </button>
      </div>
      <div className="relative flex min-h-0 flex-1 items-center justify-center">
        {now && (
          <Stage
            key={at}
            screen={now.screen}
            index={0}
            place={{
              screen: 0,
              turned: answered && now.screen.show.kind !== 'letter',
              shown: null,
              open: '',
              own: null,
            }}
            state={none}
            pack={pack}
            lesson={view.lesson}
            active={undefined}
            onBit={() => undefined}
            onOrder={() => undefined}
            onPut={() => undefined}
          />
        )}
        {answered && sound && <audio key={at} src={sound} autoPlay />}
      </div>
      <p className="min-h-12 px-4 text-center text-xl" role="status">
        {answered &&
          now?.screen.show.kind === 'letter' &&
          `${now.screen.show.face.said}${sound ? '' : ': say it together'}`}
      </p>
      <div className="h-3 bg-slate-deep" aria-hidden>
        {now && waits && (
          <div
            key={`${at}${answered}`}
            className="waiting h-full bg-marigold"
            style={{ animationDuration: `${pause}s` }}
          />
        )}
      </div>
      <div className="flex flex-row-reverse flex-wrap items-end gap-3 p-3">
        <button
          type="button"
          onClick={on}
          disabled={!now}
          className={`${touch} min-h-16 border-marigold bg-marigold px-8 text-2xl text-ink`}
        >
          {answered ? 'on' : 'show it'}
        </button>
        <button type="button" onClick={back} disabled={at === 0} className={touch}>
          ← back
        </button>
        <button type="button" aria-pressed={!waits} onClick={() => setWaits(!waits)} className={touch}>
          {waits ? 'wait for us' : 'go on by itself'}
        </button>
      </div>
    </main>
  )
}
