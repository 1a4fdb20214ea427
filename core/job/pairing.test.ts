import type { Observation, PairingStep } from '../commission/pairing/words'
import { powerSince, whenDone } from '../site'
import { crew, Scenario, testModel } from '../testing/scenario'
import { inventedCode } from '../testing/codes'
import { automatedHome } from './automated-home'
import { handoverChecklist } from './handover-list'
import { addressesCsv, dnsmasqHosts, hostName } from '../format/addresses-out'
import { addressedIn } from './pairing/addresses'
import { burningWindows, pairingDesk } from './pairing/desk'
import { pairingCase } from './pairing/case-of'
import { joiningOf, pairingOf } from './pairing/pairing-of'
import { placeInGroup } from './progress'
import { reserveAddressInput } from './pairing/reserve-address.schema'

const minute = 60_000
/** A hall with a device at its door, and nobody has joined it. */
function hall(model = testModel) {
  const scenario = new Scenario()
  const box = scenario.box('door')
  const unitId = scenario.newId()
  const over = { model: () => model }
  const say = (command: Parameters<Scenario['submitJob']>[0], actor = crew.ann) => scenario.submitJob(command, actor, over)
  scenario.must(say({ type: 'chooseDevice', boxId: box.id, gang: 1, modelId: model.id, pointIds: [scenario.point('Door light').id] }))
  scenario.must(
    say({ type: 'recordUnit', unitId, boxId: box.id, gang: 1, serial: 'SN-100', setupCode: inventedCode(1), setupCodeAgain: '' }),
  )
  const lever = (state: 'open' | 'closed', how: 'did' | 'found' = 'did') =>
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state, how }))
  const desk = () => pairingDesk(scenario.job, scenario.site, scenario.now, crew.ann.personId)
  const begin = (actor = crew.ann) => say({ type: 'beginPairing', unitId }, actor)
  const see = (seen: Observation) => scenario.must(say({ type: 'seeSign', unitId, seen }))
  const step = (one: PairingStep) => say({ type: 'tryPairingStep', unitId, step: one })
  const joined = () =>
    scenario.must(say({ type: 'recordPairing', unitId, result: 'joined', network: 'hall', signal: { kind: 'bars', bars: 3 }, note: '' }))
  return { scenario, box, unitId, say, lever, desk, begin, see, step, joined }
}
const refusal = (answer: ReturnType<Scenario['submitJob']>) => (answer.ok ? null : answer.refusal.code)

test('a hub is full with what this job has put on it since somebody counted', () => {
  const { scenario, unitId, joined } = hall({ ...testModel, radio: 'hub' })
  const hub = { networkId: scenario.newId(), kind: 'hub' as const, name: 'Cupboard', bands: [], channel: null, ownName: false, note: '' }
  const full = () => pairingCase(scenario.job, scenario.site, scenario.job.units[unitId]!, scenario.now).facts!.hubFull
  const count = (holds: number, more = {}) =>
    scenario.must(
      scenario.submitSite(
        { type: 'recordNetwork', ...hub, isolated: false, holds, holdsMost: 8, bound: [], roomId: null, ...more },
        crew.office,
      ),
    )
  scenario.job.units[unitId]!.installedAt = new Date(scenario.now + minute).toISOString()
  count(7)
  expect(full()).toBe(false)
  joined()
  expect(full()).toBe(true)
  // Counted again with it on.
  scenario.now += 5 * minute
  count(7)
  expect(full()).toBe(false)
  // It is on the other one: said by its name.
  scenario.job.units[unitId]!.installedAt = new Date(scenario.now + 20 * minute).toISOString()
  count(0, { networkId: scenario.newId(), name: 'HALL' })
  expect(full()).toBe(false)
})

