import { mayI, useMe } from '../../api/shared'
import { Failed, Heading, LinkButton, Waiting } from '../../ui/parts'
import { useRoutines } from './api'
import { CarryPack } from './CarryPack'
import { Classes } from './Classes'
import { ConventionsForm } from './ConventionsForm'
import { Members } from './Members'
import { prints } from './model'
import { Routines } from './RoutineForm'

export function TeamPage() {
  const me = useMe()
  const routines = useRoutines()
  if (routines.error && !routines.data) return <Failed error={routines.error} />
  if (!me.data || !routines.data) return <Waiting what="Looking up the team …" />
  const lead = mayI(me.data.rights, 'agree')
  return (
    <div className="mx-auto grid max-w-6xl gap-8 p-6 lg:grid-cols-2">
      <h1 className="sr-only">Team</h1>
      <ConventionsForm me={me.data} lead={lead} />
      <Routines list={routines.data} lead={lead} />
      <Classes />
      <Members lead={lead} />
      <CarryPack />
      <section className="flex flex-col gap-3">
        <Heading level={2}>Print all cards</Heading>
        <p>As they are agreed today, at true size: print at 100 %, not “fit to page”.</p>
        {prints.map(([label, query]) => (
          <p key={label} className="flex flex-wrap items-center gap-3">
            <span className="w-40 font-bold">{label}</span>
            {query.map(([name, q]) => (
              <LinkButton key={q} href={`/api/cards.pdf?cards=all&${q}`} target="_blank">
                {name}
              </LinkButton>
            ))}
          </p>
        ))}
      </section>
    </div>
  )
}
