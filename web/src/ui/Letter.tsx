import { Writing, type Written } from './Writing'

/**
 * A grapheme on its writing lines, as the team writes it where it has strokes, else in the font; letter groups are
 * underlined as a team writes them.
 */
const X_HEIGHT = 51 // of Andika, in hundredths of the font size
const CAP_HEIGHT = 72
const DROP = 30

export function Letter({
  grapheme,
  group,
  drawn,
  className = '',
  tone = 'paper',
}: {
  grapheme: string
  group: boolean
  drawn?: Written | undefined
  className?: string
  tone?: 'paper' | 'slate'
}) {
  if (drawn)
    return (
      <Writing written={drawn} tone={tone} numbers={false} label={grapheme.split('').join(' ')} className={className} />
    )
  const text = grapheme.replace('-', '–')
  const width = Math.max(110, text.length * 62 + 20)
  const base = 92
  const ink = tone === 'slate' ? 'var(--color-chalk)' : 'var(--color-ink)'
  const faint = tone === 'slate' ? '#5d747b' : 'var(--color-line)'
  return (
    <svg viewBox={`0 0 ${width} 140`} className={className} role="img" aria-label={grapheme.split('').join(' ')}>
      <path d={`M4 ${base - CAP_HEIGHT}H${width - 4}M4 ${base + DROP}H${width - 4}`} stroke={faint} strokeWidth="0.8" />
      <path d={`M4 ${base - X_HEIGHT}H${width - 4}`} stroke={faint} strokeWidth="0.9" strokeDasharray="4 3" />
      <path d={`M4 ${base}H${width - 4}`} stroke={ink} strokeWidth="1.4" />
      <text x={width / 2} y={base} fontSize="100" textAnchor="middle" fill={ink} fontFamily="var(--font-child)">
        {text}
      </text>
      {group && (
        <path
          d={`M${width / 2 - text.length * 25} ${base + DROP - 11}H${width / 2 + text.length * 25}`}
          stroke="var(--color-coral)"
          strokeWidth="4"
          strokeLinecap="round"
        />
      )}
    </svg>
  )
}

export const isGroup = (grapheme: string) => grapheme.length > 1 && !grapheme.includes('-')
