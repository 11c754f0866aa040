import { useState } from 'react'
import { Bridges } from '../../ui/Bridges'
import { isGroup, Letter } from '../../ui/Letter'
import { LetterOverPicture } from '../../ui/LetterOverPicture'
import { Mouth } from '../../ui/Mouth'
import type { Bit, Face, Lesson, Step } from '../../api/client'
import { Shape } from '../../ui/Shape'
import { BoardWord } from './BoardWord'
import { HandBoard } from './HandBoard'
import { sideKey, type Place, type State } from './marks'
import type { Screen } from './model'
import { Pieces } from './Pieces'
import { SortBoard } from './SortBoard'
import type { Pack } from './usePreload'
import { Unrecorded, Wave } from './Wave'

export type StageProps = {
  screen: Screen
  index: number
  place: Place
  state: State
  pack: Pack
  lesson: Lesson
  /** The part of the word that sounds now. */
  active: number | undefined
  onBit: (bit: Bit) => void
  onOrder: (order: number[]) => void
  onPut: (word: string, side: string) => void
}

/** The one thing that is shown, as large as the room needs. Each screen has a stage of its own. */
export function Stage(props: StageProps) {
  const { screen, place, pack, lesson, state } = props
  const [before] = useState(state.play.n)
  const played = state.play.n - before // on this screen
  const show = screen.show
  const { turned } = place
  switch (show.kind) {
    case 'letter':
    case 'picture': {
      const back = show.kind === 'letter' ? 'picture' : 'letter'
      const side = (which: 'letter' | 'picture') =>
        which === 'letter' ? <BigLetter face={show.face} /> : <PictureSide face={show.face} pack={pack} />
      return <TurningCard turned={turned} front={side(show.kind)} back={side(back)} />
    }
    case 'write':
      return <HandBoard written={show.written} mirrored={turned} />
    case 'over':
      return (
        <LetterOverPicture
          src={pack.pictures.get(show.face.id) ?? ''}
          alt={show.face.picture_alt}
          written={show.written}
          place={show.place}
          className="h-[64vh]"
        />
      )
    case 'mouth':
      return <Mouths face={show.face} pack={pack} played={played} />
    case 'wave':
      return pack.takes.has(show.face.id) ? (
        <Wave take={pack.takes.get(show.face.id)} played={played} />
      ) : (
        <Unrecorded long={Boolean(show.face.stretch)} />
      )
    case 'word':
      return <WordScreen {...props} show={show} />
    case 'drawing':
      return <img src={pack.words.get(show.word)} alt={show.word} className="size-[56vh]" />
    case 'sort':
      return (
        <SortBoard
          now={show.now}
          all={show.all}
          names={show.names}
          put={sidesOf(props, show.all)}
          turned={turned}
          srcOf={(w) => pack.words.get(w)}
          onPut={props.onPut}
        />
      )
    case 'quarters':
      return (
        <ul className="grid grid-cols-2 border-4 border-chalk">
          {show.pictures.map((p) => (
            <li key={p.word} className="flex items-center gap-4 border-2 border-chalk p-[2vh]">
              <img src={pack.words.get(p.word)} alt={p.word} className="size-[27vh]" />
              <span className="w-[26vh] font-child text-[5vh] leading-tight">
                {turned ? p.word : '?'}
                {turned && <span className="block whitespace-nowrap">{p.first ? '● ○ first' : '○ ● last'}</span>}
              </span>
            </li>
          ))}
        </ul>
      )
    case 'pieces':
      if (turned)
        return <Text {...props} text={show.text} bridges={false} size={lesson.ink ? 'text-[11vh]' : 'text-[14vh]'} />
      return <Pieces pieces={show.pieces} order={props.state.orders.get(String(props.index))} onOrder={props.onOrder} />
    case 'sentence':
      return <Text {...props} text={show.text} bridges={turned} size={lesson.ink ? 'text-[11vh]' : 'text-[14vh]'} />
    case 'page':
      return (
        <div className="flex max-h-full flex-col items-center gap-[1vh] overflow-y-auto">
          {show.text.split('\n').map((line, i) => (
            <Text
              {...props}
              key={i}
              text={line}
              bridges={turned}
              size={lesson.ink ? 'text-[6vh]' : show.text.length > 160 ? 'text-[6vh]' : 'text-[8vh]'}
            />
          ))}
        </div>
      )
    case 'hidden':
      return turned ? <BigLetter face={show.face} /> : <Shape family="hand" className="size-[36vh]" />
    case 'set':
      return <GraphemeSet show={show} turned={turned} />
    case 'text':
      return (
        <p className="max-w-[88vw] text-center font-child text-[8vh] leading-snug whitespace-pre-line">{show.text}</p>
      )
    case 'sign':
      return <Sign family={show.family} name={show.name} />
  }
}

