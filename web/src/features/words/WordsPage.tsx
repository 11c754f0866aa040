import { useState } from 'react'
import { mayI, useChosenClass, useClass, useMe, useWall } from '../../api/shared'
import { Button, Failed, Inline, Notice, Waiting } from '../../ui/parts'
import { SendTo } from '../../ui/SendTo'
import { Tabbed } from '../../ui/Tabbed'
import { asIn } from '../../ui/pair'
import { useAddress } from '../../ui/useAddress'
import { useWide } from '../../ui/useMedia'
import { useSend } from './api'
import { EarGames } from './EarGames'
import { Finder } from './Finder'
import { Spellings } from './Spellings'
import { Unlocks } from './Unlocks'
import { TrayContext, useTray, type Tray } from './useTray'
import { WordPlay } from './WordPlay'
import { listed, unlisted } from './model'

const plain = { tab: 'find', picked: '' }

/** The workbench: what this class may read, hear and sort today. */
export function WordsPage() {
  const { classes, classId, name, choose } = useChosenClass()
  const wall = useWall()
  const klass = useClass(classId)
  const [at, change] = useAddress(plain)
  const words = unlisted(at.picked)
  const setWords = (f: (all: string[]) => string[]) => change({ picked: listed(f(words)) })
  if (classes.error && !classes.data) return <Failed error={classes.error} />
  if (!classes.data || !wall.data || (classId && !klass.data)) return <Waiting what="Opening the word box …" />
  const pick = (
    <Inline aria-label="Class" value={classId} onChange={(e) => choose(e.target.value)}>
      {classes.data.map((c) => (
        <option key={c.class_id} value={c.class_id}>
          {c.name}
        </option>
      ))}
    </Inline>
  )
  const tray: Tray = {
    words,
    toggle: (w) => setWords((all) => (all.includes(w) ? all.filter((x) => x !== w) : [...all, w])),
    add: (list) => setWords((all) => [...all, ...list.filter((w) => !all.includes(w))]),
    clear: () => change({ picked: '' }),
  }
  const next = klass.data?.next ?? ''
  return (
    <TrayContext value={tray}>
      <div className="mx-auto flex max-w-[1600px] flex-col max-lg:tall:h-[calc(100dvh-3.75rem)] lg:grid lg:grid-cols-[minmax(0,1fr)_19rem] lg:items-start">
        <div className="min-h-0 flex-1 p-5 max-lg:overflow-y-auto">
          <h1 className="sr-only">Words</h1>
          {classId === '' && <Notice>Make a class under “Team” first: words depend on what it has been taught.</Notice>}
          <Tabbed
            label="What to look for"
            at={at.tab}
            onTab={(tab) => change({ tab })}
            views={[
              {
                id: 'find',
                name: 'Find',
                view: <Finder key={classId} kind="words" classId={classId} next={next} pick={pick} />,
              },
              {
                id: 'make',
                name: 'Make up',
                view: <Finder key={classId} kind="made-up" classId={classId} next={next} pick={pick} />,
              },
              {
                id: 'ear',
                name: 'Ear games',
                view: <EarGames key={classId} classId={classId} className={name} pick={pick} />,
              },
              {
                id: 'play',
                name: 'Word play',
                view: <WordPlay key={classId} classId={classId} next={next} pick={pick} />,
              },
              { id: 'unlocks', name: 'What a step unlocks', view: <Unlocks first={next} /> },
              { id: 'spellings', name: 'Spellings', view: <Spellings /> },
            ]}
          />
        </div>
        <PickedWords classId={classId} className={name} first={next} />
      </div>
    </TrayContext>
  )
}

/** What was picked, and where it goes: beside the words, or under them where the window is narrow. */
function PickedWords({ classId, className, first }: { classId: string; className: string; first: string }) {
  const tray = useTray()
  const wide = useWide()
  const [sending, setSending] = useState(false)
  const none = tray.words.length === 0
  if (none && !wide) return null
  return (
    <section
      aria-label="Picked words"
      className="flex shrink-0 flex-col gap-3 overflow-y-auto border-ink bg-marigold/25 p-4 max-lg:max-h-[55dvh] max-lg:border-t-4 lg:sticky lg:top-0 lg:min-h-[calc(100dvh-3.75rem)] lg:border-l-2"
    >
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="font-child text-2xl font-bold">{none ? 'Picked words' : `${tray.words.length} picked`}</h2>
        {!none && !wide && (
          <Button look="main" aria-expanded={sending} onClick={() => setSending(!sending)}>
            {sending ? 'Close' : 'Send them …'}
          </Button>
        )}
        {!none && (
          <Button look="quiet" onClick={tray.clear}>
            put all back
          </Button>
        )}
      </div>
      {none && <p className="text-lg">Tap a word: it waits here, and goes on to a card or into a lesson.</p>}
      {(wide || sending) && (
        <ul className="flex flex-wrap gap-2">
          {tray.words.map((w) => (
            <li key={w}>
              <button
                type="button"
                onClick={() => tray.toggle(w)}
                aria-label={`Put ${w} back`}
                className="min-h-11 rounded-full border-2 border-ink bg-sheet px-3 font-child text-xl"
              >
                {w} <span aria-hidden>×</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {!none && (wide || sending) && <Destinations classId={classId} className={className} first={first} />}
    </section>
  )
}

function Destinations({ classId, className, first }: { classId: string; className: string; first: string }) {
  const tray = useTray()
  const wall = useWall()
  const me = useMe()
  const [cardId, setCardId] = useState(first)
  const toCard = useSend(cardId)
  return (
    <>
      {mayI(me.data?.rights, 'teach') && (
        <div className="border-t-2 border-ink/40 pt-3">
          <SendTo classId={classId} className={className} values={tray.words} kind="word" />
        </div>
      )}
      {mayI(me.data?.rights, 'edit') && (
        <div className="flex flex-wrap items-center gap-2 border-t-2 border-ink/40 pt-3">
          on to the card
          <Inline aria-label="Card" value={cardId} onChange={(e) => setCardId(e.target.value)}>
            {wall.data?.map((c) => (
              <option key={c.card_id} value={c.card_id}>
                {c.pair.grapheme} {asIn(c)}
              </option>
            ))}
          </Inline>
          <Button
            look="main"
            disabled={!cardId || toCard.isPending}
            onClick={() => toCard.mutate({ words: tray.words, list: 'words' })}
          >
            Take
          </Button>
          {toCard.isSuccess && (
            <span role="status" className="font-bold">
              ✓ on the card
            </span>
          )}
          {toCard.error && <Notice kind="wrong">{toCard.error.message}</Notice>}
        </div>
      )}
    </>
  )
}
