import { lazy, Suspense, useEffect, useState } from 'react'
import { Outlet, useNavigate, useRouterState } from '@tanstack/react-router'
import { CallError, type Me } from '../api/client'
import { useLive } from '../api/live'
import { fetchForLater, keepFor } from '../api/offline'
import { useKnownJobs } from '../api/jobs'
import { useOutbox } from '../api/outbox'
import { useMe } from '../api/shared'
import { Failed, Waiting } from '../ui/parts'
import { closeUndo, useUndo } from '../ui/undo'
import { useKeys } from '../ui/useKeys'
import { useStill } from '../ui/useStill'
import { Header } from './Header'
import { useArrival } from './useArrival'

const Shortcuts = lazy(() => import('./Shortcuts'))
const SearchDialog = lazy(() => import('../features/search/SearchDialog'))
const UndoBar = lazy(() => import('./UndoBar'))
const JobsTray = lazy(() => import('../ui/jobs/Tray'))
const SignInSheet = lazy(() => import('../features/signin/SignInSheet').then((m) => ({ default: m.SignInSheet })))
const SignInPage = lazy(() => import('../features/signin/SignInPage').then((m) => ({ default: m.SignInPage })))

export function Shell() {
  const me = useMe()
  const joining = useRouterState({ select: (s) => ['/join', '/welcome', '/come-in'].includes(s.location.pathname) })
  const teaching = useTeaching() // nothing covers the stage while a class looks at it
  const ended = me.error instanceof CallError && me.error.status === 401
  const again = useStill(ended && me.data !== undefined && !teaching)
  if (joining) return <Joining />
  if (me.isPending) return <Waiting what="Opening the cupboard …" />
  if (ended && !me.data)
    return (
      <Suspense>
        <SignInPage />
      </Suspense>
    )
  if (me.error && !me.data) return <Failed error={me.error} />
  if (me.data.desk) return <DeskPhone me={me.data} lessonId={me.data.desk} />
  return (
    <>
      <SignedIn me={me.data} />
      {again && (
        <Suspense>
          <SignInSheet who={me.data} />
        </Suspense>
      )}
    </>
  )
}

/** The pages that are open to somebody without an account. */
function Joining() {
  useArrival()
  return <Outlet />
}

/** A phone that joined a lesson by a code: it is the desk of that lesson, and of nothing else. */
function DeskPhone({ me, lessonId }: { me: Me; lessonId: string }) {
  useOutbox(me.member_id)
  useArrival()
  const there = useRouterState({ select: (s) => s.location.pathname === `/teach/${lessonId}` })
  const go = useNavigate()
  useEffect(() => {
    if (!there) void go({ to: '/teach/$lessonId', params: { lessonId }, search: { face: 'desk' }, replace: true })
  }, [there, go, lessonId])
  return there ? <Outlet /> : null
}

const useTeaching = () => useRouterState({ select: (s) => s.location.pathname.startsWith('/teach/') })

const shellKeys = { '/': 'search cards, lessons, classes, texts, words and pages' }

function SignedIn({ me }: { me: Me }) {
  const [began] = useState(me.member_id)
  useEffect(() => {
    if (me.member_id !== began) location.assign('/') // somebody else signed in: nothing of the former page may stay
  }, [me.member_id, began])
  const [late, setLate] = useState(false)
  useEffect(() => {
    const later = setTimeout(() => {
      setLate(true)
      void keepFor(me.member_id).then(fetchForLater)
    }, 4000)
    return () => clearTimeout(later)
  }, [me.member_id])
  useLive()
  useOutbox(me.member_id)
  useArrival()
  const [keysShown, setKeysShown] = useState(false)
  const [searching, setSearching] = useState(false)
  const teaching = useTeaching()
  useKeys(
    { '?': () => setKeysShown(true), '/': teaching ? undefined : () => setSearching(true) },
    { everywhere: true, says: teaching ? undefined : shellKeys },
  )
  const undo = useUndo()
  const jobs = useKnownJobs()
  const path = useRouterState({ select: (s) => s.location.pathname })
  useEffect(() => closeUndo, [path])
  const above = (
    <>
      <Suspense>
        {keysShown && <Shortcuts onClose={() => setKeysShown(false)} />}
        {searching && <SearchDialog onClose={() => setSearching(false)} />}
        {undo && <UndoBar />}
      </Suspense>
      {/* Of its own: what comes late must not hide a dialog that is open. */}
      <Suspense>{(late || jobs) && !teaching && <JobsTray />}</Suspense>
    </>
  )
  if (teaching)
    return (
      <>
        <Outlet />
        {above}
      </>
    )
  return (
    <div className="flex min-h-screen flex-col">
      <a href="#main" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-marigold focus:p-3">
        To the content
      </a>
      <Header me={me} onKeys={() => setKeysShown(true)} onSearch={() => setSearching(true)} />
      <main id="main" className="flex-1">
        <Outlet />
      </main>
      {above}
    </div>
  )
}
