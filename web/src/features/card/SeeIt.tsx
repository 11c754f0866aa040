import { useState } from 'react'
import { Field, FileButton, Input, inputLook, Notice } from '../../ui/parts'
import { sendPicture } from './api'
import { thingsOf, type Desk } from './model'
import { Origin } from './Origin'
import { Section, TextField } from './parts'

/** The picture side: picture, rhyme, action. */
export function SeeIt({ desk, cautions }: { desk: Desk; cautions: string[] }) {
  return (
    <Section id="see">
      <div className="grid gap-5 md:grid-cols-[15rem_1fr]">
        <PictureField desk={desk} />
        <div className="flex flex-col gap-3">
          <Field label="Keyword" error={desk.error('keyword')}>
            {(ids) => (
              <Input
                {...ids}
                maxLength={40}
                readOnly={desk.readOnly}
                value={desk.draft.keyword}
                className="max-w-60 font-child text-xl"
                onChange={(e) => desk.change({ keyword: e.target.value })}
              />
            )}
          </Field>
          <TextField desk={desk} field="rhyme" label="Rhyme" rows={2} max={400} child />
          <TextField desk={desk} field="rhyme_short" label="Short form, for saying at once" max={120} child />
          <TextField desk={desk} field="action" label="Action" rows={2} max={300} />
          <Objects desk={desk} cautions={cautions} />
          <TextField
            desk={desk}
            field="story"
            label="Two lines rich in the sound"
            hint="You read them, the class listens: the Story step."
            rows={2}
            max={600}
          />
          <TextField
            desk={desk}
            field="verse"
            label="A verse to say or sing together"
            hint="For the Song step, and between finds."
            rows={3}
            max={600}
          />
        </div>
      </div>
    </Section>
  )
}

/** Things with the sound, in its tray: written in one line, with what to watch for below. */
function Objects({ desk, cautions }: { desk: Desk; cautions: string[] }) {
  const kept = desk.draft.objects ?? []
  const [typed, setTyped] = useState(kept.join(', '))
  const [before, setBefore] = useState(kept.join('\n'))
  // Somebody else's change, or an undo, takes the place of what was typed; one's own does not.
  if (kept.join('\n') !== before) {
    setBefore(kept.join('\n'))
    if (thingsOf(typed).join('\n') !== kept.join('\n')) setTyped(kept.join(', '))
  }
  return (
    <>
      <Field label="Things in its tray" hint="To hold up and name: bus, bell, a red boat" error={desk.error('objects')}>
        {(ids) => (
          <Input
            {...ids}
            maxLength={400}
            readOnly={desk.readOnly}
            value={typed}
            onChange={(e) => {
              setTyped(e.target.value)
              desk.change({ objects: thingsOf(e.target.value) })
            }}
          />
        )}
      </Field>
      {kept.length > 0 && cautions.length > 0 && <Notice kind="care">{cautions.join(' ')}</Notice>}
    </>
  )
}

function PictureField({ desk }: { desk: Desk }) {
  const { draft, change, readOnly } = desk
  const [said, setSaid] = useState<{ text: string; wrong: boolean }>()
  const send = async (file: File) => {
    try {
      const { picture, remarks } = await sendPicture(file)
      change({ picture })
      setSaid(remarks.length ? { text: remarks.join(' '), wrong: false } : undefined)
    } catch (e) {
      setSaid({ text: e instanceof Error ? e.message : 'The picture could not be sent.', wrong: true })
    }
  }
  return (
    <div className="flex flex-col gap-2">
      {draft.picture ? (
        <img
          src={`/api/pictures/${draft.picture}`}
          alt={draft.picture_alt}
          className="w-full rounded-lg border-2 border-line"
        />
      ) : (
        <div className="flex aspect-square items-center justify-center rounded-lg border-2 border-dashed border-ink/50 text-soft">
          needs a picture
        </div>
      )}
      {!readOnly && (
        <FileButton data-field="picture" accept="image/png,image/jpeg,image/svg+xml" onFile={(file) => void send(file)}>
          {draft.picture ? 'Another picture' : 'Add a picture'}
        </FileButton>
      )}
      {said && <Notice kind={said.wrong ? 'wrong' : 'plain'}>{said.text}</Notice>}
      {draft.picture && <Origin picture={draft.picture} readOnly={readOnly} />}
      <Field label="The picture in words">
        {(ids) => (
          <textarea
            {...ids}
            rows={2}
            maxLength={300}
            readOnly={readOnly}
            value={draft.picture_alt}
            onChange={(e) => change({ picture_alt: e.target.value })}
            className={`${inputLook} text-sm`}
          />
        )}
      </Field>
    </div>
  )
}
