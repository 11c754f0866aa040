import { mayI, useMe } from '../../api/shared'
import { Tabbed } from '../../ui/Tabbed'
import { useAddress } from '../../ui/useAddress'
import { Books } from './Books'
import { OwnWords } from './OwnWords'
import { Replace } from './Replace'

const plain = { tab: 'words' }

/** What the team uses over and over: its own words, its reading books, wordings that go through the library. */
export function StockPage() {
  const me = useMe()
  const [at, change] = useAddress(plain)
  const may = mayI(me.data?.rights, 'edit')
  return (
    <div className="mx-auto max-w-5xl p-3 sm:p-5">
      <h1 className="sr-only">Our stock</h1>
      <Tabbed
        label="Parts of the stock"
        at={at.tab}
        onTab={(tab) => change({ tab })}
        views={[
          { id: 'words', name: 'Our words and names', view: <OwnWords may={may} /> },
          { id: 'books', name: 'Reading books', view: <Books may={may} /> },
          { id: 'replace', name: 'Find and replace', view: <Replace may={may} /> },
        ]}
      />
    </div>
  )
}
