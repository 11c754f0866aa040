import { Link } from '@tanstack/react-router'
import type { CardView, Content } from '../../api/client'
import { LetterOverPicture } from '../../ui/LetterOverPicture'
import { Notice } from '../../ui/parts'
import { Writing } from '../../ui/Writing'
import { useWritten } from './api'
import type { Desk } from './model'
import { Section, TextField } from './parts'

/** The letter as the hand makes it. */
export function WriteIt({ card, desk }: { card: CardView; desk: Desk }) {
  return (
    <Section id="write">
      <Written card={card} place={desk.draft.place} />
      <div className="grid gap-4 md:grid-cols-2">
        <TextField
          desk={desk}
          field="stroke_words"
          label="Words said while writing the small letter"
          rows={3}
          max={400}
        />
        <TextField desk={desk} field="capital_words" label="Words for the capital" rows={3} max={400} />
      </div>
      <TextField desk={desk} field="materials" label="Tray or material, if this sound wants a special one" max={200} />
      <TextField
        desk={desk}
        field="workbook"
        label="Pages of your workbook"
        hint="They lie ready for the Hand step, and Close names them."
        max={120}
      />
      <Notice kind="care">
        Trays: check allergies first, nothing in mouths, noses or ears, wash hands. Your school’s own rules come first.
      </Notice>
    </Section>
  )
}

/** The letter as the hand writes it, beside the picture that it is laid over. */
function Written({ card, place }: { card: CardView; place: Content['place'] }) {
  const text = card.pair.grapheme
  const written = useWritten(text).data
  if (!written) return null
  return (
    <div className="flex flex-wrap items-center gap-6">
      <Writing written={written} className="h-44 rounded-lg border-2 border-line bg-sheet" />
      {place && card.content.picture && (
        <LetterOverPicture
          src={`/api/pictures/${card.content.picture}`}
          alt={card.content.picture_alt}
          written={written}
          place={place}
          className="w-44 border-2 border-line"
        />
      )}
      <Link
        to="/letters"
        search={{ text }}
        className="inline-flex min-h-11 items-center rounded-lg border-2 border-ink/70 bg-sheet px-4 font-bold hover:bg-marigold/25"
      >
        To the letter desk
      </Link>
    </div>
  )
}
