import { refuse } from '../../stream/envelope'
import type { SiteContext } from '../context'
import { sentence } from '../names'
import { boxName } from '../proofs'
import type { BoxState, SiteState } from '../state'

/** Did somebody else say that it is open, later than this person knew? One's own words arrive in order. */
export const openedSince = (box: BoxState, { actor, basedOnSeq }: SiteContext) =>
  Object.entries(box.openWords).some(([personId, seq]) => personId !== actor.personId && seq > basedOnSeq)

export const lateWord = (site: SiteState, box: BoxState) =>
  refuse('lateWord', `${sentence(boxName(site, box))} was opened again after that.`, 'Look at the box, then say how it is now.')
