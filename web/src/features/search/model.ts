import type { Schemas, WallCard } from '../../api/client'

/** Something that can be gone to. */
export type Hit = {
  id: string
  group: 'Cards' | 'Lessons' | 'Classes' | 'Texts' | 'Pages' | 'Words'
  title: string
  about: string
  to: string
  search?: Record<string, string>
}

type Page = { title: string; words: string; to: string; search?: Record<string, string> }

/** Pages and their parts, with words by which somebody may look for them. */
const pages: Page[] = [
  { title: 'Library', words: 'wall cards order ledge', to: '/' },
  { title: 'Today', words: 'morning next waits notices owed changed', to: '/today' },
  { title: 'Check the library', words: 'audit contradictions slips clashes mend', to: '/audit' },
  { title: 'Bring in, take out', words: 'import export table spreadsheet xlsx csv bundle zip slides', to: '/bring' },
  { title: 'Our words and names', words: 'stock own pronunciation school street character', to: '/stock' },
  { title: 'Reading books', words: 'stock books pages week readable', to: '/stock', search: { tab: 'books' } },
  {
    title: 'Find and replace',
    words: 'stock uses wording rename everywhere',
    to: '/stock',
    search: { tab: 'replace' },
  },
  { title: 'Make a lesson', words: 'lessons introduce revise compare plan assemble', to: '/lessons' },
  { title: 'Find words', words: 'words finder cvc', to: '/words' },
  { title: 'Ear games', words: 'words sort pictures first last odd one out', to: '/words', search: { tab: 'ears' } },
  { title: 'Word play', words: 'words chain slips compounds made-up', to: '/words', search: { tab: 'play' } },
  { title: 'Texts', words: 'sentence page check read bank', to: '/texts' },
  { title: 'Letters', words: 'strokes writing handwriting practice sheet', to: '/letters' },
  { title: 'Record what is missing', words: 'booth microphone sound take voice light', to: '/booth' },
  {
    title: 'How the library sounds',
    words: 'booth loudness even withdraw voice',
    to: '/booth',
    search: { tab: 'shelf' },
  },
  { title: 'Listen blind', words: 'booth agree kappa pure', to: '/booth', search: { tab: 'hearing' } },
  { title: 'What we agreed', words: 'team accent paper capitals conventions lines', to: '/team' },
  { title: 'Our routines', words: 'team steps order of a lesson', to: '/team', search: { tab: 'routine' } },
  { title: 'People', words: 'team password role invite account', to: '/team', search: { tab: 'people' } },
  { title: 'Classes and groups', words: 'team class group', to: '/team', search: { tab: 'classes' } },
  {
    title: 'Print cards, carry pack',
    words: 'team print frieze usb zip export',
    to: '/team',
    search: { tab: 'print' },
  },
]

export type Sources = {
  cards: readonly WallCard[]
  lessons: readonly Schemas['StoreLessonRow'][]
  classes: readonly Schemas['StoreClass'][]
  texts: readonly { text_id: string; kind: string; body: string }[]
}

const perGroup = 6

/** How well a text answers: 3 begins with it, 2 has a word that does, 1 holds it, 0 not at all. */
function fits(text: string, asked: string): number {
  const t = text.toLowerCase()
  if (t.startsWith(asked)) return 3
  if (t.split(/[\s,·]+/).some((w) => w.startsWith(asked))) return 2
  return t.includes(asked) ? 1 : 0
}

function best<T>(list: readonly T[], score: (x: T) => number): T[] {
  return list
    .map((x) => ({ x, n: score(x) }))
    .filter(({ n }) => n > 0)
    .sort((a, b) => b.n - a.n)
    .slice(0, perGroup)
    .map(({ x }) => x)
}

/** What answers to what was typed, group by group; pages where nothing was typed yet. */
export function hits(text: string, from: Sources): Hit[] {
  const asked = text.trim().toLowerCase()
  const page = (p: Page): Hit => ({
    id: `page ${p.title}`,
    group: 'Pages',
    title: p.title,
    about: '',
    to: p.to,
    ...(p.search ? { search: p.search } : {}),
  })
  if (asked === '') return pages.map(page)
  const cards = best(from.cards, (c) =>
    c.pair.grapheme === asked
      ? 9
      : Math.max(fits(c.pair.grapheme, asked), fits(c.as_in, asked), fits(c.rhyme, asked) - 1),
  )
  const lessons = best(from.lessons, (l) =>
    Math.max(l.grapheme === asked ? 4 : 0, fits(`${l.class_name} ${l.purpose}`, asked)),
  )
  const word = /^(?=.*[aeiouy])[a-z'’-]{2,24}$/.test(asked)
  return [
    ...cards.map((c): Hit => ({
      id: `card ${c.card_id}`,
      group: 'Cards',
      title: c.pair.grapheme,
      about: `${c.as_in ? `as in ${c.as_in}, ` : ''}step ${c.step}, ${c.state}`,
      to: `/cards/${c.card_id}`,
    })),
    ...lessons.map((l): Hit => ({
      id: `lesson ${l.lesson_id}`,
      group: 'Lessons',
      title: l.grapheme,
      about: `${l.class_name}, ${l.purpose}, ${l.minutes} minutes${l.taught_at ? ', taught' : ''}`,
      to: `/lessons/${l.lesson_id}`,
    })),
    ...best(from.classes, (c) => fits(c.name, asked)).map((c): Hit => ({
      id: `class ${c.class_id}`,
      group: 'Classes',
      title: c.name,
      about: `${c.kind}, ${c.taught} cards known`,
      to: `/classes/${c.class_id}`,
    })),
    ...best(from.texts, (t) => fits(t.body, asked)).map((t): Hit => ({
      id: `text ${t.text_id}`,
      group: 'Texts',
      title: t.body.length > 70 ? `${t.body.slice(0, 70)} …` : t.body,
      about: t.kind,
      to: '/texts',
      search: { text: t.body },
    })),
    ...best(pages, (p) => Math.max(fits(p.title, asked), fits(p.words, asked) - 1)).map(page),
    ...(word
      ? [
          {
            id: `word ${asked}`,
            group: 'Words' as const,
            title: asked,
            about: 'can a class read it yet?',
            to: '/words',
            search: { word: asked },
          },
        ]
      : []),
  ]
}
