/** A lamp that says when to speak, by its word, its rays and its light; then whether what was said is pure. */
export function Lamp({ lit, word, pure }: { lit: boolean; word: string; pure?: boolean }) {
  const look = lit
    ? 'bg-marigold ring-8 ring-marigold/50 ring-offset-4 ring-offset-sheet'
    : pure === undefined
      ? 'border-dashed bg-paper'
      : pure
        ? 'bg-mint'
        : 'bg-coral'
  return (
    <div
      data-lit={lit}
      className={`relative flex size-36 shrink-0 items-center justify-center rounded-full border-4 border-ink text-center leading-tight font-bold ${look} ${pure === undefined ? 'text-2xl' : 'text-7xl'}`}
    >
      {pure === undefined ? word : pure ? '✓' : '×'}
    </div>
  )
}
