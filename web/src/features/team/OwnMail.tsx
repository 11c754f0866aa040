import { Notice, Check } from '../../ui/parts'
import { useMailWish, useSetMailWish } from './api'

/** Whether somebody gets a mail a day; nothing where the server sends none. */
export function OwnMail() {
  const wish = useMailWish()
  const set = useSetMailWish()
  if (!wish.data?.possible) return null
  return (
    <div className="flex flex-col gap-2">
      <Check checked={wish.data.wanted} disabled={set.isPending} onChange={(e) => set.mutate(e.target.checked)}>
        One e-mail a day, when something waits for you that you have not seen
      </Check>
      {wish.data.refused_at && wish.data.wanted && (
        <Notice kind="care">
          Mail to your address came back on {new Date(wish.data.refused_at).toLocaleDateString('en-GB')}. No more is
          sent until you tick this again.
          <button className="ml-2 min-h-11 font-bold underline" onClick={() => set.mutate(true)}>
            Try my address again
          </button>
        </Notice>
      )}
      {(wish.error ?? set.error) && <Notice kind="wrong">{(wish.error ?? set.error)?.message}</Notice>}
    </div>
  )
}
