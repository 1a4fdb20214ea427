import { randomUUID } from 'node:crypto'
import { QueryTypes, type Transaction } from 'sequelize'
import { database, transacted } from '../database'
import { hub } from '../realtime/hub'
import type { Viewer } from './access'
import { announce } from './feed'

/** So often a server says that it still holds its connections; one that was not heard of for so long is gone, ms. */
export const beatEveryMs = 15_000
const silentMs = 50_000

type Connected = Pick<Viewer, 'personId' | 'companyId' | 'branchId'>
/** By the database’s clock: those of the servers may differ by more than one waits here. */
const now = 'UTC_TIMESTAMP(3)'
const stillThere = `beat_at > ${now} - INTERVAL ${silentMs / 1000} SECOND`

/** Who of the company is at a home and connected, or is not any more: said where it changed. */
async function show({ personId, companyId, branchId }: Connected, connected: boolean, transaction: Transaction): Promise<void> {
  const { models } = database()
  const known = await models.presence.findByPk(personId, { transaction, raw: true })
  if (!known || Boolean(known.connected) === connected) return
  await models.presence.update({ connected, seenAt: new Date() }, { where: { personId }, transaction })
  await announce(companyId, [{ topic: 'presence', branchId, streamId: known.siteId }], transaction)
}

/** @returns rows changed, of a statement that changes some */
const run = async (sql: string, values: unknown[], transaction?: Transaction): Promise<number> => {
  const [, changed] = await database().sequelize.query(sql, { replacements: values, transaction, type: QueryTypes.UPDATE })
  return changed
}
async function isElsewhere(personId: string, transaction: Transaction): Promise<boolean> {
  const rows = await database().sequelize.query(`SELECT 1 FROM connections WHERE person_id = ? AND ${stillThere} LIMIT 1`, {
    ...{ replacements: [personId], transaction, type: QueryTypes.SELECT as const },
  })
  return rows.length > 0
}
/** Whoever hung on a server that is silent is not there any more, unless on another one. */
async function missSilent(): Promise<void> {
  const silent = await database().sequelize.query<Connected & { serverId: string }>(
    `SELECT server_id AS serverId, person_id AS personId, company_id AS companyId, branch_id AS branchId FROM connections WHERE NOT ${stillThere}`,
    { type: QueryTypes.SELECT },
  )
  for (const row of silent) {
    await transacted(async (transaction) => {
      const gone = await run(
        `DELETE FROM connections WHERE server_id = ? AND person_id = ? AND NOT ${stillThere}`,
        [row.serverId, row.personId],
        transaction,
      )
      if (gone > 0 && !(await isElsewhere(row.personId, transaction))) await show(row, false, transaction)
    })
    hub.wake(row.companyId)
  }
}

/** The live connections that one server holds. A person may have others on other servers: only the last of all is missed. */
export class Connections {
  private readonly here = new Map<string, Connected & { windows: number }>()
  /** Since when each beat has reached the database. While it was away others could not be heard of, and are not missed for that. */
  private steadySince: number | null = null
  /** @param clock ms, of this process */
  constructor(
    readonly serverId: string = randomUUID(),
    private readonly clock: () => number = () => performance.now(),
  ) {}

  windowsOf = (personId: string): number => this.here.get(personId)?.windows ?? 0

  async opened({ personId, companyId, branchId }: Connected): Promise<void> {
    const known = this.here.get(personId)
    this.here.set(personId, { personId, companyId, branchId, windows: (known?.windows ?? 0) + 1 })
    if (!known) await this.tell({ personId, companyId, branchId })
  }
  async closed(person: Connected): Promise<void> {
    const known = this.here.get(person.personId)
    if (known && known.windows > 1) known.windows--
    else {
      this.here.delete(person.personId)
      await this.tell(person)
    }
  }

  /** Writes down what is so now; tried again where the database was busy, as long as it is not written. */
  private async tell(person: Connected, tries = 4): Promise<void> {
    try {
      await this.write(person, this.here.has(person.personId))
    } catch {
      if (tries > 1) setTimeout(() => void this.tell(person, tries - 1), 1000).unref()
    }
  }
  private async write(person: Connected, connected: boolean): Promise<void> {
    const { serverId } = this
    const { personId, companyId, branchId } = person
    await transacted(async (transaction) => {
      if (connected)
        await run(
          `INSERT INTO connections (server_id, person_id, company_id, branch_id, beat_at) VALUES (?, ?, ?, ?, ${now}) ON DUPLICATE KEY UPDATE beat_at = VALUES(beat_at)`,
          [serverId, personId, companyId, branchId],
          transaction,
        )
      else await run('DELETE FROM connections WHERE server_id = ? AND person_id = ?', [serverId, personId], transaction)
      await show(person, connected || (await isElsewhere(personId, transaction)), transaction)
    })
    hub.wake(companyId)
  }

  /** Says that this server is there, and misses those whose server is not: killed, cut off, or stopped without a word. */
  async beat(): Promise<void> {
    try {
      await this.sayHere()
    } catch (error) {
      this.steadySince = null
      throw error
    }
    this.steadySince ??= this.clock()
    if (this.clock() - this.steadySince >= silentMs) await missSilent()
  }
  private async sayHere(): Promise<void> {
    const { serverId } = this
    const written = await database().models.connections.findAll({ where: { serverId }, raw: true })
    await run(`UPDATE connections SET beat_at = ${now} WHERE server_id = ?`, [serverId])
    // Others took this server for gone, or a word was lost.
    const known = new Set(written.map(({ personId }) => personId))
    for (const person of this.here.values()) if (!known.has(person.personId)) await this.tell(person)
    for (const person of written) if (!this.here.has(person.personId)) await this.tell(person)
  }
}

export const connections = new Connections()
