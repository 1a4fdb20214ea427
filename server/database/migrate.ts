import type { Sequelize } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { holdFixedRow, makeFixedRows } from './fixed-row'
import { up as foundation } from './migrations/0001-foundation'
import { up as crew } from './migrations/0002-crew'
import { up as truth } from './migrations/0003-truth'
import { up as homes } from './migrations/0004-homes'
import { up as unitPlaces } from './migrations/0005-unit-places'
import { up as throttle } from './migrations/0006-throttle'
import { up as homeFinds } from './migrations/0007-home-finds'
import { up as parts } from './migrations/0008-parts'
import { up as articles } from './migrations/0009-articles'
import { up as quotes } from './migrations/0010-quotes'
import { up as stock } from './migrations/0011-stock'
import { up as prepared } from './migrations/0012-prepared'
import { up as places } from './migrations/0013-places'
import { up as customersTold } from './migrations/0014-customers-told'
import { up as requests } from './migrations/0015-requests'
import { up as vansAndSkills } from './migrations/0016-vans-and-skills'
import { up as pairings } from './migrations/0017-pairings'
import { up as deviceLinks } from './migrations/0018-device-links'
import { up as openForHousehold } from './migrations/0019-open-for-household'
import { up as keyedFingerprints } from './migrations/0021-keyed-fingerprints'
import { up as meterTraces } from './migrations/0023-meter-traces'
import { up as calls } from './migrations/0024-calls'
import { up as homePages } from './migrations/0025-home-pages'
import { up as insight } from './migrations/0026-insight'
import { up as devicesOut } from './migrations/0027-devices-out'
import { up as serialsAgain } from './migrations/0028-serials-again'
import { up as lettersOfHomes } from './migrations/0029-letters-of-homes'
import { up as installation } from './migrations/0030-installation'
import { up as accessRecord } from './migrations/0031-access-record'
import { up as secondFactors } from './migrations/0032-second-factors'
import { up as whyCodes } from './migrations/0033-why-codes'
import { up as connections } from './migrations/0034-connections'
import { up as companiesApart } from './migrations/0035-companies-apart'
import { up as batteries } from './migrations/0036-batteries'
import { up as nearMisses } from './migrations/0037-near-misses'
import { up as erasures } from './migrations/0038-erasures'
import { up as sessions } from './migrations/0022-sessions'
import { up as smallPictures } from './migrations/0020-small-pictures'
import { troubleOf } from './transact'

/** Adds a column that is made from the streams. */
export const unitPlacesName = '0005-unit-places'
/** Forward only; a landed migration is never edited. */
const migrations = [
  { name: '0001-foundation', up: foundation },
  { name: '0002-crew', up: crew },
  { name: '0003-truth', up: truth },
  { name: '0004-homes', up: homes },
  { name: unitPlacesName, up: unitPlaces },
  { name: '0006-throttle', up: throttle },
  { name: '0007-home-finds', up: homeFinds },
  { name: '0008-parts', up: parts },
  { name: '0009-articles', up: articles },
  { name: '0010-quotes', up: quotes },
  { name: '0011-stock', up: stock },
  { name: '0012-prepared', up: prepared },
  { name: '0013-places', up: places },
  { name: '0014-customers-told', up: customersTold },
  { name: '0015-requests', up: requests },
  { name: '0016-vans-and-skills', up: vansAndSkills },
  { name: '0017-pairings', up: pairings },
  { name: '0018-device-links', up: deviceLinks },
  { name: '0019-open-for-household', up: openForHousehold },
  { name: '0020-small-pictures', up: smallPictures },
  { name: '0021-keyed-fingerprints', up: keyedFingerprints },
  { name: '0022-sessions', up: sessions },
  { name: '0023-meter-traces', up: meterTraces },
  { name: '0024-calls', up: calls },
  { name: '0025-home-pages', up: homePages },
  { name: '0026-insight', up: insight },
  { name: '0027-devices-out', up: devicesOut },
  { name: '0028-serials-again', up: serialsAgain },
  { name: '0029-letters-of-homes', up: lettersOfHomes },
  { name: '0030-installation', up: installation },
  { name: '0031-access-record', up: accessRecord },
  { name: '0032-second-factors', up: secondFactors },
  { name: '0033-why-codes', up: whyCodes },
  { name: '0034-connections', up: connections },
  { name: '0035-companies-apart', up: companiesApart },
  { name: '0036-batteries', up: batteries },
  { name: '0037-near-misses', up: nearMisses },
  { name: '0038-erasures', up: erasures },
]

/** Where it is kept what was done. */
export const migrationLog = (sequelize: Sequelize): SequelizeStorage => new SequelizeStorage({ sequelize })
/** Does the database have the tables of this version? */
export async function isMigrated(sequelize: Sequelize): Promise<boolean> {
  // Asked of the table itself: the log would make sure first that it is there, which a database that takes no writes refuses.
  const rows = (await migrationLog(sequelize).model.findAll({ raw: true })) as unknown as { name: string }[]
  const done = new Set(rows.map(({ name }) => name))
  return migrations.every(({ name }) => done.has(name))
}

async function refuseNewer(sequelize: Sequelize): Promise<void> {
  const known = new Set(migrations.map(({ name }) => name))
  const newer = (await migrationLog(sequelize).executed()).filter((name) => !known.has(name))
  if (newer.length)
    throw new Error(
      `A newer program has changed this database (${newer.join(', ')}). Start that one, or put the backup of before back with this one.`,
    )
}
/** For a server that changes no tables: of several, one step before them all does. @throws with what to do where it has not */
export async function needMigrated(sequelize: Sequelize): Promise<void> {
  const migrated = await isMigrated(sequelize).catch((error: unknown) => {
    // Not asked is not older.
    if (troubleOf(error) !== null) throw error
    return false
  })
  if (!migrated) throw new Error('The tables are of an older version. Start once with CIRCUITRY_MIGRATE=only, which changes them and ends.')
  await refuseNewer(sequelize)
}

/** Brings the schema up to date. Several servers may start at once: one migrates, the others wait. */
export async function migrate(sequelize: Sequelize): Promise<string[]> {
  await makeFixedRows(sequelize)
  return sequelize.transaction(async (transaction) => {
    // Tables are changed over other connections: this one only holds its row.
    await holdFixedRow(sequelize, 'migrate', transaction, 120).catch((error: unknown) => {
      throw troubleOf(error) === 'locked' ? new Error('Another server is still migrating the database.') : error
    })
    await refuseNewer(sequelize)
    const umzug = new Umzug({
      migrations: migrations.map(({ name, up }) => ({ name, up: () => up(sequelize.getQueryInterface()) })),
      storage: migrationLog(sequelize),
      logger: undefined,
    })
    return (await umzug.up()).map((migration) => migration.name)
  })
}
