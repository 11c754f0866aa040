import { useWall } from '../../api/shared'
import { Button, Notice } from '../../ui/parts'
import { useAddress } from '../../ui/useAddress'
import { useUnlocks } from './api'
import { SoundPick, WordChip } from './parts'

const plain = { step: '' }

/** What the newest pair makes readable at its place in the order. */
export function Unlocks({ first }: { first: string }) {
  const wall = useWall()
  const [at, change] = useAddress(plain)
  const setOwn = (step: string | undefined) => change({ step: step ?? '' })
  const card = at.step || first || (wall.data?.[0]?.card_id ?? '')
  const unlocks = useUnlocks(card)
  const list = wall.data ?? []
  const place = list.findIndex((c) => c.card_id === card)
  const u = unlocks.data
  return (
    <div className="flex flex-col gap-4">
      <p className="flex flex-wrap items-center gap-2 text-xl">
        What does
        <SoundPick value={card} onChange={setOwn} />
        <span>unlock at step {list[place]?.step}?</span>
        <Button disabled={place <= 0} onClick={() => setOwn(list[place - 1]?.card_id)}>
          ← step before
        </Button>
        <Button disabled={place < 0 || place >= list.length - 1} onClick={() => setOwn(list[place + 1]?.card_id)}>
          next step →
        </Button>
      </p>
      {unlocks.error && <Notice kind="wrong">{unlocks.error.message}</Notice>}
      {u && (
        <>
          <p role="status" className="text-2xl">
            <b className="font-child text-5xl">{u.known}</b> words that most children know, <b>{u.total}</b> in all,
            with the {u.taught} sounds up to this step.
            {u.longest && (
              <span>
                {' '}
                The longest: <span className="font-child">{u.longest}</span>.
              </span>
            )}
          </p>
          {u.total === 0 && (
            <Notice>
              Nothing can be read with it at this place: it has nothing to be practised with. Bring a vowel or a few
              consonants before it.
            </Notice>
          )}
          <ul className="flex flex-wrap gap-2.5">
            {u.words.map((w) => (
              <li key={w.word}>
                <WordChip word={w} />
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}
