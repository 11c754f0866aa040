/**
 * Step families by shape: ear round, mouth drop, eye diamond, hand square, word pill, page sheet. Colour only goes with
 * it.
 */
const shapes: Record<string, { path: string; fill: string }> = {
  ear: { path: 'M12 3a9 9 0 1 0 .01 0Z', fill: 'var(--color-sky)' },
  mouth: { path: 'M12 2C16 9 20 12 20 16a8 6.5 0 0 1-16 0C4 12 8 9 12 2Z', fill: 'var(--color-coral)' },
  eye: { path: 'M12 2 22 12 12 22 2 12Z', fill: 'var(--color-marigold)' },
  hand: { path: 'M4 4h16v16H4Z', fill: 'var(--color-mint)' },
  word: { path: 'M7 7h10a5 5 0 0 1 0 10H7A5 5 0 0 1 7 7Z', fill: 'var(--color-violet)' },
  page: { path: 'M6 2h9l4 4v16H6ZM15 2v4h4', fill: 'var(--color-rose)' },
}

export function Shape({ family, className = 'size-6' }: { family: string; className?: string }) {
  const s = shapes[family] ?? shapes.page!
  return (
    <svg viewBox="0 0 24 24" className={className} aria-hidden>
      <path d={s.path} fill={s.fill} stroke="var(--color-ink)" strokeWidth="1.6" strokeLinejoin="round" />
    </svg>
  )
}
