// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it } from 'vitest'
import { PracticeSheet } from './PracticeSheet'

afterEach(cleanup)

async function open(text: string) {
  const user = userEvent.setup()
  render(<PracticeSheet text={text} />)
  await user.click(screen.getByRole('button', { name: /Practice sheet/ }))
  return user
}
const link = () => screen.queryByRole('link')?.getAttribute('href') ?? ''

it('prints the letters that are open, to write over, unless somebody chooses otherwise', async () => {
  const user = await open('sh')
  expect(screen.getByRole('dialog', { name: 'A practice sheet' })).toBeDefined()
  expect(new URL(link(), 'http://x').searchParams.get('text')).toBe('sh')
  expect(new URL(link(), 'http://x').searchParams.get('do')).toBe('trace')
  await user.click(screen.getByLabelText(/read, cover and write/))
  expect(new URL(link(), 'http://x').searchParams.get('do')).toBe('trace,copy')
})

it('says beside the field when there are more words than a sheet holds, and offers no sheet', async () => {
  const user = await open('a')
  const field = screen.getByLabelText(/Letters or words/)
  await user.clear(field)
  await user.type(field, Array.from({ length: 25 }, () => 'a').join(' '))
  expect(screen.getByText(/These are 25; 24 go on one sheet/)).toBeDefined()
  expect(link()).toBe('')
})

it('offers no sheet on which nothing is done', async () => {
  const user = await open('a')
  await user.click(screen.getByLabelText(/write over the dots/))
  expect(link()).toBe('')
})
