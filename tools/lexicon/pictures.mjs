// Writes internal/core/lexicon/data/pictures.tsv.gz: word, inner SVG (view box 0 0 32 32), from the icons that pictures.txt
// names and the pictures of our own in pictures/.
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { gzipSync } from 'node:zlib'

const require = createRequire(import.meta.url)
const sets = { f: require('@iconify-json/fluent-emoji-flat/icons.json'), gi: require('@iconify-json/game-icons/icons.json') }
const here = (path) => new URL(path, import.meta.url)

// game-icons are one path in one colour on a field of 512: scaled, and given the colour of the list.
function drawing(name, colour) {
  const [set, icon] = name.includes(':') ? name.split(':') : ['f', name]
  if (set === 'own') {
    const svg = readFileSync(here(`pictures/${icon}.svg`), 'utf8')
    return svg.replace(/^[^]*?<svg[^>]*>/, '').replace(/<\/svg>\s*$/, '')
  }
  const icons = sets[set]
  const found = icons.icons[icon] ?? icons.icons[icons.aliases?.[icon]?.parent]
  if (!found) return undefined
  if (set === 'f') return found.body
  return `<g transform="scale(.0625)" fill="${colour}">${found.body.replaceAll('fill="currentColor"', '')}</g>`
}

const rows = new Map()
for (const line of readFileSync(here('pictures.txt'), 'utf8').split('\n')) {
  if (!line || line.startsWith('#')) continue
  const [word, icon, colour] = line.split(' ')
  const body = drawing(icon, colour)
  if (!body) { console.error(`no icon ${icon} for ${word}`); process.exitCode = 1; continue }
  rows.set(word, body.replaceAll(/[\t\n]/g, ' '))
}
writeFileSync(here('../../internal/core/lexicon/data/pictures.tsv.gz'), gzipSync([...rows].sort().map(([w, b]) => `${w}\t${b}`).join('\n') + '\n', { level: 9 }))
if (!existsSync(here('pictures'))) console.error('no pictures of our own')
