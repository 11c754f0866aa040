import type { LessonView, StepKind } from '../src/api/client'
import { Shape } from '../src/ui/Shape'
import { useKeys } from '../src/ui/useKeys'
import { Board, BoardEnd } from '../src/features/teach/Board'
import { Controls, Pace, PlanLine, Script, touch } from '../src/features/teach/Controls'
import { toggleFullScreen, useAwake } from '../src/features/teach/useAwake'
import { keysOf, useHeld } from '../src/features/teach/useHeld'
import type { Pack } from '../src/features/teach/usePreload'

type Props = { view: LessonView; kinds: readonly StepKind[]; pack: Pack; onLeave: () => void }

/** The same stage from the file: without a server, without a log. */
export function CarriedLesson({ view, kinds, pack, onLeave }: Props) {
  const held = useHeld(view, kinds, 'board', pack)
  useAwake(!held.over)
  useKeys(held.over ? {} : { ...keysOf(held), s: held.strip, f: toggleFullScreen }, { everywhere: true, repeat: true })
  const { step, screen, state, lesson } = held
  if (!held.ready || !step || !screen) return null
  const again = held.over || held.resumes
  return (
    <main
      className="slate flex h-screen flex-col overflow-hidden bg-slate text-chalk"
      data-face="board"
      data-screen={held.at}
      data-step={step.kind}
      data-turned={held.place.turned}
    >
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 pt-3 text-lg">
        <Shape family={step.family} className="size-8" />
        <h1 className={state.strip ? 'text-2xl font-bold' : 'sr-only'}>{step.name}</h1>
        {state.strip && (
          <span>
            step {screen.step + 1} of {lesson.steps.length}
          </span>
        )}
        <span className="ml-auto">{state.strip && <Pace held={held} />}</span>
        {state.strip && (
          <button type="button" className={touch} onClick={onLeave}>
            Leave
          </button>
        )}
      </div>
      {again ? (
        <>
          <BoardEnd />
          <div className="flex justify-center gap-4 pb-6">
            {held.resumes && (
              <button type="button" className={touch} onClick={held.goOn}>
                Go on at {step.name}
              </button>
            )}
            <button type="button" className={touch} onClick={held.beginAnew}>
              From the beginning
            </button>
            <button type="button" className={touch} onClick={onLeave}>
              Leave
            </button>
          </div>
        </>
      ) : (
        <>
          <Board held={held} pack={pack} sounds />
          {state.strip && (
            <div className="px-4 pb-2">
              <Script held={held} />
              <div className="pt-2">
                <Controls held={held} />
              </div>
            </div>
          )}
          <PlanLine held={held} />
        </>
      )}
    </main>
  )
}
