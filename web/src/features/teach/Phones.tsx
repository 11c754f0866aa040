import { touch } from './Controls'
import { useDismiss, useInvite, usePhones } from './api'

/** Whether the address is one that other machines cannot use. */
const onlyHere = /^(localhost|127\.|\[::1\])/.test(location.hostname)

/** Lets a phone or a tablet join as the desk: by a code, over the school's network. */
export function Phones({ lessonId }: { lessonId: string }) {
  const invite = useInvite(lessonId)
  const phones = usePhones(lessonId)
  const dismiss = useDismiss(lessonId)
  const code = invite.data?.code
  return (
    <section aria-label="a phone as the desk" className="rounded-xl border-2 border-chalk/50 p-3">
      {code && !phones.data?.joined ? (
        <p className="text-lg">
          On the phone open <b>{location.host}/join</b> and type
          <b className="block font-child text-4xl tracking-widest" data-code={code}>
            {code.slice(0, 4)} {code.slice(4)}
          </b>
          Good once, for ten minutes.
          {onlyHere && (
            <span className="block">This server is reached from this machine alone, so no phone finds it yet.</span>
          )}
        </p>
      ) : (
        <p className="pb-2 text-lg">
          {phones.data?.joined
            ? `${phones.data.joined === 1 ? 'A phone is' : `${phones.data.joined} phones are`} the desk of this lesson.`
            : 'A phone or a tablet can be the desk, while this screen is the board.'}
        </p>
      )}
      {invite.error && <p role="alert">! {invite.error.message}</p>}
      <div className="flex flex-wrap gap-3 pt-2">
        <button type="button" className={touch} onClick={() => invite.mutate()} disabled={invite.isPending}>
          {code ? 'Another code' : 'A code for a phone'}
        </button>
        {Boolean(phones.data?.joined) && (
          <button type="button" className={touch} onClick={() => dismiss.mutate()}>
            Let go of phones
          </button>
        )}
      </div>
    </section>
  )
}
