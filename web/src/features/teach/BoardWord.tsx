import type { Bit, Lesson } from '../../api/client'

type Ink = NonNullable<Lesson['ink']>[string]

type Props = {
  word: string
  bits: readonly Bit[]
  ink: Ink | undefined
  bridges: boolean
  /** How many of its parts are there, apart from each other; null: all, closed up. */
  shown?: number | null
  /** The part that sounds now, or that was shown last. */
  active?: number | undefined
  onPress?: ((bit: Bit) => void) | undefined
  /** Among others on a line: its bridges stand as low as theirs. */
  inLine?: boolean
}

const look = {
  target: 'var(--color-marigold)',
  plain: 'var(--color-chalk)',
}

/**
 * A word on the board: in the team's own strokes where the lesson has them, else in the font. Its parts come one by one,
 * a pointer follows them, and each that has a card can be pressed.
 */
export function BoardWord(props: Props) {
  return props.ink ? <Inked {...props} ink={props.ink} /> : <Typed {...props} />
}

const span = (b: Bit) => ({ first: b.letters[0] ?? 0, last: b.letters.at(-1) ?? 0 })
const leaps = (b: Bit) => span(b).last - span(b).first + 1 > b.letters.length

const pathOf = (b: Bit) => (b.odd ? 'M0 6Q12 22 25 6T50 6T75 6T100 6' : 'M2 2C20 26 80 26 98 2')

const called = (b: Bit, word: string) => b.letters.map((i) => word[i]).join('') || 'part'

function Typed({ word, bits, bridges, shown = null, active, onPress }: Props) {
  const letters = [...word]
  const there = new Set(bits.slice(0, shown ?? bits.length).flatMap((b) => b.letters))
  return (
    <span
      className="inline-grid align-baseline font-child leading-[1.42] transition-[column-gap] duration-500 motion-reduce:transition-none"
      style={{
        gridTemplateColumns: `repeat(${letters.length}, auto)`,
        columnGap: shown === null ? '0em' : '0.22em',
      }}
      data-shown={shown ?? 'all'}
    >
      <span className="sr-only">{shown === null ? word : letters.filter((_, i) => there.has(i)).join(' ')}</span>
      {letters.map((l, i) => (
        <span
          key={i}
          aria-hidden
          style={{ gridColumn: i + 1, gridRow: 1 }}
          className={there.has(i) || bits.length === 0 ? '' : 'invisible'}
        >
          {l}
        </span>
      ))}
      {bits.map((b, i) => {
        const { first, last } = span(b)
        const here = i < (shown ?? bits.length)
        const columns = `${first + 1} / ${last + 2}`
        return (
          <span key={i} className="contents">
            {bridges && here && (
              <span aria-hidden className="px-[0.04em]" style={{ gridColumn: columns, gridRow: 2 }}>
                <svg
                  viewBox="0 0 100 24"
                  preserveAspectRatio="none"
                  className={`block w-0 min-w-full overflow-visible ${leaps(b) ? 'h-[0.42em]' : 'h-[0.2em]'}`}
                >
                  <path
                    d={pathOf(b)}
                    fill="none"
                    stroke={b.target ? look.target : 'currentColor'}
                    style={{ strokeWidth: b.target ? 'max(3px, 0.04em)' : 'max(2px, 0.025em)' }}
                    vectorEffect="non-scaling-stroke"
                  />
                </svg>
              </span>
            )}
            {active === i && (
              <span aria-hidden className="flex justify-center" style={{ gridColumn: columns, gridRow: 3 }}>
                <Pointer />
              </span>
            )}
            {onPress && b.card && here && (
              <button
                type="button"
                aria-label={`card of ${called(b, word)}`}
                onClick={(e) => {
                  e.stopPropagation()
                  onPress(b)
                }}
                style={{ gridColumn: columns, gridRow: '1 / 3', zIndex: leaps(b) ? 1 : 2 }}
                className="rounded-[0.1em] bg-transparent hover:bg-chalk/10"
              />
            )}
          </span>
        )
      })}
    </span>
  )
}

