// npm run bench:dispatch: how soon a day is planned, how good it is after ten seconds, and what one more visit costs.
// The best ever found of each day is kept in scripts/bench/best-days.json and is only ever lowered.
// --minutes=5 --runs=20 searches longer, for that file alone; --from=11 goes on with the eleventh.
import { readFileSync, writeFileSync } from 'node:fs'
import { say } from '../lib/host.mjs'
import { bundled } from './bundled.mjs'

const core = await bundled(
  'dispatch',
  `export { Chance } from './core/chance'
  export * from './core/dispatch/plan'
  export * from './core/dispatch/travel'
  export { orderOfVisit } from './core/dispatch/visit'`,
)
const { Chance, breachesOf, orderOfVisit, planByHand, searchPlan, usualWeights, windowsFor } = core
const { placeAt, roadMapSchema, roadsFrom, timetableOf, travelMatrix, arrivalIn } = core

const option = (name, usual) => Number(process.argv.find((one) => one.startsWith(`--${name}=`))?.slice(name.length + 3) ?? usual)
const file = new URL('best-days.json', import.meta.url)
const kept = JSON.parse(readFileSync(file, 'utf8'))
const lower = (name, cost) => {
  if (cost >= (kept[name] ?? Infinity) - 1e-6) return
  kept[name] = Number(cost.toFixed(4))
  writeFileSync(file, `${JSON.stringify(kept, null, 2)}\n`)
}
const timed = (work) => {
  const began = performance.now()
  const value = work()
  return { value, took: performance.now() - began }
}
const line = (what, value, wanted, unit, more = false) =>
  say(
    `${(more ? value >= wanted : value <= wanted) ? 'ok  ' : 'MISS'} ${what}: ${value.toFixed(unit === '%' ? 2 : 0)} ${unit} (wanted ${wanted})`,
  )

/** A working day on the demo coast: homes, crews and promises made up, every rule in use. */
const roads = roadsFrom(
  roadMapSchema.parse(JSON.parse(readFileSync(new URL('../../server/stand-ins/routing/coast.geo.json', import.meta.url), 'utf8'))),
)
const table = timetableOf(roads, '2026-11-27', 'America/New_York')
const midnight = Date.parse('2026-11-27T05:00:00Z') / 1000
const [minute, hour] = [60, 3600]
const towns = [
  'Port Sallow',
  'Port Sallow',
  'Port Sallow',
  'Port Sallow',
  'Port Sallow',
  'Tern Holm',
  'Little Sallow',
  'Cockle Bar',
  'Marram Quay',
]
function day(seed, crewCount, visitCount) {
  const chance = new Chance(seed)
  const stretches = roads.map.features
    .map(({ properties, geometry }) => ({ properties, geometry }))
    .filter(({ properties }) => properties.kind === 'street')
  const somewhere = () => {
    const town = chance.pick(towns)
    const { geometry } = chance.pick(stretches.filter(({ properties }) => properties.town === town))
    return placeAt(roads, geometry.coordinates[1])
  }
  const store = placeAt(roads, stretches.find(({ properties }) => properties.name === 'Ropewalk').geometry.coordinates[1])
  const places = [store, ...Array.from({ length: visitCount }, somewhere)]
  const built = timed(() => travelMatrix(table, places, midnight + 6 * hour, midnight + 20 * hour))
  const matrix = built.value
  const at = (clock) => clock * hour - 6 * hour
  const crews = Array.from({ length: crewCount }, (_, index) => ({
    id: `crew ${index}`,
    personIds: [],
    people: index % 3 === 0 ? 2 : 1,
    licensed: index % 6 !== 5,
    skills: ['motors', 'networks'].filter(() => chance.is(0.6)),
    start: 0,
    end: 0,
    from: at(index % 4 === 3 ? 8 : 7),
    to: at(index % 4 === 3 ? 16.5 : 15.5),
    latest: at(index % 4 === 3 ? 18 : 17),
    rest: { seconds: 30 * minute, from: at(11), to: at(13.5) },
    away: [],
    pace: 0.9 + chance.next() * 0.25,
  }))
  const visits = places.slice(1).map((_, index) => {
    const callback = chance.is(0.15)
    const from = at(chance.pick([7, 8, 10, 10, 12, 13]))
    return {
      id: `visit ${index}`,
      place: index + 1,
      seconds: (callback ? 30 + chance.int(45) : 40 + chance.int(90)) * minute,
      from,
      to: from + (chance.is(0.2) ? 4 : 2) * hour,
      hard: chance.is(0.15),
      weight: callback ? 3 : 1,
      people: chance.is(0.12) ? 2 : 1,
      licence: chance.is(0.6),
      skills: ['motors', 'networks'].filter(() => chance.is(0.12)),
      partsWith: chance.is(0.75) ? null : crews.flatMap((__, crew) => (chance.is(0.3) ? [crew] : [])),
      leftOut: callback ? 600 : 300,
      pinned: chance.is(0.05) ? [chance.int(crewCount)] : null,
      promised: chance.is(0.4) ? { crews: [chance.int(crewCount)], start: from + chance.int(7200) } : null,
    }
  })
  return {
    matrixTook: built.took,
    problem: { crews, visits, store: 0, weights: usualWeights, arrive: (from, to, leave) => arrivalIn(matrix, from, to, leave) },
  }
}
/** A budget of time as the share that is used up. */
const seconds = (count) => {
  const began = performance.now()
  return () => (performance.now() - began) / (count * 1000)
}
const spoiled = (problem, plan) => breachesOf(problem, plan).filter(({ forbidden }) => forbidden)
const median = (list) => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)]