test('of two devices that switch one light, the one that carries it is the primary, and comes first', () => {
  const model = { ...testModel, multiWay: 'companion' as const }
  const { scenario, unitId, lever } = hall(model)
  const door = scenario.point('Door light')
  // The light is switched from the stair as well: a companion there, and recorded first on its strip.
  scenario.job.points[door.id]!.controls.push({ boxId: scenario.box('stair').id, gang: 1 })
  // By its id it would be first.
  const otherId = '01000000-0000-7000-a000-000000000001'
  const companion = { ...model, id: '01890000-0000-7000-a000-0000000000c1', kind: 'companion' as const }
  const give = (command: Parameters<Scenario['submitJob']>[0]) =>
    scenario.must(scenario.submitJob(command, crew.ann, { model: () => companion }))
  give({ type: 'chooseDevice', boxId: scenario.box('stair').id, gang: 1, modelId: companion.id, pointIds: [door.id] })
  give({
    ...{ type: 'recordUnit', unitId: otherId, boxId: scenario.box('stair').id, gang: 1, serial: 'SN-200' },
    ...{ setupCode: inventedCode(2), setupCodeAgain: '' },
  })
  const place = (id: string) => placeInGroup(scenario.job, scenario.job.units[id]!)
  expect(place(unitId)).toMatchObject({ is: 'primary', others: [{ id: otherId }] })
  expect(place(otherId)).toMatchObject({ is: 'secondary', primary: { id: unitId } })
  lever('closed')
  expect(pairingDesk(scenario.job, scenario.site, scenario.now, crew.ann.personId).order.now.slice(0, 2)).toEqual([unitId, otherId])
})

describe('the clock of a window', () => {
  test('starts with the recorded closing, and whoever looks at a closed lever does not start it anew', () => {
    const { scenario, lever, desk } = hall()
    expect(desk().first).toMatchObject({ state: 'waiting', window: { is: 'unknown' } })
    // Nobody knows that it is late: no breaker is touched for it.
    expect(desk().order).toMatchObject({ cycles: [], restarted: [] })
    lever('open')
    expect(desk()).toMatchObject({ first: null, strips: [{ state: 'off' }] })
    lever('closed')
    const closed = scenario.now
    scenario.now += 14 * minute
    lever('closed', 'found')
    expect(desk().first!.window).toMatchObject({ is: 'open', until: closed + 15 * minute })
    expect(burningWindows(scenario.job, scenario.site, scenario.now)).toHaveLength(1)
    scenario.now += 2 * minute
    expect(desk().first!.window).toEqual({ is: 'over', since: closed + 15 * minute })
    expect(burningWindows(scenario.job, scenario.site, scenario.now)).toEqual([])
  })
  test('a lever that was found closed was closed at some time since it was found open: sure by the older, perhaps by the newer', () => {
    const { scenario, box, lever, desk } = hall()
    lever('open')
    const opened = scenario.now
    scenario.now += 8 * minute
    lever('closed', 'found')
    expect(powerSince(scenario.site, scenario.box('door'))).toEqual({ is: 'on', from: opened, to: scenario.now })
    scenario.now += 8 * minute
    expect(desk().first!.window.is).toBe('perhaps')
    expect(box.name).toBe('door')
  })
  test('the last of all that are ahead of a box counts, and a permit that nobody has answered brings no power yet', () => {
    const { scenario, lever, desk } = hall()
    lever('open')
    lever('closed')
    scenario.now += 5 * minute
    const main = scenario.breaker('main').id
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: main, state: 'open' }))
    expect(desk().first).toBeNull()
    const grantId = scenario.newId()
    scenario.must(scenario.submitSite({ type: 'requestClose', grantId, breakerId: main }))
    expect(desk().first).toBeNull()
    scenario.must(scenario.submitSite({ type: 'answerPermit', grantId, answer: 'closed' }))
    expect(desk().first!.window).toMatchObject({ is: 'open', from: scenario.now })
  })
  test('a phone whose clock runs ahead opens no window that is over; one that was without network, or is slow, makes it unsure', () => {
    const at = (iso: string, receivedAt: string) => whenDone({ at: iso, receivedAt })
    const [eight, nine] = ['2026-03-02T08:00:00.000Z', '2026-03-02T09:00:00.000Z']
    expect(at(nine, eight)).toEqual({ from: eight, to: eight })
    expect(at(eight, nine)).toEqual({ from: eight, to: nine })
    expect(at('2026-03-02T08:59:55.000Z', nine)).toEqual({ from: nine, to: nine })
  })
  test('a remote with a cell of its own waits for no breaker, and none is opened for it', () => {
    const { scenario, begin, see, lever, desk } = hall({
      ...testModel,
      terminals: ['ground'],
      pairingWindowMinutes: null,
      restartsBy: 'itself',
    })
    lever('open')
    scenario.must(begin())
    see('dark')
    expect(desk().first).toMatchObject({ window: { is: 'byGesture' } })
    expect(desk().first!.next.map(({ step }) => step)).not.toContain('powerCycle')
    expect(desk().first!.next.map(({ step }) => step)).not.toContain('lookAtPower')
  })
})

