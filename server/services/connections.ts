import { randomUUID } from 'node:crypto'
import { Op, type Transaction } from 'sequelize'
import { database, transacted } from '../database'
import { hub } from '../realtime/hub'
import type { Viewer } from './access'
import { announce } from './feed'

/** So often a server says that it still holds its connections; one that was not heard of for so long is gone, ms. */
export const beatEveryMs = 15_000
const silentMs = 50_000

type Connected = Pick<Viewer, 'personId' | 'companyId' | 'branchId'>
const noticed = () => new Date(Date.now() - silentMs)

/** Who of the company is at a home and connected, or is not any more: said where it changed. */
async function show({ personId, companyId, branchId }: Connected, connected: boolean, transaction: Transaction): Promise<void> {
  const { models } = database()
  const known = await models.presence.findByPk(personId, { transaction, raw: true })
  if (!known || Boolean(known.connected) === connected) return
  await models.presence.update({ connected, seenAt: new Date() }, { where: { personId }, transaction })
  await announce(companyId, [{ topic: 'presence', branchId, streamId: known.siteId }], transaction)
}

/** The live connections that one server holds. A person may have others on other servers: only the last of all is missed. */
export class Connections {
  private readonly here = new Map<string, Connected & { windows: number }>()
  constructor(readonly serverId: string = randomUUID()) {}

  windowsOf = (personId: string): number => this.here.get(personId)?.windows ?? 0

  async opened({ personId, companyId, branchId }: Connected): Promise<void> {
    const known = this.here.get(personId)
    this.here.set(personId, { personId, companyId, branchId, windows: (known?.windows ?? 0) + 1 })
    if (!known) await this.tell(personId, { personId, companyId, branchId })
  }
  async closed(person: Connected): Promise<void> {
    const known = this.here.get(person.personId)
    if (known && known.windows > 1) known.windows--
    else {
      this.here.delete(person.personId)
      await this.tell(person.personId, person)
    }
  }

  /** Writes down what is so now; tried again where the database was busy, as long as it is not written. */
  private async tell(personId: string, person: Connected, tries = 4): Promise<void> {
    try {
      await this.write(person, this.here.has(personId))
    } catch {
      if (tries > 1) setTimeout(() => void this.tell(personId, person, tries - 1), 1000).unref()
    }
  }
  private async write(person: Connected, connected: boolean): Promise<void> {
    const { serverId } = this
    const { personId, companyId, branchId } = person
    await transacted(async (transaction) => {
      const { models } = database()
      if (connected) await models.connections.upsert({ serverId, personId, companyId, branchId, beatAt: new Date() }, { transaction })
      else await models.connections.destroy({ where: { serverId, personId }, transaction })
      const elsewhere = connected || (await models.connections.count({ where: { personId, beatAt: { [Op.gt]: noticed() } }, transaction }))
      await show(person, Boolean(elsewhere), transaction)
    })
    hub.wake(companyId)
  }

  /** Says that this server is there, and misses those whose server is not: killed, cut off, or stopped without a word. */
  async beat(): Promise<void> {
    const { serverId } = this
    const { models } = database()
    const written = await models.connections.findAll({ where: { serverId }, raw: true })
    await models.connections.update({ beatAt: new Date() }, { where: { serverId } })
    // Others took this server for gone, or a word was lost.
    const known = new Set(written.map(({ personId }) => personId))
    for (const person of this.here.values()) if (!known.has(person.personId)) await this.tell(person.personId, person)
    for (const person of written) if (!this.here.has(person.personId)) await this.tell(person.personId, person)
    for (const row of await models.connections.findAll({ where: { beatAt: { [Op.lt]: noticed() } }, raw: true })) {
      await transacted(async (transaction) => {
        const { personId, serverId: silent } = row
        const gone = await models.connections.destroy({
          where: { personId, serverId: silent, beatAt: { [Op.lt]: noticed() } },
          transaction,
        })
        if (gone === 0) return
        if (!(await models.connections.count({ where: { personId }, transaction }))) await show(row, false, transaction)
      })
      hub.wake(row.companyId)
    }
  }
}

export const connections = new Connections()
