import { Check } from '../../ui/parts'
import type { WallCard } from '../../api/client'
import { asIn } from '../../ui/pair'
import type { OrderStep } from './api'

type Props = {
  id: string
  step: OrderStep | undefined
  card: WallCard | undefined
  number: number
  was: number
  sentence: string
  waiting: boolean
  because: string
  kept: boolean
  onKeep: () => void
}

const by: Record<string, string> = {
  eye: 'looks like it',
  ear: 'sounds like it',
  'eye and ear': 'looks and sounds like it',
  sound: 'the same sound',
  spelling: 'the same spelling',
}

/** What one step brings at its place, and what lies close to it. */
export function OnePanel({ step, card, number, was, sentence, waiting, because, kept, onKeep }: Props) {
  if (!card) return null
  return (
    <section aria-label={`Step ${number}`} className="flex flex-col gap-2 rounded-xl border-2 border-ink bg-sheet p-4">
      <p className="flex items-baseline gap-3">
        <span className="font-child text-5xl leading-none font-bold">{card.pair.grapheme}</span>
        <span>{asIn(card)}</span>
        <span className="ml-auto text-sm text-soft">
          step {number}
          {was !== number && `, was ${was}`}
        </span>
      </p>
      {because && <p className="rounded bg-marigold/25 px-2 py-1 text-sm">Moved because {because}.</p>}
      {step && (
        <dl className="grid grid-cols-[6.5rem_1fr] gap-y-1 text-sm">
          <dt className="text-soft">opens</dt>
          <dd>
            <b>{step.words}</b> {step.words === 1 ? 'word' : 'words'}, {step.pictures} with a picture
            {step.texts > 0 && `, ${step.texts} ${step.texts === 1 ? 'text' : 'texts'} of the bank`}
            {step.best.length > 0 && <span className="block font-child text-base">{step.best.join(' · ')}</span>}
          </dd>
          <dt className="text-soft">a sentence</dt>
          <dd className="font-child text-base">{sentence || (waiting ? '…' : 'none can be made here yet')}</dd>
          <dt className="text-soft">kind</dt>
          <dd>{step.kind}</dd>
          {step.exceptions.length > 0 && (
            <>
              <dt className="text-soft">brings</dt>
              <dd>
                <span className="font-child text-base">{step.exceptions.join(', ')}</span> (
                {step.exceptions.length === 1 ? 'exception word' : 'exception words'})
              </dd>
            </>
          )}
          <dt className="text-soft">close to it</dt>
          <dd>
            {step.clashes.length === 0 && 'nothing that is mixed up with it'}
            <ul>
              {step.clashes.map((c) => (
                <li key={`${c.pair.grapheme}=${c.pair.sound}`} className={c.close ? 'font-bold' : ''}>
                  <span className="font-child text-base">{c.pair.grapheme}</span> {by[c.by]}, {Math.abs(c.apart)}{' '}
                  {Math.abs(c.apart) === 1 ? 'step' : 'steps'} {c.apart > 0 ? 'before' : 'after'}
                  {c.close && ' – too close'}
                </li>
              ))}
            </ul>
          </dd>
        </dl>
      )}
      <Check className="text-sm" checked={kept} onChange={onKeep}>
        keep at this place when a better order is sought ⚓
      </Check>
    </section>
  )
}
