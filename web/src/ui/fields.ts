import fields from '../api/fields.json'

/** What else of a card is named: what stands beside its fields, and all of it. */
const others: Record<string, string> = {
  '': 'the whole card',
  all: 'the whole card',
  state: 'state',
  take: 'recorded sound',
  letter: 'strokes of the letter',
}

const names = new Map(fields.map((f) => [f.name, f.label]))

export const fieldName = (f: string) => names.get(f) ?? others[f] ?? f

/** The fields of a card that people write, in the order of its page. */
export const writtenFields = fields.filter((f) => f.written).map((f) => f.name)
