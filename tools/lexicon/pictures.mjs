// Writes internal/core/lexicon/data/pictures.tsv: word, inner SVG (view box 0 0 32 32), from the icons that pictures.txt names.
import { readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'

const set = createRequire(import.meta.url)('@iconify-json/fluent-emoji-flat/icons.json')
const rows = []
for (const line of readFileSync(new URL('pictures.txt', import.meta.url), 'utf8').split('\n')) {
  if (!line || line.startsWith('#')) continue
  const [word, icon] = line.split(' ')
  const found = set.icons[icon] ?? set.icons[set.aliases?.[icon]?.parent]
  if (!found) { console.error(`no icon ${icon} for ${word}`); process.exitCode = 1; continue }
  rows.push(`${word}\t${found.body.replaceAll(/[\t\n]/g, ' ')}`)
}
writeFileSync(new URL('../../internal/core/lexicon/data/pictures.tsv', import.meta.url), rows.join('\n') + '\n')
