type Named = { pair: { grapheme: string; sound: string }; as_in: string }

/** A sound as teachers name it, by a word that has it in this spelling; in phonetic signs only where no word does. */
export const asIn = (c: Named) => (c.as_in ? `as in ${c.as_in}` : `/${c.pair.sound}/`)