const middle = day(60, 12, 60)
const name = '60 visits, 12 crews, seed 60'
if (process.argv.some((one) => one.startsWith('--runs='))) {
  for (let run = option('from', 1); run <= option('runs', 20); run++) {
    const plan = searchPlan(middle.problem, { seed: 1000 + run, usedUp: seconds(60 * option('minutes', 5)) })
    lower(name, plan.cost)
    say(`run ${run}: ${plan.cost.toFixed(1)}, the best ever ${kept[name]}`)
  }
  process.exit(0)
}
const baseline = timed(() => {
  let sum = 0
  for (let index = 1; index < 1_000_000; index++) sum += Math.log10(index)
  return sum
}).took
say(`loop of a million logarithms: ${baseline.toFixed(1)} ms`)
say(`travel of 61 places by departure: ${(middle.matrixTook / 1000).toFixed(1)} s`)
const hand = timed(() => planByHand(middle.problem))
const first = timed(() => searchPlan(middle.problem, { seed: 1, rounds: 0 }))
line('first plan, 60 visits, 12 crews', first.took, 1000, 'ms')
const costs = [1, 2, 3, 4, 5].map((seed) => {
  const plan = searchPlan(middle.problem, { seed, usedUp: seconds(10) })
  lower(name, plan.cost)
  if (spoiled(middle.problem, plan).length) say(`MISS a rule is broken: ${JSON.stringify(spoiled(middle.problem, plan))}`)
  return plan.cost
})
say(
  `     by hand ${hand.value.cost.toFixed(1)}, first ${first.value.cost.toFixed(1)}, after 10 s ${costs.map((cost) => cost.toFixed(1)).join(', ')}, best ever ${kept[name]}`,
)
line('median of five seeds after 10 s above the best ever found', (median(costs) / kept[name] - 1) * 100, 2, '%')
line('below a careful person’s plan', (1 - median(costs) / hand.value.cost) * 100, 10, '%', true)
const running = searchPlan(middle.problem, { seed: 1, rounds: 40 })
const callback = { ...middle.problem.visits[0], people: 1, leftOut: 600, pinned: null, promised: null }
const windows = [0, 2, 4, 6, 8].map((from) => ({ from: from * hour, to: (from + 2) * hour }))
line(
  'windows for one more visit on the telephone',
  timed(() => windowsFor(middle.problem, running.routes, callback, windows)).took,
  300,
  'ms',
)

const large = day(300, 50, 300)
say(`travel of 301 places by departure: ${(large.matrixTook / 1000).toFixed(1)} s`)
const byHand = planByHand(large.problem)
const found = timed(() => searchPlan(large.problem, { seed: 1, usedUp: seconds(50) }))
line('300 visits, 50 crews', found.took / 1000, 60, 's')
line('below a careful person’s plan', (1 - found.value.cost / byHand.cost) * 100, 8, '%', true)
line('memory', process.memoryUsage.rss() / 1e6, 500, 'MB')

/** A home of thirty boxes on twelve circuits, some dark, some that switch a light together. */
const chance = new Chance(30)
const boxes = Array.from({ length: 30 }, (_, index) => ({
  id: `box ${index}`,
  minutes: 15 + chance.int(40),
  breakers: Array.from({ length: chance.is(0.2) ? 2 : 1 }, () => `breaker ${chance.int(12)}`),
  mates: chance.is(0.2) ? [`box ${chance.int(30)}`] : [],
  after: 4 + chance.int(8),
  dark: chance.is(0.3),
  roomId: `room ${chance.int(9)}`,
}))
for (const people of [1, 3])
  line(`order of thirty boxes for ${people}`, timed(() => orderOfVisit({ boxes, people, darkAt: 300 })).took, 1000, 'ms')
