// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it } from 'vitest'
import { useState } from 'react'
import type { Conventions } from '../../api/client'
import { settings, valueAt } from './model'
import { Settings } from './SettingField'

afterEach(cleanup)

/** The form of a group as a lead has it. */
function Form({ group, keep = () => undefined }: { group: string; keep?: (c: Conventions) => void }) {
  const [c, set] = useState({} as Conventions)
  return (
    <Settings
      group={group}
      c={c}
      onChange={(next) => {
        keep(next)
        set(next)
      }}
    />
  )
}

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
const groups = [...new Set(settings.map((s) => s.group))]

it.each(groups)('every setting of "%s" can be found by its name', (group) => {
  render(<Form group={group} />)
  const shown = settings.filter((s) => s.group === group && !s.needs)
  for (const s of shown)
    expect(screen.getAllByLabelText(new RegExp(`^${escaped(s.label)}`)).length, s.key).toBeGreaterThan(0)
})

it('keeps what a lead turns on, chooses and writes, and nothing else', async () => {
  const user = userEvent.setup()
  const plain = (kind: string) => {
    const s = settings.find((s) => s.kind === kind && !s.needs)
    if (!s) throw new Error(`no setting of kind ${kind}`)
    return s
  }
  for (const kind of ['switch', 'choice', 'list']) {
    const s = plain(kind)
    let kept = {} as Conventions
    const { unmount } = render(<Form group={s.group} keep={(c) => (kept = c)} />)
    const field = screen.getAllByLabelText(new RegExp(`^${escaped(s.label)}`))[0] as HTMLElement
    let want: unknown
    if (kind === 'switch') {
      await user.click(field)
      want = true
    } else if (kind === 'choice') {
      want = s.choices?.at(-1)?.value
      await user.selectOptions(field, String(want))
    } else {
      await user.clear(field)
      await user.type(field, 'one , two,')
      await user.tab()
      want = ['one', 'two']
    }
    expect(valueAt(kept, s.key), s.key).toEqual(want)
    unmount()
  }
})
