import { Chance } from '../chance'
import { simulateYear, minutesOn, onSpans } from './simulate'
import { spanWords } from './findings'
import { bySupply, playDays } from './play'
import { homeDays } from './year'
import { at, clock, faultNames, goodHome, HomeMaker, mended, newId, off, on, seededFault, sun } from './testing/seeded-faults'

const year = '2026-01-01'

describe('what goes wrong in a year', () => {
  test('nothing in homes in which everything is in order', () => {
    for (let seed = 1; seed <= 12; seed++) expect(simulateYear(goodHome(new Chance(seed)).home, year, seed).findings).toEqual([])
  })

  test.each(faultNames.map((name, index) => [name, index] as const))('%s: found, nothing else is, and its fix mends it', (name, index) => {
    const fault = seededFault(faultNames.length + index)
    expect(fault.name).toBe(name)
    const { findings } = simulateYear(fault.home, year, 7)
    const about = findings.filter(({ routineIds, deviceIds }) => [...routineIds, ...deviceIds].some((id) => fault.ids.includes(id)))
    expect(findings).toEqual(about)
    const found = about.find(({ kind }) => kind === fault.kind)!
    expect(found.sentence).toMatch(/“.+”.*\.$/)
    const after = simulateYear(mended(fault.home, found.fix!), year, 7).findings
    expect(after.map(({ kind, sentence }) => `${kind} ${sentence}`)).not.toContain(`${found.kind} ${found.sentence}`)
    expect(after.filter(({ kind }) => kind === fault.kind)).toEqual([])
  })

  test('behind the polar circle a pair by the sun does not come every day, and one by the clock does', () => {
    const made = new HomeMaker('Europe/Oslo', [18.96, 69.65])
    made.pair('porch', [made.device('porch', null)], sun('sunset'), sun('sunrise'))
    const [found, ...others] = simulateYear(made.home, year, 1).findings
    expect(found).toMatchObject({ kind: 'noSun' })
    expect(found!.days).toBeGreaterThan(100)
    expect(others).toEqual([])
    expect(simulateYear(mended(made.home, found!.fix!), year, 1).findings).toEqual([])
  })

  test('off by the clock in a room that has an eye: it waits until that has seen nobody, and the light goes out by bedtime', () => {
    const made = new HomeMaker('Europe/London', [0, 51.5])
    const roomId = made.room('store')
    made.room('hall')
    const lamp = made.device('lamp', roomId)
    made.sensor('eye', 'motion', roomId)
    made.rule('closes', [at(clock(21))], [off(lamp)])
    const [found] = simulateYear(made.home, year, 1).findings
    expect(found).toMatchObject({ kind: 'putOut', fix: { sentence: 'Only when “eye” has seen nobody for 20 minutes' } })
    expect(simulateYear(mended(made.home, found!.fix!), year, 1).findings).toEqual([])
  })

  test('what has no hub, names nothing that is there, or only listens is said once', () => {
    const made = new HomeMaker('Europe/London', [0, 51.5])
    made.habits.hub = false
    const lamp = made.device('lamp', null)
    made.pair('porch', [lamp], clock(18), clock(22))
    expect(simulateYear(made.home, year, 1).findings.map(({ kind }) => kind)).toEqual(['notThere'])
    const paused = { ...made.home, routines: made.home.routines.map((one) => ({ ...one, paused: true })) }
    expect(simulateYear(paused, year, 1).findings).toEqual([])
    const nobody = { ...made.home, devices: [], routines: made.home.routines }
    expect(simulateYear(nobody, year, 1).findings.map(({ kind }) => kind)).toEqual(['gone'])
  })

  test('a device that is on and off by itself, faster than a second even, is told and not played for ever', () => {
    const made = new HomeMaker('Europe/London', [0, 51.5])
    made.device('bell', null, { autoOnMinutes: 0.001, autoOffMinutes: 0.001 })
    const blinker = simulateYear({ ...made.home, routines: [] }, year, 1)
    expect(blinker.played.changes.length).toBeLessThan(365 * 200)
    expect(blinker.findings).toMatchObject([{ kind: 'loop', routineIds: [], fix: { behaviour: { autoOnMinutes: null } } }])
    expect(simulateYear(mended({ ...made.home, routines: [] }, blinker.findings[0]!.fix!), year, 1).findings).toEqual([])
  })
  test('more than can be played: as far as it goes, and it is said', () => {
    const made = new HomeMaker('Europe/London', [0, 51.5])
    const deviceIds = Array.from({ length: 3 }, (_, index) => made.device(`lamp ${index}`, null))
    for (let turn = 0; turn < 3; turn++)
      made.routines.push({
        ...{ id: newId(), name: `loop ${turn}`, runs: 'hub', paused: false, modes: [], kind: 'loop', deviceIds },
        ...{ from: clock(0), to: clock(23, 59), days: [1, 2, 3, 4, 5, 6, 7], onMinutes: 1, offMinutes: 1 },
      })
    const { played, findings, days } = simulateYear(made.home, year, 1)
    expect(played).toMatchObject({ cutShort: true })
    expect(days.length).toBeLessThan(365)
    expect(findings.find(({ kind }) => kind === 'tooMuch')).toMatchObject({ at: played.to, fix: null })
    // It is not said of what was not played that it never ran.
    expect(findings.map(({ kind }) => kind)).not.toContain('neverRuns')
  })

  test('a condition whose sensor is gone does not fall away: the rule is deleted rather than let loose', () => {
    const made = new HomeMaker('Europe/London', [0, 51.5])
    const lamp = made.device('lamp', null, { autoOffMinutes: 10 })
    made.rule('guarded', [at(clock(18))], [on(lamp)], [{ is: 'motion', sensorId: lamp, seen: true, forMinutes: 0 }])
    const [found] = simulateYear({ ...made.home, routines: made.home.routines }, year, 1).findings
    expect(found).toMatchObject({ kind: 'neverRuns' })
    const gone = {
      ...made.home,
      routines: made.home.routines.map((one) => JSON.parse(JSON.stringify(one).replace(`"sensorId":"${lamp}"`, '"sensorId":"gone"'))),
    }
    expect(simulateYear(gone, year, 1).findings[0]).toMatchObject({ kind: 'gone', fix: { change: 'drop' } })
  })
})

