import { eachText } from './each-text'
import type { SchemeId } from './scheme'

/**
 * What a thing is called where it is worked on. Sentences hold the word in braces, `{breaker}` or `{A ground}`, and
 * `inTrade` puts in what people say under that supply. Common practice, no source; what is not here is the same in both.
 */
const table = {
  breaker: { na120: 'breaker', iec230: 'MCB' },
  breakers: { na120: 'breakers', iec230: 'MCBs' },
  panel: { na120: 'panel', iec230: 'consumer unit' },
  panels: { na120: 'panels', iec230: 'consumer units' },
  // Where there is no room for more.
  'panel-tab': { na120: 'Panel', iec230: 'CU' },
  main: { na120: 'main', iec230: 'main switch' },
  ground: { na120: 'ground', iec230: 'earth' },
  grounds: { na120: 'grounds', iec230: 'earths' },
  hots: { na120: 'hots', iec230: 'lines' },
  traveler: { na120: 'traveler', iec230: 'strapper' },
  travelers: { na120: 'travelers', iec230: 'strappers' },
  '3-way': { na120: '3-way', iec230: 'two-way' },
  '4-way': { na120: '4-way', iec230: 'intermediate' },
  rcd: { na120: 'GFCI', iec230: 'RCD' },
} as const satisfies Record<string, Record<SchemeId, string>>

export type TradeWord = keyof typeof table
export const tradeWords: Record<TradeWord, Record<SchemeId, string>> = table

const shape = /\{(?:(an?|An?) )?([a-z0-9-]+|[A-Z][a-z]+|\d-Way)\}/g
const article = (word: string) => (/^([aeiou]|MCB|RCD)/.test(word) ? 'an' : 'a')
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/**
 * A sentence in the words of a supply scheme: `{breaker}` is a breaker or an MCB, `{Ground}` and `{4-Way}` begin a sentence, `{a panel}`
 * brings its article. Braces around anything else stay as they are. Of lists and plain objects every sentence is turned.
 */
export const inTrade = <T>(said: T, scheme: SchemeId): T => eachText(said, (text) => sentenceInTrade(text, scheme))

function sentenceInTrade(text: string, scheme: SchemeId): string {
  if (!text.includes('{')) return text
  return text.replace(shape, (whole, before: string | undefined, key: string) => {
    const word = tradeWords[key.toLowerCase() as TradeWord]?.[scheme]
    if (word === undefined) return whole
    const said = before ? `${article(word)} ${word}` : word
    return /[A-Z]/.test(before ?? key) ? capital(said) : said
  })
}
