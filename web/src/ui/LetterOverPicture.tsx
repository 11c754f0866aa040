import type { Schemas } from '../api/client'
import type { Written } from './Writing'

export type Place = Schemas['CardPlace']

/** A square picture with the letter laid over it, as the team placed it. */
export function LetterOverPicture({
  src,
  alt,
  written,
  place,
  className = '',
}: {
  src: string
  alt: string
  written: Written
  place: Place
  className?: string
}) {
  return (
    <div className={`relative aspect-square overflow-hidden rounded-lg bg-sheet ${className}`}>
      <img src={src} alt={alt} draggable={false} className="absolute inset-0 h-full w-full object-contain" />
      <svg viewBox="0 0 1 1" aria-hidden className="absolute inset-0 h-full w-full overflow-visible">
        <g
          transform={`translate(${place.x} ${place.y}) scale(${place.size}) translate(${-written.left} 0)`}
          fill="none"
          strokeLinecap="round"
          strokeLinejoin="round"
        >
          {written.strokes.map((s, i) => (
            <path key={`h${i}`} d={s.path} stroke="#fffefb" strokeWidth="0.26" opacity="0.85" />
          ))}
          {written.strokes.map((s, i) => (
            <path key={i} d={s.path} stroke="#1e2b30" strokeWidth="0.14" />
          ))}
        </g>
      </svg>
    </div>
  )
}
