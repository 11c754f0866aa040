import { useEffect } from 'react'
import { Bridges } from '../../ui/Bridges'
import { Letter } from '../../ui/Letter'
import { LetterOverPicture } from '../../ui/LetterOverPicture'
import { Mouth } from '../../ui/Mouth'
import { useWriter } from '../../ui/useWriter'
import { Writing, type Written } from '../../ui/Writing'
import type { Face, Lesson, Step } from '../../api/client'
import { Shape } from '../../ui/Shape'
import type { Screen } from './model'
import type { Pack } from './usePreload'
import { Wave } from './Wave'

/** The one thing that is shown, as large as the room needs. */
export function Stage({
  screen,
  turned,
  pack,
  lesson,
  played,
}: {
  screen: Screen
  turned: boolean
  pack: Pack
  lesson: Lesson
  played: number
}) {
  const show = screen.show
  switch (show.kind) {
    case 'letter':
      return turned ? <PictureSide screen={show.face} pack={pack} /> : <BigLetter face={show.face} />
    case 'write':
      return <Write written={show.written} mirrored={turned} />
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
    case 'picture':
      return turned ? <BigLetter face={show.face} /> : <PictureSide screen={show.face} pack={pack} />
    case 'mouth': {
      const drawing = pack.mouths.get(show.face.id)
      if (!drawing) return <Sign family="mouth" name="Mouth" />
      return (
        <div onClick={(e) => e.stopPropagation()} className="text-[2.6vh]">
          <Mouth drawing={drawing} tone="slate" className="h-[46vh]" played={played} />
        </div>
      )
    }
    case 'wave':
      return <Wave take={pack.takes.get(show.face.id)} played={played} />
    case 'word':
      if (show.hidden === 'sounds' && !turned)
        return (
          <div className="flex gap-6" role="img" aria-label={`${show.bits.length} sounds`}>
            {show.bits.map((b, i) => (
              <span
                key={i}
                className={`flex size-[16vh] items-center justify-center rounded-2xl border-4 text-[7vh] ${b.target ? 'border-marigold' : 'border-chalk/70'}`}
              >
                {i + 1}
              </span>
            ))}
          </div>
        )
      return (
        <span className="text-[34vh] leading-none [--bridge-target:var(--color-marigold)]">
          <Bridges word={show.word} bits={show.bits} show={turned} />
        </span>
      )
    case 'drawing':
      return <img src={pack.words.get(show.word)} alt={show.word} className="size-[56vh]" />
    case 'sort':
      return (
        <div className="flex flex-col items-center gap-4">
          <img src={pack.words.get(show.word)} alt={show.word} className="size-[48vh]" />
          <p className="font-child text-[6vh] leading-none">{turned ? `${show.word}: ${show.side}` : '?'}</p>
        </div>
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
      if (turned) return <Text text={show.text} lesson={lesson} bridges={false} size="text-[14vh]" />
      return (
        <ul className="flex max-w-[90vw] flex-wrap justify-center gap-[3vh]">
          {show.pieces.map((p, i) => (
            <li
              key={i}
              className="rounded-xl border-4 border-dashed border-chalk px-[4vh] py-[1vh] font-child text-[11vh] leading-tight"
            >
              {p}
            </li>
          ))}
        </ul>
      )
    case 'sentence':
      return <Text text={show.text} lesson={lesson} bridges={turned} size="text-[14vh]" />
    case 'page':
      return (
        <div className="flex max-h-[72vh] flex-col items-center gap-[1vh] overflow-y-auto">
          {show.text.split('\n').map((line, i) => (
            <Text
              key={i}
              text={line}
              lesson={lesson}
              bridges={turned}
              size={show.text.length > 160 ? 'text-[6vh]' : 'text-[8vh]'}
            />
          ))}
        </div>
      )
    case 'heard':
      return (
        <div className="flex flex-col items-center gap-[4vh]">
          {turned ? (
            <p className="font-child text-[18vh] leading-none">{show.word}</p>
          ) : (
            <Shape family="ear" className="size-[30vh]" />
          )}
          <p className="font-child text-[6vh] leading-none">{turned ? show.side : '?'}</p>
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

const isGroup = (grapheme: string) => grapheme.length > 1 && !grapheme.includes('-')

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

function Text({ text, lesson, bridges, size }: { text: string; lesson: Lesson; bridges: boolean; size: string }) {
  return (
    <p
      className={`flex max-w-[88vw] flex-wrap justify-center gap-x-[0.4em] leading-snug [--bridge-target:var(--color-marigold)] ${size}`}
    >
      {text.split(' ').map((w, i) => {
        const bare = w.replace(/[^\p{L}'’-]/gu, '')
        const at = w.indexOf(bare)
        return (
          <span key={i} className="whitespace-nowrap font-child">
            {w.slice(0, at)}
            <Bridges word={bare} bits={lesson.word_bits[bare]} show={bridges} />
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

function PictureSide({ screen, pack }: { screen: Lesson['cards'][string]; pack: Pack }) {
  const src = pack.pictures.get(screen.id)
  return (
    <div className="flex flex-col items-center gap-[2vh]">
      {src ? (
        <img src={src} alt={screen.picture_alt} className="h-[56vh] rounded-2xl" />
      ) : (
        <span className="flex h-[56vh] w-[56vh] items-center justify-center rounded-2xl border-4 border-dashed border-chalk/60 text-3xl">
          no picture yet
        </span>
      )}
      <p className="max-w-[85vw] text-center font-child text-[5vh] leading-tight">
        {screen.rhyme_short || screen.rhyme}
      </p>
    </div>
  )
}

/**
 * Air writing: the letter writes itself, with the words of each stroke; turned, it is mirrored for a teacher who faces
 * the class.
 */
function Write({ written, mirrored }: { written: Written; mirrored: boolean }) {
  const writer = useWriter(written)
  const { play } = writer
  useEffect(() => {
    const t = setTimeout(() => play(1.6), 400)
    return () => clearTimeout(t)
    // It plays when the screen or the view changes, not with every frame.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [written, mirrored])
  return (
    <span className="flex flex-col items-center gap-[2vh]" data-mirrored={mirrored}>
      <Writing
        written={written}
        writer={writer}
        hand="finger"
        tone="slate"
        mirrored={mirrored}
        className="h-[52vh] max-w-[92vw]"
      />
      <span className="min-h-[9vh] max-w-[85vw] text-center font-child text-[4.6vh] leading-tight">
        {written.strokes[Math.max(0, writer.at)]?.words}
      </span>
      {mirrored && (
        <span className="rounded border-2 border-marigold px-3 text-[2.6vh]">
          mirrored: face the class and follow it
        </span>
      )}
    </span>
  )
}
