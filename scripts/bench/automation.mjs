// npm run bench:automation: how long a year of a large home takes, and what of seeded faults is found in small ones.
import { say } from '../lib/host.mjs'
import { bundled } from './bundled.mjs'

const core = await bundled(
  'automation',
  `export { Chance } from './core/chance'
  export * from './core/automation'
  export * from './core/automation/testing/seeded-faults'`,
)
const {
  Chance,
  HomeMaker,
  at,
  automationFindings,
  clock,
  homeDays,
  off,
  on,
  playDays,
  programOf,
  seededFault,
  simulateYear,
  sun,
  worldOf,
} = core
const timed = (work) => {
  const began = performance.now()
  const value = work()
  return { value, took: performance.now() - began }
}
const verdict = (good) => (good ? 'ok  ' : 'MISS')

/** Numbers into a map and out of it again: how fast this machine is. */
const baseline = timed(() => {
  const counts = new Map()
  for (let turn = 0; turn < 3_000_000; turn++) counts.set(turn % 5_000, (counts.get(turn % 5_000) ?? 0) + 1)
}).took

/** Sixty devices and eighty schedules and rules of all kinds, with six rooms that see. */
function largeHome() {
  const chance = new Chance(60)
  const made = new HomeMaker('America/New_York', [-74, 40.7])
  const rooms = Array.from({ length: 15 }, (_, index) => made.room(`room ${index}`))
  const lights = Array.from({ length: 60 }, (_, index) => made.device(`light ${index}`, rooms[index % 15], {}, index < 55))
  const eyes = rooms.slice(0, 6).map((room, index) => made.sensor(`eye ${index}`, 'motion', room))
  const warmth = made.sensor('warmth', 'temperature', rooms[0])
  for (let index = 0; index < 40; index++)
    made.pair(`pair ${index}`, [lights[index], lights[index + 5]], sun('sunset', index - 20), clock(22, index), [1, 2, 3, 4, 5, 6, 7])
  for (let index = 0; index < 15; index++) {
    const sensorId = eyes[index % 6]
    made.rule(`seen ${index}`, [{ is: 'motion', sensorId, seen: true, forMinutes: 0 }], [on(lights[index])], [{ is: 'dark', dark: true }])
    made.rule(`gone ${index}`, [{ is: 'motion', sensorId, seen: false, forMinutes: 20 + index }], [off(lights[index])])
  }
  for (let index = 0; index < 5; index++) {
    made.rule(`warm ${index}`, [{ is: 'temperature', sensorId: warmth, over: true, degrees: 22 + index }], [on(lights[55 + index])])
    made.rule(
      `at ${index}`,
      [at(clock(7, index)), { is: 'device', deviceId: lights[index], on: true, forMinutes: 30 }],
      [off(chance.pick(lights))],
    )
  }
  return made.home
}
const home = largeHome()
const year = () => simulateYear(home, '2026-01-01', 1)
year()
const whole = timed(year)
const parts = {}
const days = timed(() => homeDays('2026-01-01', 365, home.zone, home.position))
const program = timed(() => programOf(home, days.value))
const world = timed(() => worldOf(home, days.value, 1))
const played = timed(() => playDays(home, days.value, world.value, program.value))
const findings = timed(() => automationFindings(home, days.value, program.value, played.value))
Object.assign(parts, { days, program, world, played, findings })
say(
  `${verdict(whole.took < 1000)} a year of ${home.devices.length} devices and ${home.routines.length} schedules and rules: ${whole.took.toFixed(0)} ms (wanted 1000; ${(whole.took / baseline).toFixed(1)} × the baseline of ${baseline.toFixed(0)} ms), ${world.value.length} events of the house, ${played.value.changes.length} changes, ${findings.value.length} findings`,
)
say(
  `     ${Object.entries(parts)
    .map(([name, { took }]) => `${name} ${took.toFixed(0)} ms`)
    .join(', ')}`,
)

const count = Number(process.argv.find((one) => one.startsWith('--faults='))?.slice(9) ?? 300)
let [found, all, wrong] = [0, 0, 0]
const missed = []
for (let seed = 1; seed <= count; seed++) {
  const fault = seededFault(seed)
  const about = ({ routineIds, deviceIds }) => [...routineIds, ...deviceIds].some((id) => fault.ids.includes(id))
  const seen = simulateYear(fault.home, '2026-01-01', seed).findings
  if (seen.some((one) => one.kind === fault.kind && about(one))) found++
  else missed.push(`${fault.name} (${seed})`)
  all += seen.length
  wrong += seen.filter((one) => !about(one)).length
}
say(
  `${verdict(found / count >= 0.98)} seeded faults found: ${found} of ${count} (wanted 98 %)${missed.length ? `; missed: ${missed.join(', ')}` : ''}`,
)
say(`${verdict(wrong / Math.max(1, all) < 0.02)} findings that are about nothing seeded: ${wrong} of ${all} (wanted under 2 %)`)
