import type { Writer } from './useWriter'
import type { Written } from './written'

export type { Written }

const inks: Record<string, { paper: string; slate: string }> = {
  slate: { paper: 'var(--color-ink)', slate: 'var(--color-chalk)' },
  grey: { paper: '#8d8672', slate: '#8fa3a9' },
  sky: { paper: '#3a86b8', slate: 'var(--color-sky)' },
  coral: { paper: '#c4573f', slate: 'var(--color-coral)' },
  marigold: { paper: '#b5830f', slate: 'var(--color-marigold)' },
  mint: { paper: '#2f8f5b', slate: 'var(--color-mint)' },
  violet: { paper: '#7a5fb0', slate: '#c3b3ea' },
}

/** What follows the pen: a finger, or a pencil as a right or a left hand holds it. */
export type Hand = 'none' | 'finger' | 'right' | 'left'

type Props = {
  written: Written
  under?: Written // an earlier form of it, shown beneath
  writer?: Writer
  hand?: Hand
  tone?: 'paper' | 'slate'
  mirrored?: boolean
  numbers?: boolean
  names?: boolean
  label?: string
  className?: string
}

/** A letter or a group on the team's lines, with numbered starts and arrows. */
export function Writing({
  written,
  under,
  writer,
  hand = 'none',
  tone = 'paper',
  mirrored = false,
  numbers = true,
  names = false,
  label,
  className = '',
}: Props) {
  const strokes = written.strokes
  const lines = written.lines
  const top = lines[0]?.y ?? 2
  const drop = -(lines[3]?.y ?? -1)
  const air = numbers ? 0.3 : 0.2
  const room = Math.max(0.45, (2.6 - (written.right - written.left)) / 2)
  const left = written.left - room - (names ? 1.2 : 0)
  const width = written.right - left + room
  const ink = tone === 'slate' ? 'var(--color-chalk)' : 'var(--color-ink)'
  const flip = mirrored ? `translate(${2 * left + width} 0) scale(-1 1)` : undefined
  return (
    <svg
      viewBox={`${left} ${-top - air} ${width} ${top + drop + 2 * air}`}
      className={`overflow-visible ${className}`}
      role="img"
      aria-label={
        label ??
        `${[...written.text].join(' ')} on the writing lines, ${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}`
      }
    >
      {lines.map(
        (l, i) =>
          l.shown && (
            <g key={l.name}>
              <path
                d={`M${left} ${-l.y}h${width}`}
                stroke={inks[l.colour]?.[tone]}
                strokeWidth={i === 2 ? 0.035 : 0.02}
                strokeDasharray={i === 1 ? '0.09 0.07' : i === 3 ? '0.02 0.06' : undefined}
              />
              {names && (
                <text x={left + 0.05} y={-l.y - 0.06} fontSize="0.19" fill={ink} fontFamily="var(--font-adult)">
                  {l.name}
                </text>
              )}
            </g>
          ),
      )}
      <g transform={flip} fill="none" strokeLinecap="round" strokeLinejoin="round">
        {under?.strokes.map((s, i) => (
          <path key={`under${i}`} d={s.path} stroke="#c4573f" strokeWidth={0.34} strokeOpacity={0.35} />
        ))}
        {strokes.map((s, i) => (
          <path
            key={`ghost${i}`}
            d={s.path}
            stroke={ink}
            strokeWidth={writer ? 0.13 : 0.19}
            opacity={writer ? 0.16 : 1}
          />
        ))}
        {writer &&
          strokes.map((s, i) => (
            <path
              key={`ink${i}`}
              ref={(e) => writer.holdPath(i, e)}
              data-stroke={i}
              data-written={i <= writer.at}
              d={s.path}
              pathLength="1"
              strokeDasharray="1.06 2"
              stroke={i === writer.at ? (tone === 'slate' ? 'var(--color-marigold)' : '#b5472f') : ink}
              strokeWidth="0.14"
              visibility={i <= writer.at ? 'visible' : 'hidden'}
            />
          ))}
        {written.group && (
          <path
            d={`M${written.left} ${-written.underline}H${written.right}`}
            stroke={tone === 'slate' ? 'var(--color-coral)' : '#c4573f'}
            strokeWidth="0.07"
          />
        )}
      </g>
      {writer?.moving && hand !== 'none' && (
        <g transform={flip}>
          <g ref={(e) => writer.holdPen(e)}>
            {hand === 'finger' ? (
              <circle r="0.2" fill={tone === 'slate' ? 'var(--color-rose)' : '#b5472f'} opacity="0.75" />
            ) : (
              <g transform={hand === 'left' ? 'scale(-1 1)' : undefined}>
                <path
                  d="M0 0L0.09 0.16L0.95 1.05L1.12 0.9L0.24 0.02Z"
                  fill="#f6c453"
                  stroke={ink}
                  strokeWidth="0.03"
                  strokeLinejoin="round"
                />
                <path d="M0 0L0.09 0.16L0.24 0.02Z" fill={ink} />
                <ellipse
                  cx="0.85"
                  cy="1"
                  rx="0.34"
                  ry="0.27"
                  transform="rotate(45 0.85 1)"
                  fill="#e3b48f"
                  stroke={ink}
                  strokeWidth="0.03"
                  opacity="0.95"
                />
              </g>
            )}
          </g>
        </g>
      )}
      {numbers && (
        <g transform={flip}>
          {strokes.map((s, i) => (
            <g key={`start${i}`} transform={`translate(${s.start.x} ${-s.start.y})`}>
              {s.length > 0 && (
                <path
                  d="M0.15 -0.075 L0.33 0 L0.15 0.075Z"
                  transform={`rotate(${-s.heading})`}
                  fill={tone === 'slate' ? 'var(--color-mint)' : '#2f6f4f'}
                />
              )}
              <circle r="0.115" fill={tone === 'slate' ? 'var(--color-mint)' : '#2f6f4f'} />
              <text
                transform={mirrored ? 'scale(-1 1)' : undefined}
                y="0.065"
                fontSize="0.18"
                fontWeight="700"
                textAnchor="middle"
                fill={tone === 'slate' ? '#20343a' : '#fff'}
                fontFamily="var(--font-adult)"
              >
                {i + 1}
              </text>
            </g>
          ))}
        </g>
      )}
    </svg>
  )
}
