// Writes internal/core/lexicon/data/oceans.txt: American words and spellings with the British ones, as far as the lexicon
// holds both.
import { readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'

const here = (path) => new URL(path, import.meta.url)
const spellings = createRequire(import.meta.url)('american-british-english-translator/data/british_spellings.json')
const rows = new Set(readFileSync(here('../../internal/core/lexicon/data/words.txt'), 'utf8').split('\n').map((l) => l.split('\t')[0]))
const lines = readFileSync(here('oceans.txt'), 'utf8').split('\n').filter((l) => l && !l.startsWith('#'))
const have = new Set(lines.map((l) => l.split(' ')[0]))
for (const [british, american] of Object.entries(spellings)) {
  if (rows.has(american) && rows.has(british) && !have.has(american)) lines.push(`${american} ${british}`)
}
writeFileSync(here('../../internal/core/lexicon/data/oceans.txt'), '# American, British. Made by tools/lexicon/oceans.mjs; do not edit.\n' + lines.join('\n') + '\n')
