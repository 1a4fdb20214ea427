import { v7 as uuid } from 'uuid'
import type { company, BodyOf, Instrument } from '../../core/protocol'
import { database } from '../database'
import { branchFor, needRole, ownRows, type Viewer } from './access'
import { notFound } from './errors'
import { reconcileSites } from './reconcile'
import { changeList } from './register'

export async function listInstruments(viewer: Viewer): Promise<Instrument[]> {
  const rows = await database().models.instruments.findAll({
    where: ownRows(viewer),
    order: [['name', 'ASC']],
    raw: true,
  })
  return rows.map(({ companyId: _company, provedGoodAt, ...row }) => ({
    ...row,
    active: Boolean(row.active),
    outOfService: Boolean(row.outOfService),
    provedGoodAt: provedGoodAt?.toISOString() ?? null,
  }))
}

export async function addInstrument(viewer: Viewer, input: BodyOf<typeof company.addInstrument>): Promise<{ id: string }> {
  await branchFor(viewer, input.branchId)
  return changeList(viewer, 'instruments', async (transaction) => ({
    id: (
      await database().models.instruments.create(
        {
          id: uuid(),
          companyId: viewer.companyId,
          ...input,
          active: true,
          outOfService: false,
          failedWhy: '',
          provedGoodAt: null,
          serviceNote: '',
        },
        { transaction },
      )
    ).id,
  }))
}

export async function changeInstrument(
  viewer: Viewer,
  instrumentId: string,
  input: BodyOf<typeof company.changeInstrument>,
): Promise<{ id: string }> {
  const { failed, backInService, ...rest } = input
  if (rest.branchId) await branchFor(viewer, rest.branchId)
  if (backInService) needRole(viewer, ['lead'], 'Only a lead brings a tester back into service.')
  const service = failed
    ? { outOfService: true, failedWhy: failed.why }
    : backInService
      ? {
          outOfService: false,
          provedGoodAt: new Date(),
          serviceNote:
            `${backInService.done} (${viewer.initials}; ${backInService.checks.map(({ source, volts }) => `${volts} V on ${source}`).join(', ')})`.slice(
              0,
              500,
            ),
        }
      : {}
  const answer = await changeList(viewer, 'instruments', async (transaction) => {
    const [count] = await database().models.instruments.update(
      { ...rest, ...service },
      { where: { id: instrumentId, companyId: viewer.companyId }, transaction },
    )
    if (
      count === 0 &&
      !(await database().models.instruments.count({ where: { id: instrumentId, companyId: viewer.companyId }, transaction }))
    )
      throw notFound('This tester')
    return { id: instrumentId }
  })
  if (failed) await reconcileSites(viewer.companyId, viewer)
  return answer
}
