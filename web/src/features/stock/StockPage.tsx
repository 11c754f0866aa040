import { Tabs } from 'radix-ui'
import { mayI, useMe } from '../../api/shared'
import { useAddress } from '../../ui/useAddress'
import { Books } from './Books'
import { OwnWords } from './OwnWords'
import { Replace } from './Replace'

const tabs = { words: 'Our words and names', books: 'Reading books', replace: 'Find and replace' } as const
const plain = { tab: 'words' }
const tabLook =
  'min-h-11 rounded-t-lg border-2 border-b-0 border-transparent px-4 text-lg font-bold data-[state=active]:border-ink data-[state=active]:bg-sheet'

/** What the team uses over and over: its own words, its reading books, wordings that go through the library. */
export function StockPage() {
  const me = useMe()
  const [at, change] = useAddress(plain)
  const may = mayI(me.data?.rights, 'edit')
  return (
    <div className="mx-auto max-w-5xl p-3 sm:p-5">
      <h1 className="sr-only">Our stock</h1>
      <Tabs.Root value={at.tab in tabs ? at.tab : plain.tab} onValueChange={(tab) => change({ tab })}>
        <Tabs.List aria-label="Parts of the stock" className="flex flex-wrap gap-1 border-b-2 border-ink">
          {Object.entries(tabs).map(([id, name]) => (
            <Tabs.Trigger key={id} value={id} className={tabLook}>
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="words" className="pt-5">
          <OwnWords may={may} />
        </Tabs.Content>
        <Tabs.Content value="books" className="pt-5">
          <Books may={may} />
        </Tabs.Content>
        <Tabs.Content value="replace" className="pt-5">
          <Replace may={may} />
        </Tabs.Content>
      </Tabs.Root>
    </div>
  )
}
