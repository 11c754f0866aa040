import { useClasses } from '../../api/shared'
import { JobButton } from '../../ui/jobs/JobButton'
import { Heading } from '../../ui/parts'

/** One file for a USB stick: cards, sounds, strokes, lessons, without a network. */
export function CarryPack() {
  const classes = useClasses()
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Carry pack</Heading>
      <p>
        One file that works from a USB stick on a phone or an old laptop: cards, sounds, strokes, turnover, lessons. It
        holds voices: give it to adults of the school only, and delete it when a speaker withdraws.
      </p>
      <div className="flex flex-wrap gap-3">
        <JobButton ask={{ kind: 'pack', size: 'order' }}>The whole order</JobButton>
        {classes.data?.map((c) => (
          <JobButton key={c.class_id} ask={{ kind: 'pack', size: 'week', class: c.class_id }}>
            This week of {c.name}
          </JobButton>
        ))}
      </div>
    </section>
  )
}
