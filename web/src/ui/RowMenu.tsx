import { DropdownMenu } from 'radix-ui'

export type Action = { name: string; hint?: string; run: () => void; disabled?: boolean | undefined }

/** What else can be done with one thing of a list. */
export function RowMenu({ label, actions }: { label: string; actions: readonly Action[] }) {
  if (actions.length === 0) return null
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={label}
        className="flex min-h-11 min-w-11 items-center justify-center rounded-full text-xl font-bold hover:bg-marigold/40"
      >
        <span aria-hidden>⋯</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal container={document.querySelector('main')}>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 min-w-56 rounded-lg border-2 border-ink bg-paper p-2 text-ink shadow-2xl"
        >
          {actions.map((a) => (
            <DropdownMenu.Item
              key={a.name}
              disabled={a.disabled ?? false}
              onSelect={a.run}
              className="flex min-h-11 cursor-pointer items-center justify-between gap-6 rounded-md px-4 font-bold outline-none data-disabled:opacity-50 data-highlighted:bg-marigold/40"
            >
              {a.name} {a.hint && <kbd className="rounded border border-current px-1.5 text-sm">{a.hint}</kbd>}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
