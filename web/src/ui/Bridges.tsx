import type { Bit } from '../api/client'

/**
 * A word with its bridges: an arc under each grapheme, a leaping arc for a split spelling, a wavy one under the odd
 * part.
 */
export function Bridges({
  word,
  bits,
  show = true,
}: {
  word: string
  bits: readonly Pick<Bit, 'letters' | 'odd' | 'target'>[] | null | undefined
  show?: boolean
}) {
  const letters = [...word]
  return (
    <span
      className="inline-grid align-baseline font-child leading-[1.42]"
      style={{ gridTemplateColumns: `repeat(${letters.length}, auto)` }}
    >
      <span className="sr-only">{word}</span>
      {letters.map((l, i) => (
        <span key={i} aria-hidden style={{ gridColumn: i + 1, gridRow: 1 }}>
          {l}
        </span>
      ))}
      {show &&
        (bits ?? []).map((b, i) => {
          const at = b.letters
          const first = at[0]
          const last = at.at(-1)
          if (first === undefined || last === undefined) return null
          const leaps = last - first + 1 > at.length
          return (
            <span
              key={i}
              aria-hidden
              className="px-[0.04em]"
              style={{ gridColumn: `${first + 1} / ${last + 2}`, gridRow: 2 }}
            >
              <svg
                viewBox="0 0 100 24"
                preserveAspectRatio="none"
                className={`block w-0 min-w-full overflow-visible ${leaps ? 'h-[0.42em]' : 'h-[0.2em]'}`}
              >
                <path
                  d={b.odd ? 'M0 6Q12 22 25 6T50 6T75 6T100 6' : 'M2 2C20 26 80 26 98 2'}
                  fill="none"
                  stroke={b.target ? 'var(--bridge-target, #b5472f)' : 'currentColor'}
                  style={{ strokeWidth: b.target ? 'max(3px, 0.04em)' : 'max(2px, 0.025em)' }}
                  vectorEffect="non-scaling-stroke"
                />
              </svg>
            </span>
          )
        })}
    </span>
  )
}
