import { Check } from '../../ui/parts'
import { asIn } from '../../ui/pair'
import { useWall } from '../../api/shared'

type Props = { list: readonly string[]; lead: boolean; onChange: (list: string[]) => void }

/** Spellings of which all sounds are taught and answered at once. */
export function Together({ list, lead, onChange }: Props) {
  const wall = useWall().data ?? []
  const spellings = [...new Set(wall.map((c) => c.pair.grapheme))]
    .map((g) => ({ grapheme: g, sounds: wall.filter((c) => c.pair.grapheme === g).map(asIn) }))
    .filter((s) => s.sounds.length > 1)
  if (spellings.length === 0) return null
  return (
    <fieldset disabled={!lead} className="flex flex-col gap-1">
      <legend className="text-sm font-bold">Spellings taught with all their sounds at once</legend>
      <span className="flex flex-wrap gap-x-5">
        {spellings.map(({ grapheme, sounds }) => (
          <Check
            key={grapheme}
            checked={list.includes(grapheme)}
            onChange={(e) => onChange(e.target.checked ? [...list, grapheme] : list.filter((g) => g !== grapheme))}
          >
            <b className="font-child text-xl">{grapheme}</b> <span className="text-sm">{sounds.join(', ')}</span>
          </Check>
        ))}
      </span>
      <span className="text-sm text-soft">Otherwise each sound is a lesson of its own, in the order of the steps.</span>
    </fieldset>
  )
}
