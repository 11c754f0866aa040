import type { Finding } from './api'

const names: Record<Finding['code'], string> = {
  contradiction: 'A card against its own sound',
  'same-keyword': 'One keyword for two sounds',
  'same-picture': 'One picture for two sounds',
  'same-action': 'One action for two sounds',
  'same-rhyme': 'One rhyme for two sounds',
  'other-spelling': 'The sound, spelled otherwise',
  word: 'Words that do not belong',
  slip: 'Slips of the pen',
  sentence: 'Sentences',
  'none-readable': 'No sentence that can be read yet',
  'few-words': 'Too few words that can be read yet',
  breath: 'Too long for one breath',
  thing: 'Things in a tray without its sound',
  'second-name': 'Pictures with a second name',
  loudness: 'Louder or softer than the others',
  unlike: 'Unlike its neighbours',
}

export type Group = { code: Finding['code']; name: string; list: Finding[] }

/** The findings by kind, in the order in which they came; those that are left stand apart. */
export function groups(findings: readonly Finding[]): { open: Group[]; left: Finding[] } {
  const open: Group[] = []
  for (const f of findings) {
    if (f.left) continue
    const group = open.find((g) => g.code === f.code)
    if (group) group.list.push(f)
    else open.push({ code: f.code, name: names[f.code], list: [f] })
  }
  return { open, left: findings.filter((f) => f.left) }
}