/** Where each picture of this step was put. */
const sidesOf = ({ state, screen }: StageProps, all: readonly { word: string }[]) =>
  new Map(
    all.flatMap(({ word }) => {
      const side = state.sides.get(sideKey(screen.step, word))
      return side ? [[word, side] as const] : []
    }),
  )

/** A child's own word, at once with its bridges. */
export function OwnWord({
  own,
  lesson,
  active,
  onBit,
}: Pick<StageProps, 'lesson' | 'active' | 'onBit'> & { own: NonNullable<Place['own']> }) {
  return (
    <span className="leading-none" style={{ fontSize: sizeOf(own.word) }}>
      <BoardWord word={own.word} bits={own.bits} ink={lesson.ink?.[own.word]} bridges active={active} onPress={onBit} />
    </span>
  )
}

/** As large as the word lets it be: 34 hundredths of the height, less where it is long. */
const sizeOf = (word: string) => `min(34vh, ${Math.round(130 / Math.max(3, word.length))}vw)`

function WordScreen({
  show,
  place,
  pack,
  lesson,
  active,
  onBit,
}: StageProps & { show: Extract<Screen['show'], { kind: 'word' }> }) {
  if (show.hidden === 'sounds' && !place.turned && place.shown === null)
    return (
      <div className="flex flex-col items-center gap-[5vh]">
        {show.reminders.length > 1 && <Reminders faces={show.reminders} pack={pack} />}
        <div className="flex gap-[2vw]" role="img" aria-label={`${show.bits.length} sounds`}>
          {show.bits.map((b, i) => (
            <span
              key={i}
              data-lit={active === i}
              className={`flex size-[16vh] max-w-[20vw] items-center justify-center rounded-2xl border-4 text-[7vh] ${active === i ? 'bg-marigold text-ink' : ''} ${b.target ? 'border-marigold' : 'border-chalk/70'}`}
            >
              {i + 1}
            </span>
          ))}
        </div>
      </div>
    )
  return (
    <span className="leading-none" style={{ fontSize: sizeOf(show.word) }}>
      <BoardWord
        word={show.word}
        bits={show.bits}
        ink={lesson.ink?.[show.word]}
        bridges={place.turned || place.shown !== null}
        shown={place.shown}
        active={active ?? (place.shown ? place.shown - 1 : undefined)}
        onPress={onBit}
      />
    </span>
  )
}

/** The pictures of the vowels that the class knows, for those who look for one; they do not tell which. */
function Reminders({ faces, pack }: { faces: readonly Face[]; pack: Pack }) {
  return (
    <ul aria-label="vowels to think of" className="flex gap-[2vw]">
      {faces.map((f) => {
        const src = pack.pictures.get(f.id)
        return (
          <li key={f.id} className="flex items-center gap-2 rounded-xl border-2 border-chalk/50 px-3 py-1">
            <span className="font-child text-[6vh] leading-none">{f.pair.grapheme}</span>
            {src && <img src={src} alt={f.keyword} className="size-[9vh] rounded" />}
          </li>
        )
      })}
    </ul>
  )
}

/** A card with two sides that really turns; whoever wants less motion has the other side at once. */
function TurningCard({ turned, front, back }: { turned: boolean; front: React.ReactNode; back: React.ReactNode }) {
  const side = 'turning-side col-start-1 row-start-1 flex items-center justify-center'
  return (
    <div className="turning grid" data-side={turned ? 'back' : 'front'}>
      <div className={side} aria-hidden={turned}>
        {front}
      </div>
      <div className={`${side} turning-back`} aria-hidden={!turned}>
        {back}
      </div>
    </div>
  )
}

