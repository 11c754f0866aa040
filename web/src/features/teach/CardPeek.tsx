import { useEffect } from 'react'
import type { Face } from '../../api/client'
import { Letter } from '../../ui/Letter'
import { useWriter } from '../../ui/useWriter'
import { Writing, type Written } from '../../ui/Writing'

/** What a press on a bridge brings: the card's picture and rhyme, and its letter that writes itself. */
export function CardPeek({ face, src, onClose }: { face: Face; src: string | undefined; onClose: () => void }) {
  const written = face.writing ?? face.drawn
  return (
    <div
      role="dialog"
      aria-label={`card of ${face.pair.grapheme}`}
      onClick={(e) => {
        e.stopPropagation()
        onClose()
      }}
      className="absolute inset-0 z-20 flex cursor-pointer flex-wrap items-center justify-center gap-x-[6vw] gap-y-2 overflow-hidden bg-slate-deep p-4"
    >
      {src && <img src={src} alt={face.picture_alt} className="max-h-[44vh] max-w-[42vw] rounded-2xl" />}
      {written ? (
        <Written written={written} />
      ) : (
        <Letter grapheme={face.pair.grapheme} group={false} tone="slate" className="h-[40vh] max-w-[44vw]" />
      )}
      {(face.rhyme_short || face.rhyme) && (
        <p className="w-full text-center font-child text-[5vh] leading-tight">{face.rhyme_short || face.rhyme}</p>
      )}
      <button
        type="button"
        autoFocus
        onClick={onClose}
        className="absolute top-3 right-3 min-h-12 rounded-lg border-2 border-chalk/60 px-4 text-lg font-bold"
      >
        close
      </button>
    </div>
  )
}

function Written({ written }: { written: Written }) {
  const writer = useWriter(written)
  const { play } = writer
  useEffect(() => {
    const t = setTimeout(() => play(1.3), 500)
    return () => clearTimeout(t)
    // It writes once, when it is opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [written])
  return <Writing written={written} writer={writer} hand="finger" tone="slate" className="h-[40vh] max-w-[46vw]" />
}
