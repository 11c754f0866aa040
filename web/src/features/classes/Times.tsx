import { Heading, Notice } from '../../ui/parts'
import { clock } from '../../ui/clock'
import { useTimes } from './api'

const from = { usual: 'too few lessons yet', team: 'from all classes', class: 'from its own lessons' } as const

/** How long its lessons and steps take beside the plan. */
export function Times({ classId }: { classId: string }) {
  const times = useTimes(classId).data
  if (!times) return null
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Plan and reality</Heading>
      {times.lessons.length === 0 && (
        <p className="text-soft">
          When a lesson is taught from the stage and logged, its steps are timed, and the next plan goes by that.
        </p>
      )}
      {times.over_s > 0 && (
        <Notice kind="care">
          Its lessons always run over, by about {clock(times.over_s)}. Leave out <b>{times.drop.join(', ')}</b>, or plan
          more minutes.
        </Notice>
      )}
      {times.lessons.length > 0 && (
        <div className="grid gap-x-10 gap-y-4 lg:grid-cols-[3fr_2fr]">
          <table className="text-left">
            <thead>
              <tr className="border-b-2 border-ink">
                <th className="pr-4">Step</th>
                <th className="px-3">planned</th>
                <th className="px-3">took</th>
                <th className="px-3">next plan</th>
              </tr>
            </thead>
            <tbody>
              {times.steps.map((s) => (
                <tr key={s.kind} className="border-b border-line">
                  <th className="py-1 pr-4 font-normal">{s.name}</th>
                  <td className="px-3">{clock(s.planned_s)}</td>
                  <td className="px-3">{clock(s.took_s)}</td>
                  <td className="px-3">
                    {s.used ? <b>{Math.round(s.ratio * 100)} % of the usual</b> : 'the usual'}
                    <span className="text-sm text-soft">
                      {', '}
                      {s.lessons} {s.lessons === 1 ? 'lesson' : 'lessons'};{' '}
                      {s.used ? from[s.from] : s.from === 'usual' ? from.usual : 'as planned'}
                    </span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <table className="self-start text-left">
            <thead>
              <tr className="border-b-2 border-ink">
                <th className="pr-4">Lesson</th>
                <th className="px-3">planned</th>
                <th className="px-3">took</th>
              </tr>
            </thead>
            <tbody>
              {times.lessons.map((l) => (
                <tr key={l.lesson_id} className="border-b border-line">
                  <th className="py-1 pr-4 font-normal">
                    {new Date(l.taught_at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}
                  </th>
                  <td className="px-3">{clock(l.planned_s)}</td>
                  <td className="px-3">
                    {clock(l.took_s)} {l.took_s > l.planned_s + 60 ? '▲ over' : ''}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}
