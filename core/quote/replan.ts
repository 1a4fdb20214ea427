import { leaned, weighedAlone, type Solution, type Weights } from '../plan'
import { changedContent, changeObjection, needsNoteOnly, priceChange } from './change'
import type { QuoteContent } from './content.schema'
import type { OfferSource } from './from-plan'

/**
 * here: within what was agreed, with parts that are on the van · dearer: its parts are here, and the customer signs for more ·
 * fetch: parts have to come first.
 */
export const replanKinds = ['here', 'dearer', 'fetch'] as const
export type ReplanKind = (typeof replanKinds)[number]
export interface Replan {
  first: Solution
  /** With those for points that the agreed way had solved together with this one. */
  solutions: Solution[]
  totalCents: number
  minutes: number
  noteOnly: boolean
  is: ReplanKind
}
export interface ReplanQuestion {
  source: OfferSource
  agreed: QuoteContent
  pointId: string
  weights: Weights
  noteOnlyMinutes: number
  /** How many of an article are on the van and free for this job. */
  onVan: (articleId: string) => number
}

/**
 * What can be done for a point that turned out otherwise, while the rest stays as it was agreed: of each kind of solution the best
 * that stays within what was agreed with what is on the van, and the best besides. Within first, then by what the branch weighs;
 * leaving the point as it is comes last of its kind.
 */
export function replansOf({ source, agreed, pointId, weights, noteOnlyMinutes, onVan }: ReplanQuestion): Replan[] {
  const problem = leaned(source.ways.problem, weights)
  const weighed = (one: Solution) => weighedAlone(problem, one)
  const line = agreed.lines.find(({ pointIds }) => pointIds.includes(pointId)) ?? null
  const together = line?.pointIds ?? [pointId]
  const all = problem.solutions.flatMap((first): Replan[] => {
    // Points of other lines are not pulled in: they stay as they were agreed.
    if (!first.pointIds.includes(pointId) || first.id === line?.id || first.pointIds.some((id) => !together.includes(id))) return []
    const solutions = withTheOthers(first, together, problem.solutions, weighed)
    if (!solutions) return []
    const after = changedContent(source, agreed, solutions)
    if (changeObjection(after, agreed)) return []
    const { totalCents, minutes, parts } = priceChange(agreed, after)
    const areHere = parts.every(({ articleId, quantity }) => quantity <= 0 || onVan(articleId) >= quantity)
    return [
      {
        first,
        solutions,
        totalCents,
        minutes,
        noteOnly: needsNoteOnly({ totalCents, minutes }, noteOnlyMinutes),
        is: !areHere ? 'fetch' : totalCents > 0 ? 'dearer' : 'here',
      },
    ]
  })
  const sum = ({ solutions }: Replan) => solutions.reduce((cents, one) => cents + weighed(one), 0)
  const rank = ({ is }: Replan) => replanKinds.indexOf(is)
  const leaves = ({ first }: Replan) => Number(first.kind === 'leave')
  all.sort((a, b) => rank(a) - rank(b) || leaves(a) - leaves(b) || sum(a) - sum(b) || a.totalCents - b.totalCents)
  // Of a kind of solution, one that is within what was agreed, and one that is not.
  const seen = new Set<string>()
  return all.filter(({ first, is }) => {
    const key = `${first.kind}:${is === 'here'}`
    return !seen.has(key) && Boolean(seen.add(key))
  })
}

/** Another way for one point, and for each that is left over the one that weighs least beside it; null: one of them has none. */
function withTheOthers(
  first: Solution,
  together: readonly string[],
  open: readonly Solution[],
  weighed: (one: Solution) => number,
): Solution[] | null {
  const chosen = [first]
  for (const id of together) {
    if (chosen.some(({ pointIds }) => pointIds.includes(id))) continue
    const taken = new Set(chosen.flatMap(({ devices }) => devices.map(({ boxId, gang }) => `${boxId}/${gang}`)))
    const free = open.filter(
      ({ pointIds, devices }) =>
        pointIds.length === 1 && pointIds[0] === id && !devices.some(({ boxId, gang }) => taken.has(`${boxId}/${gang}`)),
    )
    if (!free.length) return null
    chosen.push(free.reduce((best, one) => (weighed(one) < weighed(best) ? one : best)))
  }
  return chosen
}
