import { pointsOfBox } from '../job/progress'
import type { JobState } from '../job/state'
import type { BoxState, SiteState } from '../site'

/** What nobody has looked at yet. `plate` is seen without opening anything. */
export const unknownKinds = ['old', 'load', 'feed', 'size', 'cables', 'neutral', 'ground'] as const
export type UnknownKind = (typeof unknownKinds)[number]
export const unknownWords: Record<UnknownKind, string> = {
  old: 'what sits in it',
  load: 'what it feeds',
  feed: 'which {breaker}',
  size: 'its size',
  cables: 'its cables',
  neutral: 'a neutral',
  ground: '{a ground}',
}
const platesOn: readonly UnknownKind[] = ['old', 'load', 'feed']
export const isSeenFromOutside = (kind: UnknownKind): boolean => platesOn.includes(kind)

/** What is still unknown of one box. What the bench has found out counts. */
export function unknownsOf(job: JobState, site: SiteState, box: BoxState): UnknownKind[] {
  const survey = site.surveys[box.id] ?? {}
  const kind = survey.kind ?? 'wall'
  const gangs = Array.from({ length: box.gangs }, (_, index) => index + 1)
  const roles = Object.values(job.boxes[box.id]?.roles ?? {}).map(({ role }) => role)
  const hasPoint = (gang: number) => pointsOfBox(job, box.id, gang).length > 0
  const isFilled = (gang: number) => survey.old?.some((one) => one.gang === gang)
  const carriesNothing = (gang: number) => survey.old?.some((one) => one.gang === gang && (one.is === 'blank' || one.is === 'socket'))
  return unknownKinds.filter((what) => {
    // A junction takes no device; a fixture has its neutral, else its lamp would not burn.
    if (kind === 'junction' && what !== 'feed' && what !== 'cables') return false
    if (kind === 'fixture' && what === 'neutral') return false
    switch (what) {
      case 'old':
        return kind === 'wall' && !gangs.every(isFilled)
      case 'load':
        return kind === 'wall' && !gangs.every((gang) => hasPoint(gang) || carriesNothing(gang))
      case 'feed':
        return box.unknownFeed || box.breakerIds.length === 0
      case 'size':
        return site.schemeId === 'iec230' ? box.depthMm === null : box.volumeIn3 === null
      case 'cables':
        return box.conductors.length === 0 && !survey.cables
      case 'neutral':
        return !survey.neutral && !roles.includes('neutral')
      case 'ground':
        return !survey.ground && !roles.includes('ground')
    }
  })
}