describe('a device is joined', () => {
  test('seen to wait, joined: what had kept it from joining and how long it took are learnt', () => {
    const { scenario, unitId, begin, see, step, joined, desk } = hall()
    scenario.must(begin())
    expect(desk().first).toMatchObject({ state: 'trying', next: [] })
    see('appPassword')
    expect(desk().first!.next[0]).toMatchObject({ step: 'password', cause: 'wrongPassword' })
    expect(scenario.job.units[unitId]!.pairing).toMatchObject({ result: 'failed', attempts: 1 })
    scenario.must(step('password'))
    expect(desk().first!.next.map((one) => one.step)).not.toContain('password')
    scenario.must(begin())
    scenario.now += 39_000
    joined()
    expect(pairingOf(scenario.job).joined[unitId]).toEqual({ cause: 'wrongPassword', seconds: 40 })
    expect(desk()).toMatchObject({ first: null, joined: [{ state: 'joined' }] })
    expect(joiningOf(scenario.job, unitId).history).toEqual([])
  })
  test('by hand in three taps: it waits, it joined with its bars; nothing else is asked', () => {
    const { scenario, begin, joined, desk } = hall()
    scenario.must(begin())
    joined()
    expect(desk().joined).toHaveLength(1)
    expect(scenario.log.filter(({ type }) => type.startsWith('pairing'))).toHaveLength(2)
  })
  test('not behind an open breaker, not twice at once, not what has no radio', () => {
    const { scenario, say, begin, lever } = hall()
    lever('open')
    expect(refusal(begin())).toBe('noPower')
    lever('closed')
    scenario.must(begin())
    expect(refusal(begin(crew.ben))).toBe('pairedByMate')
    scenario.now += 4 * minute
    expect(begin(crew.ben).ok).toBe(true)
    const dumb = hall({ ...testModel, setupCode: 'none' })
    expect(refusal(dumb.begin())).toBe('nothingToPair')
    expect(refusal(say({ type: 'beginPairing', unitId: scenario.newId() }))).toBe('noSuchUnit')
  })
  test('three tries, or ten minutes, are enough; it waits at the foot, is taken up again, and what was tried stays known', () => {
    const { scenario, unitId, say, begin, see, step, desk } = hall()
    for (const seen of ['timeout', 'joining', 'waiting'] as const) {
      scenario.must(begin())
      see(seen)
      if (seen === 'timeout') scenario.must(step('band'))
    }
    expect(desk().first!.enough).toBe(true)
    scenario.must(say({ type: 'parkUnit', unitId }))
    expect(desk()).toMatchObject({ first: null, parked: [{ unit: { id: unitId } }] })
    expect(desk().parked[0]!.next[0]!.step).not.toBe('band')
    scenario.must(say({ type: 'takeUpUnit', unitId }))
    expect(desk().first).toMatchObject({ enough: false })
    expect(joiningOf(scenario.job, unitId).history).toHaveLength(4)
    expect(refusal(say({ type: 'takeUpUnit', unitId }))).toBe('notParked')
    scenario.must(begin())
    scenario.now += 11 * minute
    expect(desk().first!.enough).toBe(true)
  })
  test('a power cycle is said by the record, not by a tap; one that is started anew by itself opens its window', () => {
    const { scenario, begin, see, step, lever, desk } = hall()
    lever('open')
    lever('closed')
    scenario.must(begin())
    see('idle')
    expect(refusal(step('powerCycle'))).toBe('notCycled')
    expect(refusal(step('restart'))).toBe('restartsByBreaker')
    scenario.now += minute
    lever('open')
    lever('closed')
    scenario.must(step('powerCycle'))
    const own = hall({ ...testModel, restartsBy: 'itself' })
    own.lever('open')
    own.lever('closed')
    own.scenario.now += 20 * minute
    expect(own.desk().first!.window.is).toBe('over')
    expect(own.desk().order.restarted).toHaveLength(1)
    own.see('idle')
    expect(own.desk().first!.next[0]!.step).toBe('restart')
    own.scenario.must(own.step('restart'))
    expect(own.desk().first!.window.is).toBe('open')
    expect(desk().first).not.toBeNull()
  })
  test('what waited on a phone without network is as old as it is', () => {
    const { scenario, unitId, begin, joined } = hall()
    scenario.heldMs = 5 * minute
    scenario.must(begin())
    scenario.heldMs = 4 * minute
    joined()
    expect(pairingOf(scenario.job).joined[unitId]!.seconds).toBe(61)
  })
})

