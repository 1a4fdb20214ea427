import { Op, type Transaction } from 'sequelize'
import { database } from '../database'
import { jobFor, type Viewer } from './access'
import { readState } from './streams'

/** Devices with names in the same home that another job put in. */
export const namedByOthers = (job: { id: string; siteId: string }, transaction?: Transaction) =>
  database().models.units.findAll({
    where: { siteId: job.siteId, removedAt: null, jobId: { [Op.ne]: job.id }, name: { [Op.ne]: '' } },
    attributes: ['id', 'name', 'boxId'],
    order: [['id', 'ASC']],
    transaction,
    raw: true,
  })

/** The same with where they are. */
export async function otherNames(
  viewer: Viewer,
  jobId: string,
): Promise<{ names: { id: string; name: string; room: string; at: string }[] }> {
  const job = await jobFor(viewer, jobId)
  const [units, site] = await Promise.all([namedByOthers(job), readState('site', job.siteId)])
  return {
    names: units.map(({ id, name, boxId }) => {
      const box = site.boxes[boxId]
      return { id, name, room: site.rooms[box?.roomId ?? '']?.name ?? '', at: box?.name ?? '' }
    }),
  }
}