describe('a year as one looks at it', () => {
  const made = new HomeMaker('Europe/London', [0, 51.5])
  const lamp = made.device('lamp', null)
  made.pair('evening', [lamp], clock(22), clock(2))
  made.device('vault', null, { mustRun: true, powerOn: 'on', wall: 'none' })
  made.habits.powerOutages = 0
  const simulated = simulateYear(made.home, '2026-03-01', 1)

  test('four hours each night, divided at midnight; three or five where the clock is changed', () => {
    const [minutes, motor] = minutesOn(simulated, made.home.devices)
    // The first day has the evening alone; from then on two hours of the night before as well.
    expect([...minutes!.slice(0, 3)]).toEqual([120, 240, 240])
    const change = simulated.days.findIndex(({ date }) => date === '2026-03-29')
    expect(minutes![change]).toBe(180)
    expect(motor!.every((one, day) => one === 1440 || simulated.days[day]!.change !== null)).toBe(true)
  })
  test('as spans, each with who began and ended it', () => {
    const [[first], [motor]] = onSpans(simulated.played, made.home.devices) as [[object], [object]]
    expect(first).toMatchObject({ by: 0, endedBy: 0, level: 100 })
    expect(motor).toMatchObject({ from: simulated.played.from, to: simulated.played.to, endedBy: null })
  })
  test('lengths in words', () => {
    expect([10, 60, 5400, 7200, 50 * 3600, 30 * 86_400].map(spanWords)).toEqual([
      '10 seconds',
      '1 minute',
      '90 minutes',
      '2 hours',
      '2 days',
      '30 days',
    ])
  })
})

describe('simulated presence', () => {
  const made = new HomeMaker('Europe/London', [0, 51.5])
  const lamp = made.device('lamp', null)
  made.routines.push({
    ...{ id: '01890000-0000-7000-8b00-000000000001', name: 'as if', runs: 'hub', paused: false, modes: [], kind: 'presence' },
    ...{ deviceIds: [lamp], from: sun('sunset'), to: clock(23) },
  })
  test('only while they are away, differs from day to day, and is the same when it is played again', () => {
    made.habits.weeksAway = 4
    const play = () => simulateYear(made.home, year, 3)
    const { played, days, findings } = play()
    expect(findings).toEqual([])
    const starts = played.changes
      .filter((one) => one.on)
      .map((one) => (one.at - days.findLast(({ midnight }) => midnight <= one.at)!.midnight) / 60)
    expect(new Set(starts).size).toBeGreaterThan(starts.length / 2)
    expect(play().played.changes).toEqual(played.changes)
    made.habits.weeksAway = 0
    expect(simulateYear(made.home, year, 3).played.changes).toEqual([])
  })
})

test('a supply that fails makes a hub forget what it meant to do, and not a server', () => {
  const made = new HomeMaker('Europe/London', [0, 51.5])
  const [a, b] = [made.device('a', null, { powerOn: 'last' }), made.device('b', null, { powerOn: 'last' })]
  made.rule('a', [at(clock(18))], [on(a, { forSeconds: 3600 })])
  made.rule('b', [at(clock(18))], [on(b), off(b, 3600)], [], { runs: 'cloud' })
  const days = homeDays('2026-05-01', 1, made.zone, made.position)
  const evening = days[0]!.midnight + 18 * 3600
  const world = [
    { at: evening + 600, is: 'mains' as const, up: false },
    { at: evening + 900, is: 'mains' as const, up: true },
  ]
  const { changes, missed } = playDays(made.home, days, world)
  expect(changes.map(({ at, device, on, by }) => [(at - evening) / 60, device, on, by])).toEqual([
    [0, 0, true, 0],
    [0, 1, true, 1],
    [10, 0, false, bySupply],
    [10, 1, false, bySupply],
    [15, 0, true, bySupply],
    [15, 1, true, bySupply],
    [60, 1, false, 1],
  ])
  expect(missed).toEqual([{ at: evening + 3600, routine: 0, why: 'mains' }])
})
