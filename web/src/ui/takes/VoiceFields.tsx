import { Field, Input, Check } from '../parts'

type Props = {
  speaker: string
  onSpeaker: (speaker: string) => void
  consent: boolean
  onConsent: (consent: boolean) => void
  wrong: { speaker?: string | undefined; consent?: string | undefined }
}

/** Whose voice is recorded, and that they agree to it. */
export function VoiceFields({ speaker, onSpeaker, consent, onConsent, wrong }: Props) {
  return (
    <div className="grid gap-3 md:grid-cols-2">
      <Field label="Whose voice?" hint="An adult of the team, never a child." error={wrong.speaker}>
        {(ids) => <Input {...ids} value={speaker} maxLength={80} onChange={(e) => onSpeaker(e.target.value)} />}
      </Field>
      <div className="flex flex-col justify-center">
        <Check checked={consent} onChange={(e) => onConsent(e.target.checked)}>
          The speaker agrees that the recording is kept. It can be withdrawn at any time.
        </Check>
        {wrong.consent && (
          <p role="alert" className="text-sm font-bold text-brick">
            ! {wrong.consent}
          </p>
        )}
      </div>
    </div>
  )
}
