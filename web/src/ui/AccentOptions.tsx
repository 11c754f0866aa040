import type { Vocabulary } from '../api/client'

/** The accents that a team or a card can be said in, for a select. */
export function AccentOptions({ vocabulary }: { vocabulary: Vocabulary | undefined }) {
  return vocabulary?.accents.map((a) => (
    <option key={a.id} value={a.id}>
      {a.name}
    </option>
  ))
}
