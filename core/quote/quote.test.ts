import fc from 'fast-check'
import { greedyPlan } from '../plan/greedy'
import { leaned, waysOf, weightsOf } from '../plan'
import { sourceOf } from '../plan/testing/invented-list'
import { wideHome } from '../plan/testing/wide-home'
import { allTicked, gtinDigit, gtinIsValid, offerOf, optionAdds, priceOf, takenLines } from './index'
import { quoteContentSchema } from './content.schema'

// GS1 General Specifications, figure on the calculation of the check digit: 629104150021 gives 3; GTIN-13 6291041500213.
test('check digits: the example of the standard, and a wrong or swapped digit is caught', () => {
  expect(gtinDigit('629104150021')).toBe(3)
  expect(gtinIsValid('6291041500213')).toBe(true)
  // GTIN-8 and GTIN-12 as printed in common examples, from memory.
  expect(gtinIsValid('96385074')).toBe(true)
  expect(gtinIsValid('036000291452')).toBe(true)
  for (let place = 0; place < 12; place++)
    for (let digit = 0; digit < 10; digit++) {
      const typed = `${'6291041500213'.slice(0, place)}${digit}${'6291041500213'.slice(place + 1)}`
      if (typed !== '6291041500213') expect(gtinIsValid(typed)).toBe(false)
    }
  expect(['', '123', '629104150021', 'abcdefgh'].map(gtinIsValid)).toEqual([false, false, false, false])
})

function offer() {
  const scenario = wideHome()
  const source = sourceOf(scenario)
  const ways = waysOf(source)
  const plan = (school: Parameters<typeof weightsOf>[0]) => greedyPlan(leaned(ways.problem, weightsOf(school, 8)))
  const content = offerOf({ ...source, ways }, plan('leastMoney'), plan('mostComfort'))
  return { content, scenario }
}

test('an offer holds everything its sum follows from: read again it comes to the same', () => {
  const { content } = offer()
  const again = quoteContentSchema.parse(JSON.parse(JSON.stringify(content)))
  expect(priceOf(again, allTicked(again)).sum).toEqual(priceOf(content, allTicked(content)).sum)
  expect(content.options.length).toBeGreaterThan(0)
})

test('whatever is ticked: every point is done at most once, the parts are those of the lines, the sum is the sum of its lines', () => {
  const { content } = offer()
  fc.assert(
    fc.property(
      fc.subarray(content.stages.map(({ id }) => id)),
      fc.subarray(content.options.map(({ id }) => id)),
      fc.integer({ min: 0, max: 3000 }),
      (stages, options, discountBasisPoints) => {
        const given = { ...content, discountBasisPoints }
        const price = priceOf(given, { stages, options })
        const points = price.taken.flatMap(({ pointIds }) => pointIds)
        expect(new Set(points).size).toBe(points.length)
        expect(price.lines.reduce((sum, { cents }) => sum + cents, 0)).toBe(price.sum.netCents)
        const counted = price.parts.reduce((sum, { quantity }) => sum + quantity, 0)
        expect(counted).toBe(price.lines.filter(({ kind }) => kind === 'parts').reduce((sum, { quantity }) => sum + quantity, 0))
        if (!stages.length) expect(price.sum.totalCents).toBe(0)
        for (const option of options) {
          const without = priceOf(given, { stages, options: options.filter((id) => id !== option) }).sum.totalCents
          expect(without + optionAdds(given, { stages, options }, option)).toBe(price.sum.totalCents)
        }
      },
    ),
  )
})

test('an option takes the place of what it replaces, and of nothing else', () => {
  const { content } = offer()
  const all = allTicked(content)
  const [option] = content.options
  const before = takenLines(content, all)
  const after = takenLines(content, { ...all, options: [option!.id] })
  expect(after.filter((line) => !before.includes(line))).toEqual(option!.lines)
  expect(before.filter((line) => !after.includes(line)).map(({ id }) => id)).toEqual(option!.insteadOf)
})