/** The mouth of the sound; beside it that of the sound it is told from, where the card names one. */
function Mouths({ face, pack, played }: { face: Face; pack: Pack; played: number }) {
  const drawing = pack.mouths.get(face.id)
  const other = pack.contrasts.get(face.id)
  if (!drawing) return <Sign family="mouth" name="Mouth" />
  return (
    <div onClick={(e) => e.stopPropagation()} className="flex gap-[3vw] text-[2.4vh] max-sm:flex-col">
      <Mouth drawing={drawing} tone="slate" className={other ? 'h-[30vh] max-w-[22vw]' : 'h-[44vh]'} played={played} />
      {other && (
        <div className="border-l-2 border-chalk/40 pl-[3vw] max-sm:border-0 max-sm:pl-0">
          <Mouth drawing={other} tone="slate" className="h-[30vh] max-w-[22vw]" />
        </div>
      )}
    </div>
  )
}

function BigLetter({ face }: { face: Face }) {
  return (
    <Letter
      drawn={face.drawn}
      grapheme={face.pair.grapheme}
      group={isGroup(face.pair.grapheme)}
      tone="slate"
      className="h-[58vh] max-w-[92vw]"
    />
  )
}

/** Graphemes to look through; turned, the one that was asked for is ringed. Capitals stand beside their small letters. */
function GraphemeSet({ show, turned }: { show: Extract<Screen['show'], { kind: 'set' }>; turned: boolean }) {
  if (show.capitals)
    return (
      <p className="flex items-baseline gap-[8vh] font-child text-[44vh] leading-none">
        {show.faces.map((f) => (
          <span key={f.id}>
            {f.pair.grapheme.toUpperCase()} {f.pair.grapheme}
          </span>
        ))}
      </p>
    )
  return (
    <ul className="flex max-w-[90vw] flex-wrap justify-center gap-[3vh]">
      {show.faces.map((f) => (
        <li
          key={f.id}
          className={`flex min-w-[22vh] justify-center rounded-2xl border-4 px-[3vh] py-[2vh] font-child text-[18vh] leading-none ${turned && f.id === show.asked ? 'border-marigold bg-marigold text-ink' : 'border-chalk/70'}`}
        >
          {f.pair.grapheme}
        </li>
      ))}
    </ul>
  )
}

function Text({ text, lesson, bridges, size, onBit }: StageProps & { text: string; bridges: boolean; size: string }) {
  return (
    <p
      className={`flex max-w-[88vw] flex-wrap justify-center gap-x-[0.4em] leading-snug [--bridge-target:var(--color-marigold)] ${size}`}
    >
      {text.split(' ').map((w, i) => {
        const bare = w.replace(/[^\p{L}'’-]/gu, '')
        const at = w.indexOf(bare)
        const bits = lesson.word_bits[bare] ?? []
        const ink = lesson.ink?.[bare]
        return (
          <span key={i} className="whitespace-nowrap font-child">
            {w.slice(0, at)}
            {bridges || ink ? (
              <BoardWord
                inLine
                word={bare}
                bits={bits}
                ink={ink}
                bridges={bridges}
                onPress={bridges ? onBit : undefined}
              />
            ) : (
              <Bridges word={bare} bits={bits} show={false} />
            )}
            {w.slice(at + bare.length)}
          </span>
        )
      })}
    </p>
  )
}

function Sign({ family, name }: { family: Step['family']; name: string }) {
  return (
    <div className="flex flex-col items-center gap-[4vh]" role="img" aria-label={name}>
      <Shape family={family} className="size-[40vh]" />
    </div>
  )
}

function PictureSide({ face, pack }: { face: Face; pack: Pack }) {
  const src = pack.pictures.get(face.id)
  return (
    <div className="flex flex-col items-center gap-[2vh]">
      {src ? (
        <img src={src} alt={face.picture_alt} className="h-[56vh] rounded-2xl" />
      ) : (
        <span className="flex h-[56vh] w-[56vh] items-center justify-center rounded-2xl border-4 border-dashed border-chalk/60 text-3xl">
          no picture yet
        </span>
      )}
      <p className="max-w-[85vw] text-center font-child text-[5vh] leading-tight">{face.rhyme_short || face.rhyme}</p>
    </div>
  )
}
