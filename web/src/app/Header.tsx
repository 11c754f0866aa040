import { Link } from '@tanstack/react-router'
import { lazy, Suspense, type ButtonHTMLAttributes } from 'react'
import { client, data, queryClient, type Me } from '../api/client'
import { keepFor } from '../api/offline'
import { useLiveState } from '../api/live'
import { Key } from '../ui/parts'
import { useWide } from '../ui/useMedia'
import { Letters } from './Letters'
import { places } from './places'

const AccountMenu = lazy(() => import('./Menu').then((m) => ({ default: m.AccountMenu })))
const PageMenu = lazy(() => import('./Menu').then((m) => ({ default: m.PageMenu })))

const tab =
  'flex min-h-11 items-center rounded-md px-3 font-bold text-chalk/90 hover:bg-chalk/10 xl:px-4 aria-[current=page]:bg-chalk aria-[current=page]:text-slate'

async function signOut() {
  await data(client.DELETE('/session'))
  queryClient.clear()
  await keepFor('nobody')
  location.assign('/')
}

/** Goes on in another one of the person's teams. Nothing of the former one may stay. */
async function toTeam(memberId: string) {
  await data(client.PUT('/session/team', { body: { member_id: memberId } }))
  queryClient.clear()
  await keepFor(memberId)
  location.assign('/today')
}

/** The top of every page, one row: the pages themselves where there is room for them, else in a menu. */
export function Header({ me, onKeys, onSearch }: { me: Me; onKeys: () => void; onSearch: () => void }) {
  const room = useWide()
  const account = {
    name: me.name,
    role: me.role,
    team: me.team,
    others: me.teams.filter((t) => t.member_id !== me.member_id),
    onTeam: (id: string) => void toTeam(id),
    onKeys,
    onSignOut: () => void signOut(),
  }
  const initials = (disabled: boolean) => (
    <Round disabled={disabled} aria-label={`${me.initials}: ${me.name}, ${me.role}`}>
      {me.initials}
    </Round>
  )
  const menu = (disabled: boolean) => (
    <button
      type="button"
      disabled={disabled}
      className="flex min-h-11 items-center gap-2 rounded-md border-2 border-chalk/60 px-3 font-bold hover:bg-chalk/10"
    >
      <span aria-hidden>☰</span> Menu
    </button>
  )
  return (
    <header className="only-screen slate flex min-h-15 items-center gap-x-1 bg-slate px-2 py-2 text-chalk sm:gap-x-3 sm:px-5">
      <Link
        to="/"
        className="mr-1 flex min-h-11 shrink-0 items-center font-child text-lg font-bold min-[24rem]:text-2xl tracking-wide whitespace-nowrap text-marigold"
      >
        Bright Chalk
      </Link>
      {room && (
        <nav aria-label="Main" className="flex">
          {places.map((p) => (
            <Link
              key={p.to}
              to={p.to}
              className={tab}
              {...(p.to === '/' ? { activeOptions: { exact: true, includeSearch: false } } : {})}
            >
              {p.name}
            </Link>
          ))}
        </nav>
      )}
      <div className="ml-auto flex items-center gap-2 text-sm sm:gap-3 whitespace-nowrap">
        <button
          type="button"
          onClick={onSearch}
          aria-label="Search"
          className="flex min-h-11 min-w-11 items-center justify-center gap-2 rounded-md border-2 border-chalk/40 px-3 hover:bg-chalk/10"
        >
          <svg aria-hidden viewBox="0 0 20 20" className="size-5" fill="none" stroke="currentColor" strokeWidth="2.4">
            <circle cx="8.5" cy="8.5" r="5.5" />
            <path d="M13 13l5 5" strokeLinecap="round" />
          </svg>
          <span aria-hidden className="max-xl:hidden">
            <Key>/</Key>
          </span>
        </button>
        <Letters who={me.member_id} />
        <Live />
        <span className="hidden 2xl:inline">{me.team}</span>
        {room ? (
          <Suspense fallback={initials(true)}>
            <AccountMenu {...account}>{initials(false)}</AccountMenu>
          </Suspense>
        ) : (
          <Suspense fallback={menu(true)}>
            <PageMenu {...account}>{menu(false)}</PageMenu>
          </Suspense>
        )}
      </div>
    </header>
  )
}

function Round(props: ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button
      type="button"
      {...props}
      className="flex size-11 items-center justify-center rounded-full border-2 border-chalk/60 text-base font-bold hover:bg-chalk/10"
    />
  )
}

function Live() {
  const live = useLiveState() === 'live'
  return (
    <span
      role="status"
      className="flex items-center gap-2"
      title={live ? 'Changes by others show at once' : 'The line to the server is broken; it is tried again'}
    >
      <span aria-hidden className={`size-3 ${live ? 'rounded-full bg-mint' : 'rotate-45 bg-coral'}`} />
      <span className={live ? 'sr-only xl:not-sr-only' : 'sr-only sm:not-sr-only'}>
        {live ? 'live' : 'waiting for the line'}
      </span>
    </span>
  )
}
