// npm run bench:capacity: what many companies cost, computed from a database that is there: rows, bytes, commands, connections, and
// where the next wall stands. Best on the demo with its years (npm start -- --fresh --years).
import { needPackages, run, say, Stop } from '../lib/host.mjs'

const option = (name, usual) => Number(process.argv.find((word) => word.startsWith(`--${name}=`))?.slice(name.length + 3) ?? usual)
/** Of a company; choices of ours, no source. */
const companies = option('companies', 1000)
const crews = option('crews', 8)
const visitsADay = option('visits', 4)
const daysAYear = 250
/** People beside the crews of two, and windows that one person has open. */
const [peopleBeside, windows] = [3, 1.5]
/** Pictures of a visit, and kB of one as it is stored: the demo has none worth counting. */
const [pictures, pictureKb] = [3, 350]
/** The busiest quarter of an hour against the mean of eight hours. */
const peak = 4
/** Measured, docs/performance.md: commands a second of one company on one server, how much longer a command takes on a cluster, kB of an idle connection. */
const [measuredRate, clusterFactor, connectionKb] = [322, 1.47, 29]

run(async () => {
  needPackages()
  const { databaseHere } = await import('../lib/mariadb.mjs')
  const { connectTo } = await import('../lib/backup.mjs')
  const database = await databaseHere()
  if (!database) throw new Stop('There is no database here yet: npm start -- --fresh --years first.')
  const connection = await connectTo(database.env)
  try {
    const rows = async (sql) => (await connection.query(sql))[0]
    const one = async (sql) => Number(Object.values((await rows(sql))[0])[0])
    const tables = await rows('SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()')
    await connection.query(`ANALYZE TABLE ${tables.map(({ name }) => name).join()}`)
    const sizes = await rows(
      'SELECT table_name AS name, data_length + index_length AS bytes FROM information_schema.tables WHERE table_schema = DATABASE() ORDER BY bytes DESC',
    )
    const jobs = await one("SELECT COUNT(*) FROM jobs WHERE status IN ('handedOver', 'callback')")
    const visits = await one("SELECT COUNT(*) FROM visits WHERE status = 'done'")
    if (jobs < 20 || visits < 20) throw new Stop(`Only ${jobs} finished jobs are in this database; it takes 20 to say anything.`)
    const counted = {}
    for (const name of ['events', 'commands', 'feed_entries', 'units', 'visits', 'jobs'])
      counted[name] = await one(`SELECT COUNT(*) FROM ${name}`)
    const bytes = sizes.reduce((sum, { bytes }) => sum + Number(bytes), 0)
    const visitsAYear = companies * crews * visitsADay * daysAYear
    // Of visits that were made: those that are only planned have cost next to nothing yet.
    const perVisit = (count) => count / visits
    const number = (value) => Math.round(value).toLocaleString('en')
    const commandsADay = perVisit(counted.commands) * companies * crews * visitsADay
    const mean = commandsADay / (8 * 3600)
    const people = companies * (crews * 2 + peopleBeside)
    say(
      `From ${number(counted.jobs)} jobs and ${number(visits)} visits that were made; ${number(companies)} companies of ${crews} crews with ${visitsADay} visits a day, ${daysAYear} days.\n`,
    )
    say('| what | a visit | all, a year |\n| --- | --- | --- |')
    for (const [what, count] of [
      ['commands', counted.commands],
      ['entries of records', counted.events],
      ['entries of the feed', counted.feed_entries],
      ['devices', counted.units],
    ])
      say(`| ${what} | ${perVisit(count).toFixed(1)} | ${number(perVisit(count) * visitsAYear)} |`)
    say(`| bytes, with indexes | ${number(perVisit(bytes) / 1024)} kB | ${number((perVisit(bytes) * visitsAYear) / 1e9)} GB |`)
    const pictureBytes = pictures * pictureKb * 1000
    say(`| pictures (assumed) | ${pictures}, ${number(pictures * pictureKb)} kB | ${number((pictureBytes * visitsAYear) / 1e9)} GB |`)
    say(
      `\nLargest: ${sizes
        .slice(0, 5)
        .map(({ name, bytes: size }) => `${name} ${((100 * size) / bytes).toFixed(0)} %`)
        .join(', ')}.`,
    )
    const full = (bytesAVisit) => 2e12 / ((bytesAVisit * visitsAYear) / companies)
    const rate = measuredRate / clusterFactor
    say(
      `\nCommands a second: ${mean.toFixed(1)} in the mean of eight hours, ${(mean * peak).toFixed(0)} at the busiest; one writer takes ${rate.toFixed(0)} of one company (measured), and of many no fewer.`,
    )
    say(`Live connections: ${number(people * windows)}, ${((people * windows * connectionKb) / 1e6).toFixed(1)} GB over all servers.`)
    say(
      `\nThe walls, for companies of this size: the writer’s commands at ${number((companies * rate) / (mean * peak))} companies; a disk of 2 TB after a year at ${number(full(perVisit(bytes) + pictureBytes))} companies, without the pictures at ${number(full(perVisit(bytes)))}.`,
    )
  } finally {
    await connection.end()
    await database.stop()
  }
})
