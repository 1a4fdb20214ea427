import type { Change } from '../../core/dispatch'
import type { PlannedVisit } from '../../core/protocol'

/** A change of the day as the server takes it; a new visit gets an id of its own. */
export const plannedOf = ({ id, jobId, kind, callbackId, was, personIds, startAt, endAt, windowFrom, windowTo }: Change): PlannedVisit => ({
  jobId,
  visitId: was ? id : newId(),
  makes: was ? null : { kind: kind as 'install', callbackId },
  was: was && { startsAt: was.startAt, personIds: was.personIds },
  personIds,
  startsAt: startAt,
  endsAt: endAt,
  windowFrom,
  windowTo,
})
