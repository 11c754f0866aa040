import { useCallback, useState } from 'react'
import { CallError, type Take } from '../../api/client'
import { useTakenAway } from '../../api/outbox'
import { useMe } from '../../api/shared'
import { Button, Key, Notice } from '../parts'
import { useKeys } from '../useKeys'
import { cardSound, soundOf, useShelf, useTakeCalls, useTakes } from './api'
import { Microphone } from './Microphone'
import { playInTurn } from './play'
import { keptRoom } from './room'
import { RoomCheck } from './RoomCheck'
import { TakeRow, type Other } from './TakeRow'
import { useMicrophone } from './useMicrophone'
import { VoiceFields } from './VoiceFields'

const boothKeys = {
  r: 'record, stop',
  p: 'play the newest',
  a: 'newest, then the card’s',
  h: 'hand on throat: newest, then its partner',
  c: 'choose the newest',
}

type Props = {
  cardId: string
  takeId: string
  speakerName: string
  mayRecord: boolean
  mayChoose: boolean
  onTakes?: (takes: Take[]) => void
}

/** Record it: takes by adults of the team, several in a row; the pure one is chosen. */
export function Booth({ cardId, takeId, speakerName, mayRecord, mayChoose, onTakes }: Props) {
  const takes = useTakes(cardId)
  const shelf = useShelf()
  const calls = useTakeCalls()
  const me = useMe().data?.member_id ?? ''
  const taken = useTakenAway(me)
  const [speaker, setSpeaker] = useState(speakerName)
  const [consent, setConsent] = useState(false)
  const [countIn, setCountIn] = useState(false)
  const add = calls.add.mutate
  const keep = useCallback(
    (wav: BodyInit, of: string) => add({ cardId: of, wav, speaker, consent }, { onSuccess: (t) => onTakes?.(t) }),
    [add, speaker, consent, onTakes],
  )
  // A recording belongs to the card for which it was begun, also where the page has gone on to the next.
  const [begunFor, setBegunFor] = useState(cardId)
  const usual = keptRoom(speaker)?.deviceId
  const mic = useMicrophone(
    useCallback((wav: ArrayBuffer) => keep(wav, begunFor), [keep, begunFor]),
    usual,
  )
  const record = () => {
    setBegunFor(cardId)
    void mic.record(countIn)
  }
  const failed = calls.add.error && calls.add.variables.cardId === cardId ? calls.add.variables : undefined
  const error = failed && calls.add.error
  const where = error instanceof CallError ? error.problem.field : undefined
  const other = [calls.choose.error, calls.fix.error, calls.reuse.error].find(Boolean)
  const here = shelf.data?.cards.find((c) => c.card_id === cardId)
  const contrast = here?.contrast
  const hasContrast = contrast && shelf.data?.cards.find((c) => c.card_id === contrast.card_id)?.take_id
  const newest = takes.data?.[0]
  const othersOf = (t: Take): Other[] => [
    ...(takeId && takeId !== t.take_id ? [{ url: cardSound(cardId, takeId), label: 'the card’s' }] : []),
    ...(contrast && hasContrast
      ? [
          {
            url: cardSound(contrast.card_id, hasContrast),
            label: `${contrast.grapheme}: ${contrast.voiced ? 'voice on' : 'voice off'}`,
          },
        ]
      : []),
  ]
  const running = mic.state.kind === 'recording' || mic.state.kind === 'counting'
  const keys = {
    r: mayRecord ? () => (running ? mic.stop() : record()) : undefined,
    p: newest && (() => void playInTurn(soundOf(newest))),
    a:
      newest && takeId && takeId !== newest.take_id
        ? () => void playInTurn(soundOf(newest), cardSound(cardId, takeId))
        : undefined,
    h:
      newest && contrast && hasContrast
        ? () => void playInTurn(soundOf(newest), cardSound(contrast.card_id, hasContrast))
        : undefined,
    c: newest && mayChoose && !newest.chosen ? () => calls.choose.mutate(newest.take_id) : undefined,
  }
  const root = useKeys(keys, { says: boothKeys })
  const said = contrast ? { ...boothKeys, h: `hand on throat: newest, then ${contrast.grapheme}` } : boothKeys
  const hints = (Object.keys(said) as (keyof typeof said)[]).filter((k) => keys[k]).map((k) => [k, said[k]])
  return (
    <div ref={root} className="flex flex-col gap-4">
      {mayRecord && (
        <>
          <VoiceFields
            speaker={speaker}
            onSpeaker={setSpeaker}
            consent={consent}
            onConsent={setConsent}
            wrong={where ? { [where]: error?.message } : {}}
          />
          <RoomCheck key={speaker.trim()} mic={mic} speaker={speaker} />
          <Microphone
            mic={mic}
            onRecord={record}
            busy={calls.add.isPending}
            onFile={(f) => keep(f, cardId)}
            countIn={countIn}
            onCountIn={setCountIn}
          />
          {error && where !== 'speaker' && where !== 'consent' && <Notice kind="wrong">{error.message}</Notice>}
          {failed && (
            <p className="flex flex-wrap items-center gap-3">
              What you recorded is kept here.
              <Button onClick={() => keep(failed.wav, failed.cardId)}>Send it again</Button>
            </p>
          )}
          {other && <Notice kind="wrong">{other.message}</Notice>}
        </>
      )}
      {takes.data?.length === 0 && (
        <Notice>No take yet. A class copies what it hears: record one clean sound in a quiet room.</Notice>
      )}
      {mayChoose && here?.same && takes.data?.length === 0 && (
        <p className="flex flex-wrap items-center gap-3">
          <span>
            <b className="font-child text-xl">{here.same.grapheme}</b> is the same sound and has its take.
          </span>
          <Button onClick={() => void playInTurn(`/api/takes/${here.same?.take_id}/sound`)}>
            <span aria-hidden>▶</span> Hear it
          </Button>
          <Button onClick={() => here.same && calls.reuse.mutate({ cardId, takeId: here.same.take_id })}>
            Use it here too
          </Button>
        </p>
      )}
      <p className="flex flex-wrap gap-x-4 gap-y-1 text-sm text-soft">
        {hints.map(([key, what]) => (
          <span key={key}>
            <Key>{key}</Key> {what}
          </span>
        ))}
      </p>
      <ul className="flex flex-col gap-4">
        {takes.data?.map((t) =>
          taken.away.has(t.take_id) ? (
            <li
              key={t.take_id}
              className="flex flex-wrap items-center gap-3 rounded-lg border-2 border-dashed border-line p-3"
            >
              <span role="status" className="flex-1">
                The take by <b>{t.speaker}</b> is withdrawn. It goes for good when you leave this page.
              </span>
              <Button onClick={() => taken.putBack(t.take_id)}>Put it back</Button>
            </li>
          ) : (
            <TakeRow
              key={`${t.take_id}-${t.trim.start_ms}-${t.trim.end_ms}`}
              take={t}
              others={othersOf(t)}
              mayChoose={mayChoose}
              mayFix={t.chosen ? mayChoose : mayRecord}
              onChoose={() => calls.choose.mutate(t.take_id)}
              onWithdraw={() =>
                taken.takeAway(t.take_id, {
                  label: `A take by ${t.speaker}, withdrawn`,
                  page: `/cards/${cardId}`,
                  path: `/takes/${t.take_id}`,
                  method: 'DELETE',
                  body: {},
                })
              }
              onFix={(fixes) => calls.fix.mutate({ takeId: t.take_id, fixes })}
            />
          ),
        )}
      </ul>
    </div>
  )
}
