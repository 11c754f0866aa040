import type { ReactNode } from 'react'
import { Tabs } from 'radix-ui'

type View<T extends string> = { id: T; name: ReactNode; view: ReactNode }

type TabbedProps<T extends string> = {
  label: string
  views: readonly View<T>[]
  /** The one that is open; what is none of them is the first. */
  at: string
  onTab: (id: T) => void
  /** What stands under the names, whichever is open. */
  beside?: ReactNode
}

const nameLook =
  'min-h-11 rounded-t-lg border-2 border-b-0 border-transparent px-4 text-lg font-bold ' +
  'data-[state=active]:border-ink data-[state=active]:bg-sheet'

/** Views of one page, a press from each other. */
export function Tabbed<T extends string>({ label, views, at, onTab, beside }: TabbedProps<T>) {
  const open = views.find((v) => v.id === at) ?? views[0]
  return (
    <Tabs.Root value={open?.id ?? ''} onValueChange={(id) => onTab(id as T)}>
      <Tabs.List aria-label={label} className="flex flex-wrap gap-1 border-b-2 border-ink">
        {views.map((v) => (
          <Tabs.Trigger key={v.id} value={v.id} className={nameLook}>
            {v.name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {beside}
      {open && (
        <Tabs.Content key={open.id} value={open.id} className="pt-5">
          {open.view}
        </Tabs.Content>
      )}
    </Tabs.Root>
  )
}
