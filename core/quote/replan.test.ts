import fc from 'fast-check'
import { greedyPlan } from '../plan/greedy'
import { leaned, waysOf, weighedAlone, weightsOf } from '../plan'
import { articles, sourceOf } from '../plan/testing/invented-list'
import { wideHome } from '../plan/testing/wide-home'
import { changedContent, changeObjection, offerOf, priceChange, replansOf, type QuoteContent, type ReplanQuestion } from './index'

/** Agreed while a neutral was taken to be there; found without one. */
function surprise() {
  const sold = sourceOf(wideHome('here'))
  const soldWays = waysOf(sold)
  const agreed = offerOf({ ...sold, ways: soldWays }, greedyPlan(leaned(soldWays.problem, weightsOf('switches', 8))), null)
  const found = sourceOf(wideHome('none'))
  const source = { ...found, ways: waysOf(found) }
  return { agreed, source, weights: weightsOf('switches', 8), noteOnlyMinutes: 15 }
}
const parts = (
  source: ReplanQuestion['source'],
  agreed: QuoteContent,
  solutions: ReplanQuestion['source']['ways']['problem']['solutions'],
) => priceChange(agreed, changedContent(source, agreed, solutions)).parts.filter(({ quantity }) => quantity > 0)

test('whatever lies on the van: within what was agreed means no cent more and nothing to fetch, and the best of its kind is not left out', () => {
  const { agreed, source, weights, noteOnlyMinutes } = surprise()
  const problem = leaned(source.ways.problem, weights)
  const points = agreed.lines.flatMap(({ pointIds }) => pointIds)
  fc.assert(
    fc.property(fc.constantFrom(...points), fc.dictionary(fc.constantFrom(...articles.map(({ id }) => id)), fc.nat(2)), (pointId, van) => {
      const onVan = (articleId: string) => van[articleId] ?? 0
      const found = replansOf({ source, agreed, pointId, weights, noteOnlyMinutes, onVan })
      for (const { solutions, is, totalCents, noteOnly } of found) {
        const isHere = parts(source, agreed, solutions).every(({ articleId, quantity }) => onVan(articleId) >= quantity)
        expect(is).toBe(!isHere ? 'fetch' : totalCents > 0 ? 'dearer' : 'here')
        if (noteOnly) expect(totalCents).toBe(0)
      }
      // Found another way: every single one that could be had within, weighed.
      const line = agreed.lines.find(({ pointIds }) => pointIds.includes(pointId))!
      if (line.pointIds.length > 1) return
      for (const one of problem.solutions) {
        if (one.id === line.id || one.pointIds.join() !== pointId) continue
        const after = changedContent(source, agreed, [one])
        const change = priceChange(agreed, after)
        if (changeObjection(after, agreed) || change.totalCents > 0) continue
        if (change.parts.some(({ articleId, quantity }) => quantity > onVan(articleId))) continue
        const best = found.find(({ first, is }) => is === 'here' && first.kind === one.kind)!
        const weighed = problem.solutions.find(({ id }) => id === best.first.id)!
        expect(weighedAlone(problem, weighed)).toBeLessThanOrEqual(weighedAlone(problem, one) + 1e-6)
      }
    }),
    { seed: 14, numRuns: 60 },
  )
})

test('what is within comes first; leaving it as it is comes after what is done', () => {
  const { agreed, source, weights, noteOnlyMinutes } = surprise()
  const pointId = agreed.lines.find(({ kind }) => kind === 'withNeutral')!.pointIds[0]!
  const everything = replansOf({ source, agreed, pointId, weights, noteOnlyMinutes, onVan: () => 99 })
  expect(everything.some(({ is }) => is === 'fetch')).toBe(false)
  expect(everything.map(({ is }) => is)).toEqual(everything.map(({ is }) => is).sort((a, b) => (a === b ? 0 : a === 'here' ? -1 : 1)))
  const kinds = everything.map(({ first }) => first.kind)
  // Without a neutral nothing is proposed that needs one.
  expect(kinds).not.toContain('withNeutral')
  const nothing = replansOf({ source, agreed, pointId, weights, noteOnlyMinutes, onVan: () => 0 })
  expect(nothing.filter(({ is }) => is === 'here').map(({ first }) => first.kind)).toEqual(['leave'])
})
