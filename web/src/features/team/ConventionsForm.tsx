import type { Conventions, Me } from '../../api/client'
import { callThen, useVocabulary } from '../../api/shared'
import { useKept } from '../../api/useKept'
import { AccentOptions } from '../../ui/AccentOptions'
import { Button, Field, Heading, Notice, Select } from '../../ui/parts'
import { AccentChanges } from './AccentChanges'
import { Allowed } from './Allowed'
import { useAgree } from './api'
import { Departures } from './Departures'
import { LinesForm } from './LinesForm'
import { Materials } from './Materials'
import { Settings } from './SettingField'
import { Together } from './Together'
import { Unsettled } from './Unsettled'

/** What the team decides once. */
export function ConventionsForm({ me }: { me: Me }) {
  const kept = useKept('conventions', me.conventions)
  const { value: c, set: setC } = kept
  const vocabulary = useVocabulary()
  const save = useAgree()
  return (
    <section className="flex max-w-3xl flex-col gap-3">
      <Heading level={2}>What we agreed</Heading>
      <Field label="Accent of the team" hint="Sounds, words and bridges follow it everywhere.">
        {(ids) => (
          <Select
            {...ids}
            value={c.accent}
            onChange={(e) => setC({ ...c, accent: e.target.value as Conventions['accent'] })}
            wide
          >
            <AccentOptions vocabulary={vocabulary.data} />
          </Select>
        )}
      </Field>
      <AccentChanges now={me.conventions.accent} next={c.accent} />
      <Settings group="For the whole team" c={c} onChange={setC} />
      <Settings group="In lessons" c={c} onChange={setC} />
      <Settings group="What counts as one unit" c={c} onChange={setC} />
      <Together list={c.together ?? []} lead onChange={(together) => setC({ ...c, together })} />
      {c.lines && <LinesForm lines={c.lines} lead onChange={(lines) => setC({ ...c, lines })} />}
      <Materials c={c} all={vocabulary.data?.materials ?? []} lead onChange={(part) => setC({ ...c, ...part })} />
      <Settings group="How we say it" c={c} onChange={setC} />
      <Allowed list={c.allowed ?? []} lead onChange={(allowed) => setC({ ...c, allowed })} />
      <Departures
        vocabulary={vocabulary.data}
        list={c.departures ?? []}
        lead
        onChange={(departures) => setC({ ...c, departures })}
      />
      <Unsettled kept={kept} word="agreed" />
      <p>
        <Button look="main" onClick={() => callThen(save, c, kept.settle)} disabled={save.isPending || !kept.dirty}>
          Agree these
        </Button>
      </p>
      {save.isSuccess && !kept.dirty && <Notice kind="good">Agreed. New lessons follow it.</Notice>}
      {save.error && <Notice kind="wrong">{save.error.message}</Notice>}
    </section>
  )
}
