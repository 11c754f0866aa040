import { useEffect } from 'react'

/** Keeps the screen on while a lesson is held; where the browser cannot, nothing happens. */
export function useAwake(on: boolean) {
  useEffect(() => {
    if (!on || !('wakeLock' in navigator)) return
    let lock: WakeLockSentinel | undefined
    let over = false
    const ask = () => {
      if (document.visibilityState !== 'visible') return
      navigator.wakeLock.request('screen').then(
        (l) => {
          if (over) void l.release()
          else lock = l
        },
        () => undefined, // the battery is low, or the page may not
      )
    }
    ask()
    document.addEventListener('visibilitychange', ask) // a hidden page loses its lock
    return () => {
      over = true
      document.removeEventListener('visibilitychange', ask)
      void lock?.release()
    }
  }, [on])
}

/** Full screen on and off. */
export function toggleFullScreen() {
  if (document.fullscreenElement) void document.exitFullscreen()
  else void document.documentElement.requestFullscreen().catch(() => undefined)
}
