import { useNavigate, useRouterState } from '@tanstack/react-router'
import { DropdownMenu } from 'radix-ui'
import type { ReactNode } from 'react'
import type { Me } from '../api/client'
import { places } from './places'

const row =
  'flex min-h-11 cursor-pointer items-center rounded-md px-4 text-lg font-bold outline-none data-highlighted:bg-marigold/40'
const sheet = 'z-50 min-w-56 rounded-lg border-2 border-ink bg-paper p-2 text-ink shadow-2xl'

type Account = {
  name: string
  role: string
  team: string
  others: Me['teams']
  onTeam: (memberId: string) => void
  onKeys: () => void
  onSignOut: () => void
}

function AccountRows({ name, role, team, others, onTeam, onKeys, onSignOut }: Account) {
  return (
    <>
      <DropdownMenu.Label className="px-4 py-2">
        <b>{name}</b>, {role}
        <span className="block text-sm text-soft">{team}</span>
      </DropdownMenu.Label>
      {others.map((t) => (
        <DropdownMenu.Item key={t.member_id} className={row} onSelect={() => onTeam(t.member_id)}>
          <span>
            To {t.team}
            <span className="block text-sm font-normal text-soft">
              {t.role}
              {t.waiting > 0 && `, ${t.waiting} new for you`}
            </span>
          </span>
        </DropdownMenu.Item>
      ))}
      <DropdownMenu.Item className={row} onSelect={onKeys}>
        Keys of this page
      </DropdownMenu.Item>
      <DropdownMenu.Item className={row} onSelect={onSignOut}>
        Sign out
      </DropdownMenu.Item>
    </>
  )
}

/** Who is signed in, and what goes with that. */
export function AccountMenu({ children, ...account }: Account & { children: ReactNode }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>{children}</DropdownMenu.Trigger>
      <DropdownMenu.Portal container={document.querySelector('header')}>
        <DropdownMenu.Content align="end" sideOffset={6} className={sheet}>
          <AccountRows {...account} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

/** All pages and the account in one menu, where the window is narrow. */
export function PageMenu({ children, ...account }: Account & { children: ReactNode }) {
  const go = useNavigate()
  const at = useRouterState({ select: (s) => s.location.pathname })
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>{children}</DropdownMenu.Trigger>
      <DropdownMenu.Portal container={document.querySelector('header')}>
        <DropdownMenu.Content align="end" sideOffset={6} className={sheet}>
          {places.map((p) => (
            <DropdownMenu.Item
              key={p.to}
              className={`${row} ${at === p.to ? 'bg-marigold/25' : ''}`}
              onSelect={() => void go({ to: p.to })}
            >
              {p.name}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-2 border-t-2 border-line" />
          <AccountRows {...account} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
