import { useDeferredValue } from 'react'
import { Input, Notice } from '../../ui/parts'
import { useAddress } from '../../ui/useAddress'
import { useSpellings } from '../../api/shared'

const plain = { of: 'ai' }

const percent = (share: number) => (share > 0 && share < 0.005 ? '<1' : `${Math.round(share * 100)}`)

/** How a sound is written, or what a spelling says: how common, where in a word, with examples. */
export function Spellings() {
  const [{ of }, change] = useAddress(plain)
  const rows = useSpellings(useDeferredValue(of.trim()))
  return (
    <div className="flex flex-col gap-4">
      <label className="flex flex-wrap items-center gap-2 text-xl">
        Letters or a sound:
        <Input
          value={of}
          maxLength={10}
          onChange={(e) => change({ of: e.target.value })}
          className="max-w-32 font-child text-2xl!"
        />
        <span className="text-base text-soft">such as ow, a-e, eɪ or ɔː; empty shows all</span>
      </label>
      {rows.error && <Notice kind="wrong">{rows.error.message}</Notice>}
      {rows.data?.length === 0 && (
        <Notice>No word of the list has “{of}”, as letters or as a sound of this accent.</Notice>
      )}
      <ul className="grid gap-3 md:grid-cols-2 xl:grid-cols-3">
        {rows.data?.map((r) => (
          <li
            key={`${r.grapheme}=${r.sound}`}
            className="grid grid-cols-[auto_1fr] gap-x-4 rounded-xl border-2 border-ink bg-sheet px-4 py-2"
          >
            <span className="row-span-3 self-center text-center">
              <span className="font-child text-5xl leading-none">{r.grapheme}</span>
              <span className="block text-lg">/{r.sound}/</span>
            </span>
            <span className="text-sm">
              {r.kind}, {r.step > 0 ? `step ${r.step}` : r.rare ? 'only in exception words' : 'in no step of the order'}
            </span>
            <span className="font-child text-xl">{r.examples.join(', ')}</span>
            <span className="text-sm">
              {r.types} words; {percent(r.weighted)} % of <span className="font-child">{r.grapheme}</span>,{' '}
              {percent(r.of_sound)} % of /{r.sound}/
            </span>
            <span aria-hidden className="col-span-2 mt-2 flex h-3 overflow-hidden rounded-full border border-ink">
              <span style={{ width: `${r.start * 100}%` }} className="bg-mint" />
              <span style={{ width: `${r.middle * 100}%` }} className="bg-marigold" />
              <span style={{ width: `${r.end * 100}%` }} className="bg-sky" />
            </span>
            <span className="col-span-2 text-sm">
              {percent(r.start)} % at the start, {percent(r.middle)} % inside, {percent(r.end)} % at the end
            </span>
          </li>
        ))}
      </ul>
    </div>
  )
}
