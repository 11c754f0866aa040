import { useParams } from '@tanstack/react-router'
import { useState } from 'react'
import type { CardView, Me } from '../../api/client'
import { readAnew } from '../../api/outbox'
import { mayI, useMe } from '../../api/shared'
import { useOnlyHere } from '../../api/useOnlyHere'
import { Button, Failed, Notice, Waiting } from '../../ui/parts'
import { Booth } from '../../ui/takes/Booth'
import { cardAnew, useCard } from './api'
import { ConflictPanel } from './ConflictPanel'
import { errorOf, type Desk } from './model'
import { Lines, Section, TextField } from './parts'
import { SayIt } from './SayIt'
import { SeeIt } from './SeeIt'
import { Side } from './Side'
import { useDraft } from './useDraft'
import { WordStock } from './WordStock'
import { WriteIt } from './WriteIt'

export function CardPage() {
  const { cardId } = useParams({ from: '/cards/$cardId' })
  return <OneDesk key={cardId} cardId={cardId} />
}

/**
 * The desk where this tab writes; a sheet to read where another tab of the browser does. What is kept of former visits
 * is looked at before the card is asked for: what is gone from there stands in the answer.
 */
function OneDesk({ cardId }: { cardId: string }) {
  const look = async (hadAnother: boolean) => {
    await readAnew()
    if (hadAnother) await cardAnew(cardId)
  }
  const { here, take } = useOnlyHere(`card ${cardId}`, look)
  const card = useCard(cardId, here !== undefined)
  const me = useMe()
  if (card.error && !card.data) return <Failed error={card.error} />
  if (!card.data || !me.data || here === undefined) return <Waiting what="Taking the card off its ledge …" />
  return <CardDesk key={String(here)} card={card.data} me={me.data} here={here} onTake={take} />
}

function CardDesk({ card, me, here, onTake }: { card: CardView; me: Me; here: boolean; onTake: () => void }) {
  const { draft, change, saving, conflict, resolve } = useDraft(card, me.member_id, here)
  const [opened, setOpened] = useState(false)
  const may = here && mayI(me.rights, 'edit')
  const inUse = may && card.state === 'agreed' && !opened && saving.kind === 'saved'
  const desk: Desk = {
    draft,
    change,
    readOnly: !may || inUse,
    error: (field) => errorOf(field, saving, card.findings),
  }
  return (
    <div className="mx-auto grid max-w-[1400px] gap-6 p-5 lg:grid-cols-[17rem_minmax(0,1fr)]">
      <Side card={card} me={me} desk={desk} saving={saving} inUse={inUse} />
      <div className="flex min-w-0 flex-col gap-8">
        <h1 className="sr-only">Card {card.pair.grapheme}</h1>
        {!here && mayI(me.rights, 'edit') && (
          <Notice kind="care">
            <span className="flex flex-wrap items-center gap-3 text-base">
              You write on this card in another tab of this browser.
              <Button onClick={onTake}>Write here instead</Button>
            </span>
          </Notice>
        )}
        {inUse && (
          <Notice kind="good">
            <span className="flex flex-wrap items-center gap-3 text-base">
              This card is agreed and in use. A change is a draft beside it; lessons keep what is agreed until the team
              agrees the new one.
              <Button onClick={() => setOpened(true)}>Change this card</Button>
            </span>
          </Notice>
        )}
        {conflict && <ConflictPanel conflict={conflict} draft={draft} resolve={resolve} />}
        <SayIt card={card} desk={desk} />
        <Section id="record">
          <Booth
            cardId={card.card_id}
            takeId={card.take_id}
            speakerName={me.name}
            mayRecord={mayI(me.rights, 'record')}
            mayChoose={mayI(me.rights, 'choose')}
          />
        </Section>
        <SeeIt desk={desk} cautions={card.object_cautions} />
        <WriteIt card={card} desk={desk} />
        <Section id="words">
          <WordStock cardId={card.card_id} draft={desk.draft} change={desk.change} readOnly={desk.readOnly} />
        </Section>
        <Section id="sentence">
          <Lines
            label="Sentences, one a line"
            value={desk.draft.sentences}
            readOnly={desk.readOnly}
            onChange={(sentences) => desk.change({ sentences })}
          />
          <Lines
            label="Exception words taught with this sound, one a line"
            value={desk.draft.exceptions}
            readOnly={desk.readOnly}
            error={desk.error('exceptions')}
            onChange={(exceptions) => desk.change({ exceptions })}
          />
        </Section>
        <Section id="notes">
          <TextField desk={desk} field="notes" label="For the team" rows={4} max={4000} />
        </Section>
      </div>
    </div>
  )
}