function Pointer() {
  return (
    <svg viewBox="0 0 20 14" data-pointer className="h-[0.16em] w-[0.24em] min-w-5">
      <path d="M10 0L20 14H0Z" fill={look.target} />
    </svg>
  )
}

const xHeight = 0.508 // of the font, so that both hands are as large
const narrowest = 0.46 // x-heights of a bridge
const under = 0.24 // x-heights between the base line, or what hangs, and the bridges

function Inked({ word, bits, ink, bridges, shown = null, active, onPress, inLine = false }: Props & { ink: Ink }) {
  const right = ink.spans.at(-1)?.[1] ?? 1
  const top = (inLine ? 2.05 : Math.max(ink.top, 1.6)) + 0.15
  const row = (inLine ? 0.9 : Math.max(-ink.bottom, 0)) + under
  const bottom = inLine ? (bridges ? row + 0.5 : 1.1) : row + 0.95
  const edges = (b: Bit): [number, number] => {
    const { first, last } = span(b)
    const from = ink.spans[first]?.[0] ?? 0
    const to = ink.spans[last]?.[1] ?? right
    const more = Math.max(0, narrowest - (to - from)) / 2 // an i is a stroke without a width
    return [from - more, to + more]
  }
  const until = shown === null ? right : Math.max(0, ...bits.slice(0, shown).map((b) => edges(b)[1]))
  return (
    <svg
      viewBox={`-0.25 ${-top} ${right + 0.5} ${top + bottom}`}
      role="img"
      aria-label={shown === null ? word : `${shown} of ${bits.length} parts`}
      data-shown={shown ?? 'all'}
      className="inline-block max-w-[92vw] align-baseline"
      style={{ height: `${(top + bottom) * xHeight}em`, verticalAlign: `${-bottom * xHeight}em` }}
    >
      <clipPath id={`ink-${word}-${shown ?? 'all'}`}>
        <rect x={-0.3} y={-top} width={until + 0.3 + (shown === null ? 0.3 : 0.14)} height={top + bottom} />
      </clipPath>
      <g
        fill="none"
        stroke={look.plain}
        strokeWidth={0.17}
        strokeLinecap="round"
        strokeLinejoin="round"
        clipPath={`url(#ink-${word}-${shown ?? 'all'})`}
      >
        {ink.paths.map((d, i) => (
          <path key={i} d={d} />
        ))}
      </g>
      {bits.map((b, i) => {
        const [from, to] = edges(b)
        const here = i < (shown ?? bits.length)
        const high = leaps(b) ? 0.5 : 0.26
        return (
          <g key={i}>
            {bridges && here && (
              <g transform={`translate(${from} ${row}) scale(${(to - from) / 100} ${high / 24})`}>
                <path
                  d={pathOf(b)}
                  fill="none"
                  stroke={b.target ? look.target : look.plain}
                  strokeWidth={b.target ? 5 : 3}
                  vectorEffect="non-scaling-stroke"
                />
              </g>
            )}
            {active === i && (
              <path data-pointer d={`M${(from + to) / 2} ${row + 0.55}l0.2 0.28h-0.4Z`} fill={look.target} />
            )}
            {onPress && b.card && here && (
              <rect
                x={from - 0.1}
                y={-top}
                width={to - from + 0.2}
                height={top + row + high}
                fill="transparent"
                role="button"
                tabIndex={0}
                aria-label={`card of ${called(b, word)}`}
                className="cursor-pointer"
                onClick={(e) => {
                  e.stopPropagation()
                  onPress(b)
                }}
                onKeyDown={(e) => {
                  if (e.key !== 'Enter' && e.key !== ' ') return
                  e.preventDefault()
                  e.stopPropagation()
                  onPress(b)
                }}
              />
            )}
          </g>
        )
      })}
    </svg>
  )
}
