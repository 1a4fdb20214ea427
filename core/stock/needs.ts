import type { JobState } from '../job/state'

/** Of one article what a job still needs, what was taken for it, and what went in. */
export interface PartNeed {
  articleId: string
  name: string
  /** By what was agreed. */
  sold: number
  /** Taken from the store for this job and not brought back. */
  picked: number
  used: number
}
/** Never less than nothing: what was used beyond what was agreed is no need. */
export const stillToPick = ({ sold, picked }: PartNeed): number => Math.max(0, sold - picked)
/** Kept back for the job wherever it lies: agreed, and not used yet. */
export const reserved = ({ sold, used }: Pick<PartNeed, 'sold' | 'used'>): number => Math.max(0, sold - used)
/** On a van for this job. */
export const inHand = ({ picked, used }: PartNeed): number => Math.max(0, picked - used)

/** How many lie in all places together. */
export const everywhere = (at: Readonly<Record<string, number>>): number => Object.values(at).reduce((sum, one) => sum + one, 0)

/** What a job needs by its sales and what was moved for it. */
export function partNeeds(job: Pick<JobState, 'sales' | 'partMoves'>): PartNeed[] {
  const needs = new Map<string, PartNeed>()
  const at = (articleId: string, name: string) => {
    const known = needs.get(articleId)
    if (known) return known
    const fresh = { articleId, name, sold: 0, picked: 0, used: 0 }
    needs.set(articleId, fresh)
    return fresh
  }
  for (const { parts } of job.sales) for (const { articleId, name, quantity } of parts) at(articleId, name).sold += quantity
  for (const { articleId, name, quantity, as } of job.partMoves) {
    const need = at(articleId, name)
    if (as === 'pick') need.picked += quantity
    else if (as === 'return') need.picked -= quantity
    else {
      need.used += quantity
      // Found in the hand without having been picked: it was on the van all along.
      if (need.used > need.picked) need.picked = need.used
    }
  }
  return [...needs.values()].filter(({ sold, picked, used }) => sold > 0 || picked > 0 || used > 0)
}
