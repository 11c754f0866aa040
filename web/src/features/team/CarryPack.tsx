import { useClasses } from '../../api/shared'
import { Heading, LinkButton } from '../../ui/parts'

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
        <LinkButton href="/api/pack.html?size=order" download="carry-pack.html">
          The whole order
        </LinkButton>
        {classes.data?.map((c) => (
          <LinkButton key={c.class_id} href={`/api/pack.html?size=week&class=${c.class_id}`} download="carry-pack.html">
            This week of {c.name}
          </LinkButton>
        ))}
      </div>
    </section>
  )
}
