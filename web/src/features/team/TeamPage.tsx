import { Link } from '@tanstack/react-router'
import { mayI, useMe, useVocabulary } from '../../api/shared'
import { JobButton } from '../../ui/jobs/JobButton'
import { Failed, Heading, Notice, Waiting } from '../../ui/parts'
import { Tabbed } from '../../ui/Tabbed'
import { useAddress } from '../../ui/useAddress'
import { useRoutines } from './api'
import { CarryPack } from './CarryPack'
import { Classes } from './Classes'
import { ConventionsForm } from './ConventionsForm'
import { Members } from './Members'
import { agreedLines, prints } from './model'
import { Routines } from './RoutineForm'

const beside = 'min-h-11 content-center font-bold underline underline-offset-4'
const plain = { tab: 'agreed' }

/** What the team agrees on, its routine, its people and classes, and what is printed of all of it. */
export function TeamPage() {
  const me = useMe()
  const routines = useRoutines()
  const [at, change] = useAddress(plain)
  if (routines.error && !routines.data) return <Failed error={routines.error} />
  if (!me.data || !routines.data) return <Waiting what="Looking up the team …" />
  const lead = mayI(me.data.rights, 'agree')
  return (
    <div className="mx-auto max-w-6xl p-3 sm:p-5">
      <h1 className="sr-only">Team</h1>
      <Tabbed
        label="Parts of the team’s page"
        at={at.tab}
        onTab={(tab) => change({ tab })}
        beside={
          <p className="flex flex-wrap gap-x-6 pt-3">
            <Link to="/stock" className={beside}>
              Our words, names and reading books
            </Link>
            <Link to="/bring" className={beside}>
              Bring in, take out
            </Link>
          </p>
        }
        views={[
          { id: 'agreed', name: 'Agreements', view: lead ? <ConventionsForm me={me.data} /> : <Agreed /> },
          { id: 'routine', name: 'Routine', view: <Routines list={routines.data} lead={lead} /> },
          { id: 'people', name: 'People', view: <Members lead={lead} /> },
          { id: 'classes', name: 'Classes', view: <Classes lead={lead} /> },
          { id: 'print', name: 'Print', view: <Print /> },
        ]}
      />
    </div>
  )
}

const Print = () => (
  <div className="flex flex-col gap-8">
    <CarryPack />
    <AllCards />
  </div>
)

/** What was agreed, in sentences, for those who follow it. */
function Agreed() {
  const conventions = useMe().data?.conventions
  const vocabulary = useVocabulary().data
  if (!conventions) return null
  return (
    <section className="flex max-w-3xl flex-col gap-3">
      <Heading level={2}>What we agreed</Heading>
      <dl className="flex flex-col">
        {agreedLines(conventions, vocabulary).map(([name, text]) => (
          <div key={name} className="grid gap-x-4 border-b border-line py-2 sm:grid-cols-[16rem_1fr]">
            <dt className="font-bold">{name}</dt>
            <dd>{text}</dd>
          </div>
        ))}
      </dl>
      <Notice>A lead changes these. Talk to yours if something does not fit your class.</Notice>
    </section>
  )
}

function AllCards() {
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Print all cards</Heading>
      <p>As they are agreed today, at true size: print at 100 %, not “fit to page”.</p>
      {prints.map(([label, asks]) => (
        <p key={label} className="flex flex-wrap items-center gap-3">
          <span className="w-40 font-bold">{label}</span>
          {asks.map(([name, ask]) => (
            <JobButton key={name} ask={ask}>
              {name}
            </JobButton>
          ))}
        </p>
      ))}
    </section>
  )
}