describe('the home around it', () => {
  test('the 5 GHz band that was paused has to be on again before anything is handed over', () => {
    const { scenario, say } = hall()
    const item = () => handoverChecklist(scenario.job, scenario.site).find(({ id }) => id === 'band')
    expect(item()).toBeUndefined()
    expect(refusal(say({ type: 'restoreBand' }))).toBe('notPaused')
    scenario.must(say({ type: 'pauseBand', minutes: 10 }))
    expect(item()).toMatchObject({ done: false })
    scenario.must(say({ type: 'restoreBand' }))
    expect(item()).toBeUndefined()
  })
  test('what the household does not allow is one fact, for pairing and for what the home does by itself', () => {
    const { scenario, say } = hall()
    const accounts = { owner: 'customer' as const, home: 'Hall', network: 'hall', remote: false }
    const home = () => automatedHome(scenario.job, scenario.site, { zone: 'UTC', position: null })
    scenario.must(say({ type: 'noteAccounts', ...accounts, declined: ['location', 'location'] }))
    expect(home().habits.declined).toEqual(['location'])
    scenario.must(say({ type: 'setHabits', habits: { ...home().habits, declined: ['notifications'] } }))
    expect(pairingOf(scenario.job).accounts!.declined).toEqual(['notifications'])
    scenario.must(say({ type: 'noteAccounts', ...accounts, declined: [] }))
    expect(home().habits.declined).toEqual([])
  })
  test('what joined before may have brought back its old name, room and schedules: somebody looks', () => {
    const { scenario, unitId, say, begin, see, joined } = hall()
    joined()
    expect(pairingOf(scenario.job).inherited).toEqual([])
    scenario.must(begin())
    see('timeout')
    expect(refusal(say({ type: 'settleInherited', unitId, is: 'kept' }))).toBe('notAddedAgain')
    scenario.must(begin())
    joined()
    joined()
    expect(pairingOf(scenario.job).inherited).toEqual([unitId])
    scenario.must(say({ type: 'settleInherited', unitId, is: 'cleared' }))
    expect(pairingOf(scenario.job).inherited).toEqual([])
  })
  test('what is paired and shows something else when it is paired again is not paired: there is advice', () => {
    const { say, unitId, joined, see, desk, scenario } = hall()
    joined()
    see('idle')
    expect(desk()).toMatchObject({ joined: [], first: { state: 'waiting', unit: { id: unitId } } })
    expect(desk().first!.next.length).toBeGreaterThan(3)
    scenario.must(say({ type: 'parkUnit', unitId }))
  })
  test('the drill: what works with the internet off; a wall control that does not is told', () => {
    const { scenario, say } = hall()
    const drill = { type: 'recordDrill' as const, without: 'internet' as const, app: 'fails' as const, voice: 'none' as const, note: '' }
    expect(refusal(say({ ...drill, wall: 'fails' }))).toBe('noteMissing')
    scenario.must(say({ ...drill, wall: 'works' }))
    const why = handoverChecklist(scenario.job, scenario.site).find(({ id }) => id === 'noInternet')!.why
    expect(why).toContain('internet off: wall works, app does not')
  })
  test('addresses are kept once each, and written for people and for dnsmasq', () => {
    const { scenario, unitId, say, joined } = hall()
    const reserve = (address: string, deviceId = unitId) => say({ type: 'reserveAddress', deviceId, mac: '3c:5a:b4:00:12:ef', address })
    expect(refusal(reserve('192.168.1.40'))).toBe('noSuchDevice')
    joined()
    scenario.must(say({ type: 'nameUnit', unitId, pointId: null, name: 'Hall “door” light', despiteClash: false }))
    for (const wrong of ['127.0.0.1', '192.168.1.255', '239.1.1.1', '0.1.2.3']) expect(refusal(reserve(wrong))).toBe('noHostAddress')
    scenario.must(reserve('192.168.1.40'))
    const hub = {
      networkId: scenario.newId(),
      kind: 'hub' as const,
      name: '=Hub',
      bands: [],
      channel: null,
      ownName: false,
      isolated: true,
    }
    scenario.must(
      scenario.submitSite({ type: 'recordNetwork', ...hub, holds: null, holdsMost: null, note: '', bound: [], roomId: null }, crew.office),
    )
    expect(refusal(reserve('192.168.1.41', hub.networkId))).toBe('addressTaken')
    scenario.must(say({ type: 'reserveAddress', deviceId: hub.networkId, mac: '3c:5a:b4:00:12:f0', address: '192.168.1.5' }))
    const all = addressedIn(scenario.job, scenario.site)
    expect(dnsmasqHosts(all)).toBe(
      'dhcp-host=3c:5a:b4:00:12:f0,hub,192.168.1.5\ndhcp-host=3c:5a:b4:00:12:ef,hall-door-light,192.168.1.40\n',
    )
    expect(addressesCsv(all).split(/\r?\n/)[1]).toBe('"\'=Hub",,,yes,3c:5a:b4:00:12:f0,192.168.1.5')
    scenario.must(reserve(''))
    expect(addressedIn(scenario.job, scenario.site).filter(({ kept }) => kept)).toHaveLength(1)
    expect(reserveAddressInput.safeParse({ deviceId: unitId, mac: '3C-5A-B4-00-12-EF', address: '10.0.0.2' }).data).toMatchObject({
      mac: '3c:5a:b4:00:12:ef',
    })
    expect(reserveAddressInput.safeParse({ deviceId: unitId, mac: '3C-5A', address: '10.0.0.2' }).success).toBe(false)
    expect(reserveAddressInput.safeParse({ deviceId: unitId, mac: '3C-5A-B4-00-12-EF', address: '10.0.0' }).success).toBe(false)
  })
  test('names become names of a network: letters, digits and dashes, at most 63 (RFC 1123)', () => {
    expect(hostName('  Küche – Decke 2 ')).toBe('kuche-decke-2')
    expect(hostName('灯')).toBe('')
    expect(hostName('a'.repeat(80))).toHaveLength(63)
  })
})
