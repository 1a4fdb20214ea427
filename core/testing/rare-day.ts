import { usualBehaviour, usualHabits } from '../automation/home'
import { crew, Scenario } from './scenario'

/** What neither the simulated crew nor the demo does: circuit tracing, the desk, working alone, what is taken back. */
export function rareDay(): Scenario {
  const scenario = new Scenario()
  const give = (...given: Parameters<Scenario['submitSite']>) => scenario.must(scenario.submitSite(...given))
  const { id: breakerId } = scenario.breaker('2')
  const { id: boxId } = scenario.box('door')
  const work = (...given: Parameters<Scenario['submitJob']>) => scenario.must(scenario.submitJob(...given))
  const visitId = scenario.newId()
  const hour = (hours: number) => new Date(scenario.now + hours * 3_600_000).toISOString()
  const times = (from: number) => ({ startsAt: hour(from), endsAt: hour(from + 2), windowFrom: hour(from), windowTo: hour(from + 2) })
  const personIds = [crew.ann.personId]
  work({ type: 'scheduleVisit', visitId, kind: 'install', callbackId: null, alsoBooked: false, ...times(24), personIds }, crew.office)
  work({ type: 'moveVisit', visitId, alsoBooked: false, ...times(30), personIds }, crew.office)
  work({ type: 'cancelVisit', visitId, reason: 'the customer is away' }, crew.office)
  give({ type: 'markOffLimits', breakerId, reason: 'pump of the neighbour' }, crew.lead)
  give({ type: 'markOffLimits', breakerId, reason: null }, crew.lead)
  give({ type: 'scopeTracing', boxIds: [boxId] })
  give({ type: 'observeBreaker', breakerId, state: 'open' })
  give({ type: 'observeRound', seen: { [boxId]: 'on' } })
  give({ type: 'takeBackRound', round: 1 })
  give({ type: 'observeRound', seen: { [boxId]: 'off' } })
  give({ type: 'forgetRounds', reason: 'another lamp was meant' })
  const askId = scenario.newId()
  give({ type: 'askEnergise', askId, breakerId, boxId: null, purpose: 'identify', note: '' })
  give({ type: 'confirmClear', askId }, crew.ben)
  give({ type: 'takeBackClear', askId }, crew.ben)
  give({ type: 'withdrawAsk', askId })
  give({ type: 'askOpen', askId: scenario.newId(), breakerId: scenario.breaker('3').id, boxId, note: 'for the light' })
  give({ type: 'lookIn', boxId, warnedIds: [crew.ben.personId] })
  give({ type: 'startLoneWork', contact: 'Lena Moss, 555 0101', everyMinutes: 30 })
  give({ type: 'checkIn' })
  give({ type: 'endLoneWork' })
  const sourceId = scenario.newId()
  give({ type: 'recordSource', sourceId, kind: 'solar', name: 'roof' })
  give({ type: 'ruleOutSource', sourceId, reason: 'its inverter stands off, locked' })
  const [homePanel] = Object.values(scenario.site.panels)
  const solar = { sourceId, breakerId: scenario.newId(), number: 'PV', panelId: homePanel!.id, basis: 'its label' }
  give({ type: 'recordSourcePoint', ...solar })
  // The home as it really is: what nobody had listed, what was listed wrongly or twice.
  const made = Object.fromEntries(
    ['room', 'spare', 'panel', 'breaker', 'twin', 'box', 'ghost', 'net'].map((key) => [key, scenario.newId()]),
  )
  const { room, spare, panel, breaker, twin, box, ghost, net } = made as Record<string, string> & { box: string }
  give({ type: 'recordRoom', roomId: room!, name: 'Sail room' })
  give({ type: 'recordRoom', roomId: room!, name: 'Sail loft' })
  give({ type: 'recordRoom', roomId: spare!, name: 'Spare room' })
  give({ type: 'retireRoom', roomId: spare! })
  give({ type: 'recordPanel', panelId: panel!, name: 'behind the dryer', place: 'mud room', fedBy: scenario.breaker('3').id })
  const facts = { poles: 1, amps: 15, labelAsFound: 'dryer', protection: 'rcd' as const, state: 'closed' as const }
  give({ type: 'recordBreaker', breakerId: breaker!, panelId: panel!, number: 'D1', ...facts })
  give({ type: 'correctBreaker', breakerId: breaker!, number: 'D2', amps: 20, labelAsFound: '', poles: 2, protection: 'none' })
  give({ type: 'recordBreaker', breakerId: twin!, panelId: panel!, number: 'D3', ...facts, labelAsFound: '', state: 'unknown' })
  give({ type: 'forgetRounds', reason: 'the tracing is over' })
  give({ type: 'retireBreaker', breakerId: twin!, reason: 'the slot is empty' })
  const place = { roomId: room!, gangs: 2, kind: 'wall' as const, breakerIds: [breaker!], farBoxIds: [] }
  give({ type: 'recordBox', boxId: box, name: 'loft hatch', ...place })
  give({ type: 'recordBox', boxId: ghost!, name: 'loft end', ...place, kind: 'fixture' })
  give({ type: 'retireBox', boxId: ghost!, reason: 'listed twice' })
  const empty = scenario.newId()
  give({ type: 'recordPanel', panelId: empty, name: 'old board', place: '', fedBy: null })
  give({ type: 'retirePanel', panelId: empty, reason: 'it is a meter' })
  give({ type: 'correctBox', boxId: box, name: 'loft ladder', roomId: room!, gangs: 1, farBoxIds: [scenario.box('stair').id] })
  const cable = { gaugeAwg: 14, areaMm2: null, colours: ['black', 'white', 'bare'], stranded: false } as const
  give({
    type: 'noteBox',
    boxId: box,
    noted: { looked: 'inside', volumeIn3: 18, neutral: 'here', cables: [{ ...cable, colours: [...cable.colours] }] },
  })
  give({ type: 'untieSwitches', boxId: box, otherId: scenario.box('stair').id, reason: 'another light' }, crew.ann)
  give({ type: 'noteBox', boxId: box, noted: { faults: [{ is: 'paintSealed', then: 'offered' }], neutral: null } })
  const plain = {
    roomId: room!,
    bands: ['2.4' as const],
    channel: 6,
    ownName: false,
    isolated: false,
    holds: null,
    holdsMost: 30,
    bound: ['lamp by the door'],
    note: '',
  }
  give({ type: 'recordNetwork', networkId: net!, kind: 'router', name: 'tidewater', ...plain })
  const spot = { boxId: box, roomId: null, networkId: net!, band: '2.4' as const }
  give({ type: 'readSignal', readingId: scenario.newId(), ...spot, dbm: null, bars: 2, roundTripMs: 41 })
  give({ type: 'placeRoom', roomId: room!, place: { kind: 'between', metres: 8, walls: 2, floors: 1 } })
  give({ type: 'placeRoom', roomId: room!, place: { kind: 'plan', floor: 0, x: 0, y: 0, width: 4, depth: 3.5 } })
  give({ type: 'placeRoom', roomId: room!, place: null })
  give({ type: 'retireNetwork', networkId: net! })
  const pointId = scenario.newId()
  const load = { technology: 'led' as const, lamps: 2, wattsEach: 7, dimmable: true }
  const point = {
    id: pointId,
    roomId: room!,
    name: 'Loft light',
    load,
    mustRun: false,
    fixtureBoxId: null,
    controls: [{ boxId: box, gang: 1 }],
  }
  work({ type: 'recordPoint', point })
  work({
    type: 'recordPoint',
    point: {
      ...point,
      name: 'Loft lantern',
      controls: [
        { boxId: box, gang: 1 },
        { boxId, gang: 1 },
      ],
    },
  })
  work({ type: 'retirePoint', pointId, reason: 'the lantern is a plug-in lamp' })
  work({ type: 'takeInBox', boxId: box, part: false })
  work({ type: 'takeInBox', boxId: box, part: true })
  // What the survey had wrongly: two plates of one box, one plate of two, a feed that is none.
  const [merged, parted] = [scenario.newId(), scenario.newId()]
  give({ type: 'recordBox', boxId: merged, name: 'loft sill', ...place, gangs: 1 })
  work({ type: 'takeInBox', boxId: merged, part: true })
  work({ type: 'mergeBoxes', intoId: box, fromId: merged, reason: 'one box behind two plates' })
  work({ type: 'splitBox', boxId: box, newId: parted, name: 'loft sill left', stay: 1 })
  give({ type: 'unfeedPanel', breakerId: scenario.breaker('3').id, reason: 'it feeds the oven' })
  const lamp = scenario.newId()
  give({ type: 'recordBox', boxId: lamp, name: 'loft lantern', ...place, gangs: 1, kind: 'fixture' })
  work({ type: 'recordPoint', point: { ...point, id: scenario.newId(), name: 'Loft lamp', fixtureBoxId: lamp } })
  give({ type: 'describeHome', housing: 'row', builder: 'Harbour homes' })
  give({ type: 'describeHome', neutralEarthed: true })
  const stopId = scenario.newId()
  give({ type: 'stopWork', stopId })
  give({ type: 'tellStop', stopId, what: 'fire', note: '' })
  give({ type: 'endStop', stopId, note: 'a lamp had burst' })
  const photoId = scenario.newId()
  work({ type: 'addPhoto', photoId, boxId, kind: 'asFound', caption: 'as found' })
  work({ type: 'markLetters', photoId, marks: [{ letter: 'A', x: 0.4, y: 0.6 }] })
  const defectId = scenario.newId()
  work({ type: 'listDefect', defectId, pointId: null, text: 'the plate is cracked' })
  work({ type: 'settleDefect', defectId, how: 'a new plate' })
  // What the home does by itself.
  const eye = scenario.newId()
  const routineId = scenario.newId()
  const [lit] = Object.keys(scenario.job.points)
  work({ type: 'setSensor', sensor: { id: eye, name: 'Loft eye', kind: 'motion', roomId: room! } })
  work({ type: 'dropSensor', sensorId: eye })
  const evening = {
    id: routineId,
    name: 'Evening',
    runs: 'hub' as const,
    paused: false,
    modes: [],
    kind: 'pair' as const,
    deviceIds: [lit!],
  }
  const sunset = { at: 'sunset' as const, offset: -10 }
  const night = { at: 'clock' as const, minute: 1380 }
  work({ type: 'setRoutine', routine: { ...evening, on: sunset, off: night, days: [1, 2, 3], date: null, level: 40 } })
  work({ type: 'dropRoutine', routineId })
  work({ type: 'setBehaviour', deviceId: lit!, behaviour: { ...usualBehaviour, powerOn: 'last', autoOffMinutes: 90 } })
  work({ type: 'setHabits', habits: { ...usualHabits, declined: ['location'] } })
  const kept = { watts: 95, spread: 3, memory: 0.2, every: 60, start: 310, startReadings: 1, readings: 900 }
  const lines = { low: 70, high: 120, readings: 3, every: 60, repeat: 3600 }
  work({ type: 'keepBaseline', deviceId: lit!, baseline: kept, monitor: lines, effect: { what: 'gauge', value: '45 %' } })
  work({ type: 'checkAlert', deviceId: lit!, check: 'arrived', result: 'pass', note: '' })
  return scenario
}
