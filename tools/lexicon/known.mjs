// Writes internal/core/lexicon/data/known.txt.gz: words of up to 7 letters of any list, to tell what is no made-up word.
import { readFileSync, writeFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'
import wordListPath from 'word-list'
import { cuss } from 'cuss'
import { dictionary } from 'cmu-pronouncing-dictionary'

const words = new Set()
const add = (w) => { w = w.toLowerCase(); if (/^[a-z]{2,7}$/.test(w)) words.add(w) }
readFileSync(wordListPath, 'utf8').split('\n').forEach(add)
for (const f of ['british-english-large', 'american-english-large']) readFileSync(`/usr/share/dict/${f}`, 'utf8').split('\n').forEach(add)
Object.keys(cuss).forEach(add)
// Sounds of all these words that the dictionary has, in its own symbols without stress: homophones of a made-up word.
const sounds = new Set()
for (const [w, p] of Object.entries(dictionary)) {
  if (words.has(w.replace(/\(\d\)$/, ''))) sounds.add(p.replace(/ #.*/, '').replaceAll(/\d/g, ''))
}
const text = [...words].sort().join('\n') + '\n\n' + [...sounds].filter((s) => s.split(' ').length <= 6).sort().join('\n') + '\n'
writeFileSync(new URL('../../internal/core/lexicon/data/known.txt.gz', import.meta.url), gzipSync(text, { level: 9 }))
console.error(words.size, sounds.size)
