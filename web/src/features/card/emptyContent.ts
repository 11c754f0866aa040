import type { Content } from '../../api/client'

/** A card on which nothing is written, for tests. */
export const emptyContent: Content = {
  keyword: '',
  picture: '',
  picture_alt: '',
  rhyme: '',
  rhyme_short: '',
  action: '',
  mouth_cue: '',
  slip: '',
  contrast: '',
  stroke_words: '',
  capital_words: '',
  materials: '',
  workbook: '',
  objects: [],
  words: [],
  rejected: [],
  sentences: [],
  exceptions: [],
  notes: '',
}
