import { lazy, Suspense, useEffect, useState } from 'react'
import { Link, Outlet, useRouterState } from '@tanstack/react-router'
import { CallError, client, data, queryClient, type Me } from '../api/client'
import { useLive, useLiveState } from '../api/live'
import { useOutbox } from '../api/outbox'
import { useMe } from '../api/shared'
import { Failed, Waiting } from '../ui/parts'
import { Letters } from './Letters'

const SignInSheet = lazy(() => import('../features/signin/SignInSheet').then((m) => ({ default: m.SignInSheet })))
const SignInPage = lazy(() => import('../features/signin/SignInPage').then((m) => ({ default: m.SignInPage })))

export function Shell() {
  const me = useMe()
  const teaching = useTeaching() // nothing covers the stage while a class looks at it
  if (me.isPending) return <Waiting what="Opening the cupboard …" />
  const ended = me.error instanceof CallError && me.error.status === 401
  if (ended && !me.data)
    return (
      <Suspense>
        <SignInPage />
      </Suspense>
    )
  if (me.error && !me.data) return <Failed error={me.error} />
  return (
    <>
      <SignedIn me={me.data} />
      {ended && !teaching && (
        <Suspense>
          <SignInSheet who={me.data} />
        </Suspense>
      )}
    </>
  )
}

const useTeaching = () => useRouterState({ select: (s) => s.location.pathname.startsWith('/teach/') })

const tab =
  'flex min-h-11 items-center rounded-md px-4 font-bold text-chalk/90 hover:bg-chalk/10 aria-[current=page]:bg-chalk aria-[current=page]:text-slate'

function SignedIn({ me }: { me: Me }) {
  const { name, role, team } = me
  const [began] = useState(me.member_id)
  useEffect(() => {
    if (me.member_id !== began) location.assign('/') // somebody else signed in: nothing of the former page may stay
  }, [me.member_id, began])
  useLive()
  useOutbox(me.member_id)
  const live = useLiveState()
  const teaching = useTeaching()
  if (teaching) return <Outlet />
  const signOut = async () => {
    await data(client.DELETE('/session'))
    queryClient.clear()
    location.assign('/')
  }
  return (
    <div className="flex min-h-screen flex-col">
      <a href="#main" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-marigold focus:p-3">
        To the content
      </a>
      <header className="slate flex flex-wrap items-center gap-x-4 gap-y-1 bg-slate px-5 py-2 text-chalk">
        <span className="mr-2 font-child text-2xl font-bold tracking-wide text-marigold">Bright Chalk</span>
        <nav aria-label="Main" className="flex gap-1">
          <Link to="/" activeOptions={{ exact: true, includeSearch: false }} className={tab}>
            Library
          </Link>
          <Link to="/lessons" className={tab}>
            Lessons
          </Link>
          <Link to="/words" className={tab}>
            Words
          </Link>
          <Link to="/texts" className={tab}>
            Texts
          </Link>
          <Link to="/letters" className={tab}>
            Letters
          </Link>
          <Link to="/booth" className={tab}>
            Booth
          </Link>
          <Link to="/team" className={tab}>
            Team
          </Link>
        </nav>
        <div className="ml-auto flex items-center gap-3 text-sm">
          <Letters who={me.member_id} />
          <span
            role="status"
            className="flex items-center gap-2"
            title={
              live === 'live' ? 'Changes by others show at once' : 'The line to the server is broken; it is tried again'
            }
          >
            <span aria-hidden className={`size-3 ${live === 'live' ? 'rounded-full bg-mint' : 'rotate-45 bg-coral'}`} />
            {live === 'live' ? 'live' : 'waiting for the line'}
          </span>
          <span>
            <span className="max-[1400px]:hidden">{team} · </span>
            <b>{name}</b>, {role}
          </span>
          <button
            type="button"
            onClick={() => void signOut()}
            className="min-h-11 rounded-md px-3 font-bold underline underline-offset-4 hover:bg-chalk/10"
          >
            Sign out
          </button>
        </div>
      </header>
      <main id="main" className="flex-1">
        <Outlet />
      </main>
    </div>
  )
}
