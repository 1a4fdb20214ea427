import { inTrade, tradeWords } from './trade-words'

test.each([
  ['{Breaker} 2 is open.', 'Breaker 2 is open.', 'MCB 2 is open.'],
  ['Open {a breaker}, then {a panel}.', 'Open a breaker, then a panel.', 'Open an MCB, then a consumer unit.'],
  ['{A ground} is no {rcd}.', 'A ground is no GFCI.', 'An earth is no RCD.'],
  ['{A rcd} trips.', 'A GFCI trips.', 'An RCD trips.'],
  ['Both places of {a 3-way}', 'Both places of a 3-way', 'Both places of a two-way'],
  ['{4-Way} in between, {4-way}', '4-way in between, 4-way', 'Intermediate in between, intermediate'],
])('%s', (sentence, na, iec) => {
  expect(inTrade(sentence, 'na120')).toBe(na)
  expect(inTrade(sentence, 'iec230')).toBe(iec)
})

test('what people wrote in braces stays, and so does what is no sentence', () => {
  const said = { text: 'Label “{sail room}”', at: new Date(0), list: ['{ground}', 4, null], none: undefined }
  expect(inTrade(said, 'iec230')).toEqual({ text: 'Label “{sail room}”', at: said.at, list: ['earth', 4, null], none: undefined })
  expect(inTrade(new Map([['a', '{ground}']]), 'iec230')).toEqual(new Map([['a', '{ground}']]))
})

test('said twice is said once', () => {
  for (const word of Object.keys(tradeWords))
    for (const scheme of ['na120', 'iec230'] as const)
      expect(inTrade(inTrade(`{${word}}`, scheme), scheme)).toBe(tradeWords[word as 'main'][scheme])
})
