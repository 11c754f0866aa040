import { Tabs } from 'radix-ui'
import { useState } from 'react'
import { mayI, useChosenClass, useClass, useMe, useWall } from '../../api/shared'
import { Button, Failed, Inline, Notice, Waiting } from '../../ui/parts'
import { SendTo } from '../../ui/SendTo'
import { useAddress } from '../../ui/useAddress'
import { useSend } from './api'
import { EarGames } from './EarGames'
import { Finder } from './Finder'
import { Spellings } from './Spellings'
import { Unlocks } from './Unlocks'
import { TrayContext, useTray, type Tray } from './useTray'
import { WordPlay } from './WordPlay'
import { listed, unlisted } from './model'

const tabs: [string, string][] = [
  ['find', 'Find'],
  ['make', 'Make up'],
  ['ear', 'Ear games'],
  ['play', 'Word play'],
  ['unlocks', 'What a step unlocks'],
  ['spellings', 'Spellings'],
]

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
      <div className="mx-auto max-w-[1300px] p-5 pb-32">
        <h1 className="sr-only">Words</h1>
        {classId === '' && <Notice>Make a class under “Team” first: words depend on what it has been taught.</Notice>}
        <Tabs.Root value={at.tab} onValueChange={(tab) => change({ tab })}>
          <Tabs.List aria-label="What to look for" className="flex flex-wrap gap-1 border-b-2 border-ink">
            {tabs.map(([id, label]) => (
              <Tabs.Trigger
                key={id}
                value={id}
                className="min-h-11 rounded-t-lg border-2 border-b-0 border-transparent px-4 text-lg font-bold data-[state=active]:border-ink data-[state=active]:bg-sheet"
              >
                {label}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <Tabs.Content value="find" className="pt-4">
            <Finder key={classId} kind="words" classId={classId} next={next} pick={pick} />
          </Tabs.Content>
          <Tabs.Content value="make" className="pt-4">
            <Finder key={classId} kind="made-up" classId={classId} next={next} pick={pick} />
          </Tabs.Content>
          <Tabs.Content value="ear" className="pt-4">
            <EarGames key={classId} classId={classId} className={name} pick={pick} />
          </Tabs.Content>
          <Tabs.Content value="play" className="pt-4">
            <WordPlay key={classId} classId={classId} next={next} pick={pick} />
          </Tabs.Content>
          <Tabs.Content value="unlocks" className="pt-4">
            <Unlocks first={next} />
          </Tabs.Content>
          <Tabs.Content value="spellings" className="pt-4">
            <Spellings />
          </Tabs.Content>
        </Tabs.Root>
      </div>
      {words.length > 0 && <TrayBar classId={classId} className={name} first={next} />}
    </TrayContext>
  )
}

/** What was picked, and where it goes. */
function TrayBar({ classId, className, first }: { classId: string; className: string; first: string }) {
  const tray = useTray()
  const wall = useWall()
  const me = useMe()
  const [cardId, setCardId] = useState(first)
  const toCard = useSend(cardId)
  return (
    <section
      aria-label="Picked words"
      className="fixed inset-x-0 bottom-0 z-10 flex flex-wrap items-center gap-x-5 gap-y-2 border-t-4 border-ink bg-marigold/95 px-5 py-2"
    >
      <span className="flex flex-wrap items-center gap-2">
        <b>Picked:</b>
        {tray.words.map((w) => (
          <button
            key={w}
            type="button"
            onClick={() => tray.toggle(w)}
            aria-label={`Put ${w} back`}
            className="min-h-11 rounded-full border-2 border-ink bg-sheet px-3 font-child text-xl"
          >
            {w} <span aria-hidden>×</span>
          </button>
        ))}
        <Button look="quiet" onClick={tray.clear}>
          put all back
        </Button>
      </span>
      {mayI(me.data?.rights, 'edit') && (
        <span className="flex items-center gap-2">
          on to the card
          <Inline aria-label="Card" value={cardId} onChange={(e) => setCardId(e.target.value)}>
            {wall.data?.map((c) => (
              <option key={c.card_id} value={c.card_id}>
                {c.pair.grapheme} {c.keyword && `(${c.keyword})`}
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
        </span>
      )}
      {mayI(me.data?.rights, 'teach') && (
        <SendTo classId={classId} className={className} values={tray.words} kind="word" />
      )}
    </section>
  )
}
