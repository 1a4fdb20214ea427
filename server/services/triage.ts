import { teach, type CauseKind, type Lesson, type Said, type Taught } from '../../core/triage'
import { database, joined, type CallbackRow, type UnitRow } from '../database'
import type { Viewer } from './access'

/** What closed callbacks of the company have taught. */
export async function companyTriage(viewer: Viewer): Promise<{ taught: Taught }> {
  const rows = await joined<CallbackRow & { unit: Pick<UnitRow, 'model'> }>(database().models.callbacks, {
    where: { companyId: viewer.companyId, status: 'closed' },
    attributes: ['causeId', 'causeKind', 'cause', 'said'],
    include: [{ association: 'unit', attributes: ['model'] }],
    order: [
      ['closedAt', 'ASC'],
      ['id', 'ASC'],
    ],
  })
  const lessons = rows.flatMap(({ causeId, causeKind, cause, said, unit }): Lesson[] => {
    // Closed before causes had names.
    if (!causeId) return []
    const told = JSON.parse(said ?? 'null') as Said | null
    const own = causeId.startsWith('own:') ? { kind: causeKind as CauseKind, words: cause } : null
    return [
      { symptoms: told?.symptoms ?? [], answers: told?.answers ?? [], tried: told?.tried ?? [], cause: causeId, own, model: unit.model },
    ]
  })
  return { taught: teach(lessons) }
}
