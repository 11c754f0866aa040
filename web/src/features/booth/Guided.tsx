import { useCallback, useEffect, useReducer, useState } from 'react'
import type { Me } from '../../api/client'
import { Button, Key, Notice } from '../../ui/parts'
import { useTakeCalls } from '../../ui/takes/api'
import { Lamp } from '../../ui/takes/Lamp'
import type { ShelfSound } from '../../ui/takes/model'
import { keptRoom } from '../../ui/takes/room'
import { RoomCheck } from '../../ui/takes/RoomCheck'
import { useMicrophone } from '../../ui/takes/useMicrophone'
import { VoiceFields } from '../../ui/takes/VoiceFields'
import { useKeys } from '../../ui/useKeys'
import { course, mostTries, noBatch, reduce, type Phase } from './guided'

const lamps: Record<Phase, string> = {
  stopped: '',
  ready: 'Wait',
  say: 'Now',
  hold: 'Quiet',
  judging: '…',
  told: '',
}

const spoken: Record<Phase, string> = {
  stopped: '',
  ready: 'Get ready. Say it when the lamp lights.',
  say: 'Now: say the sound once.',
  hold: 'Quiet …',
  judging: 'Listening to it …',
  told: '',
}

const lightKeys = { l: 'put this sound off', Escape: 'stop' }
const nothing = () => undefined

/** One sound after the other by the light: a pure take brings the next; three tries at most, then it is put off. */
export function Guided({
  cards,
  me,
  onCard,
  onClose,
}: {
  cards: ShelfSound[]
  me: Me
  onCard: (id: string) => void
  onClose: () => void
}) {
  const [batch, tell] = useReducer(reduce, noBatch)
  const [speaker, setSpeaker] = useState(me.name)
  const [consent, setConsent] = useState(false)
  const [trouble, setTrouble] = useState('')
  const mic = useMicrophone(nothing, keptRoom(speaker)?.deviceId)
  const add = useTakeCalls().add.mutateAsync
  const { listen } = mic
  const now = batch.queue[0]
  const { phase } = batch
  const card = cards.find((c) => c.card_id === now)

  useEffect(() => {
    if (now) onCard(now)
  }, [now, onCard])

  const attempt = useCallback(
    async (cardId: string, over: AbortSignal) => {
      const { ready, say, hold } = course
      const lights = [
        setTimeout(() => tell({ kind: 'phase', phase: 'say' }), ready),
        setTimeout(() => tell({ kind: 'phase', phase: 'hold' }), ready + say),
      ]
      const ended = () => over.aborted
      over.addEventListener('abort', () => lights.forEach(clearTimeout))
      const heard = await listen(ready + say + hold)
      if (ended()) return
      if (!heard) return tell({ kind: 'stop' })
      tell({ kind: 'phase', phase: 'judging' })
      try {
        const takes = await add({ cardId, wav: heard.wav, speaker, consent })
        if (ended()) return
        const report = takes[0]?.report
        tell({ kind: 'judged', pure: takes.some((t) => t.report.verdict !== 'retake'), advice: report?.advice ?? '' })
      } catch (e) {
        if (ended()) return
        setTrouble((e as Error).message)
        tell({ kind: 'stop' })
      }
    },
    [listen, add, speaker, consent],
  )

  const running = phase !== 'stopped'
  const { turn, tries } = batch
  useEffect(() => {
    if (!running || !now) return
    const over = new AbortController()
    const begun = setTimeout(() => void attempt(now, over.signal))
    return () => {
      clearTimeout(begun)
      over.abort()
    }
  }, [running, turn, now, attempt])

  useEffect(() => {
    if (phase !== 'told') return
    const shown = setTimeout(() => tell({ kind: 'next' }), batch.pure ? course.pure : course.again)
    return () => clearTimeout(shown)
  }, [phase, batch.pure])

  const begin = (ids: readonly string[]) => {
    setTrouble('')
    if (!speaker.trim()) return setTrouble('Write whose voice this is: an adult of the team.')
    if (!consent) return setTrouble('Tick that the speaker agrees to the recordings being kept.')
    tell({ kind: 'begin', cards: ids })
  }
  const root = useKeys(
    {
      l: running ? () => tell({ kind: 'later' }) : undefined,
      Escape: running ? () => tell({ kind: 'stop' }) : undefined,
    },
    { says: lightKeys },
  )
  const open = cards.filter((c) => !c.take_id).map((c) => c.card_id)
  const name = (id: string) => cards.find((c) => c.card_id === id)?.pair.grapheme ?? ''
  return (
    <div ref={root} className="flex flex-col gap-4">
      {!running && (
        <>
          <VoiceFields speaker={speaker} onSpeaker={setSpeaker} consent={consent} onConsent={setConsent} wrong={{}} />
          <RoomCheck key={speaker.trim()} mic={mic} speaker={speaker} />
        </>
      )}
      <section
        aria-label="By the light"
        className="flex flex-wrap items-center gap-8 rounded-lg border-2 border-ink bg-sheet p-6"
      >
        {running && card ? (
          <>
            <Lamp lit={phase === 'say'} word={lamps[phase]} {...(phase === 'told' ? { pure: batch.pure } : {})} />
            <div className="flex min-w-60 flex-1 flex-col gap-1">
              <p className="font-child text-6xl leading-none font-bold">{card.pair.grapheme}</p>
              <p role="status" className="text-2xl">
                {phase !== 'told' ? spoken[phase] : batch.pure ? 'Pure. On to the next.' : batch.advice}
              </p>
              <p>
                {phase !== 'told' && `Try ${tries + 1} of ${mostTries} · `}
                {phase === 'told' && !batch.pure && tries >= mostTries && 'It is put off for later · '}
                {batch.queue.length} to go
              </p>
            </div>
            <div className="flex gap-2">
              <Button onClick={() => tell({ kind: 'later' })}>
                Later <Key>l</Key>
              </Button>
              <Button onClick={() => tell({ kind: 'stop' })}>
                Stop <Key>Esc</Key>
              </Button>
            </div>
          </>
        ) : (
          <div className="flex flex-col gap-3">
            {batch.done.length + batch.later.length > 0 && (
              <p className="text-xl" role="status">
                <b>{batch.done.length}</b> {batch.done.length === 1 ? 'sound has' : 'sounds have'} a take now
                {batch.later.length > 0 && (
                  <>
                    ; for later: <b className="font-child">{batch.later.map(name).join(', ')}</b>
                  </>
                )}
                .
              </p>
            )}
            <p>
              The lamp lights, you say the sound once, the check listens. A pure one brings the next by itself; after{' '}
              {mostTries} tries a sound is put off.
            </p>
            <div className="flex flex-wrap gap-3">
              {batch.queue.length > 0 && (
                <Button look="main" onClick={() => begin(batch.queue)}>
                  Go on with {name(batch.queue[0] ?? '')}
                </Button>
              )}
              {batch.later.length > 0 && <Button onClick={() => begin(batch.later)}>Try those put off</Button>}
              <Button
                look={batch.queue.length > 0 ? 'plain' : 'main'}
                disabled={open.length === 0}
                onClick={() => begin(open)}
              >
                Begin with all {open.length}
              </Button>
              <Button look="quiet" onClick={onClose}>
                Back to one at a time
              </Button>
            </div>
          </div>
        )}
      </section>
      {trouble && <Notice kind="wrong">{trouble}</Notice>}
      {mic.state.kind === 'refused' && <Notice kind="wrong">{mic.state.why}</Notice>}
    </div>
  )
}
