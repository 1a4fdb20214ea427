import type { ChannelReading, JoinedDevice, LinkFault } from '../link'
import { faultSaid, judgeLinkCheck, linkChecks, linkFaultWords } from '../link'
import { crew, Scenario, testModel } from '../testing/scenario'
import { inventedCode } from '../testing/codes'
import { handoverChecklist } from './handover-list'
import { linkObjection } from './link/objection'
import { linkOf } from './link/link-of'
import { loadOn } from './link/link-checks-of'
import { linkTasks, meteredPoint } from './link/tasks'
import { noHomeLeft } from './link/unlink-unit'
import { serialSaid } from './link/serial-said'
import { surroundingsOf } from './link/surroundings'
import { pairingDesk } from './pairing/desk'
import { joiningOf } from './pairing/pairing-of'
import { checksFor, pointStatus, testResults } from './progress'

const unsaid = { clear: false, code: false }
const channel = { endpoint: 1, level: false, speed: false, meter: false }
const device = (over: Partial<JoinedDevice> = {}): JoinedDevice => ({
  ...{ vendor: 'Maker', product: 'Switch', serial: 'SN-100', channels: [channel], dbm: -58, network: '', ms: 1_240 },
  ...over,
})
function hall() {
  const scenario = new Scenario()
  const box = scenario.box('door')
  const unitId = scenario.newId()
  const over = { model: () => testModel }
  const say = (command: Parameters<Scenario['submitJob']>[0]) => scenario.submitJob(command, crew.ann, over)
  const point = scenario.point('Door light')
  scenario.must(say({ type: 'chooseDevice', boxId: box.id, gang: 1, modelId: testModel.id, pointIds: [point.id] }))
  const code = inventedCode(1)
  scenario.must(say({ type: 'recordUnit', unitId, boxId: box.id, gang: 1, serial: 'SN-100', setupCode: code, setupCodeAgain: '' }))
  const lever = (state: 'open' | 'closed') =>
    scenario.must(scenario.submitSite({ type: 'observeBreaker', breakerId: scenario.breaker('1').id, state, how: 'did' }))
  const unit = () => scenario.job.units[unitId]!
  const no = (doing: Parameters<typeof linkObjection>[3], clear = false) =>
    linkObjection(scenario.job, scenario.site, unitId, doing, { clear, code: false })?.code ?? null
  const link = (over: Partial<JoinedDevice> = {}) => scenario.must(say({ type: 'linkUnit', unitId, device: device(over) }))
  const fault = (what: LinkFault, doing: 'join' | 'check' = 'join') =>
    scenario.must(say({ type: 'noteLinkFault', unitId, doing, fault: what }))
  const answer = (readings: (ChannelReading | null)[]) => {
    const { steps } = linkTasks.work(scenario.job, unit(), false)!
    const results = steps.map(({ checkId }, index) => ({ checkId, reading: readings[index] ?? null, ms: 40 }))
    return linkTasks.results(scenario.job, unit(), { ok: true, did: 'check', results })
  }
  const measured = (readings: (ChannelReading | null)[]) =>
    scenario.must(say({ type: 'recordLinkChecks', unitId, results: answer(readings) }))
  const item = () => handoverChecklist(scenario.job, scenario.site).find(({ id }) => id === 'installer')
  return { scenario, box, point, unitId, say, lever, unit, no, link, fault, answer, measured, item }
}
const [on, off] = [true, false].map((is): ChannelReading => ({ on: is, level: null, watts: null }))

describe('joining over the link', () => {
  test('is pairing: network, level and what had kept it from it are in the record; joined twice is once', () => {
    const { scenario, unit, link, fault, say, unitId } = hall()
    scenario.must(say({ type: 'beginPairing', unitId }))
    fault('notFound')
    expect(linkOf(scenario.job).faults[unitId]).toMatchObject({ fault: 'notFound', doing: 'join' })
    // The advice goes on from what the link saw, as if somebody had said it.
    expect(joiningOf(scenario.job, unitId).history).toMatchObject([{ seen: 'appFindsNothing', waited: true }])
    expect(pairingDesk(scenario.job, scenario.site, scenario.now, crew.ann.personId).strips[0]!.next.length).toBeGreaterThan(0)
    scenario.must(say({ type: 'tryPairingStep', unitId, step: 'band' }))
    link({ network: 'withy-bank' })
    expect(unit().pairing).toMatchObject({ result: 'joined', network: 'withy-bank', signal: { kind: 'dbm', dbm: -58 } })
    expect(scenario.job.pairing!.joined[unitId]).toEqual({ cause: 'wrongBand', seconds: 1 })
    expect(linkOf(scenario.job)).toMatchObject({ faults: {}, units: { [unitId]: { serial: 'SN-100', channels: [channel] } } })
    const { attempts } = unit().pairing!
    link()
    expect(unit().pairing!.attempts).toBe(attempts)
  })
  test('a fault of a test says nothing of pairing', () => {
    const { scenario, unitId, link, fault } = hall()
    link()
    fault('noAnswer', 'check')
    expect(joiningOf(scenario.job, unitId).history).toEqual([])
  })
  test('every fault says what it is and what to do', () => {
    for (const { what, next } of Object.values(linkFaultWords)) {
      expect(what).toMatch(/\.$/)
      expect(next).toMatch(/[.?]$/)
    }
  })
})

describe('what switches a load obeys the rule of every test', () => {
  test('closed up, power on; and only what was joined', () => {
    const { lever, link, no, box, scenario, unitId } = hall()
    expect([no('check'), no('name'), no('leave')]).toEqual(['notLinked', 'notLinked', 'notLinked'])
    expect(no('join')).toBeNull()
    lever('closed')
    link()
    expect([no('check'), no('wall'), no('leave')]).toEqual([null, null, null])
    expect(no('name')).toBe('noName')
    lever('open')
    expect([no('check'), no('wall')]).toEqual(['powerOff', 'powerOff'])
    lever('closed')
    const opened = {
      ...scenario.site,
      boxes: { ...scenario.site.boxes, [box.id]: { ...scenario.site.boxes[box.id]!, closure: 'opened' as const } },
    }
    for (const doing of ['check', 'wall'] as const) expect(linkObjection(scenario.job, opened, unitId, doing, unsaid)?.code).toBe('boxOpen')
    expect(linkObjection(scenario.job, opened, unitId, 'leave', unsaid)).toBeNull()
  })
})

test('a load that moves is started once somebody said that everybody is clear', () => {
  const { scenario, lever, link, no, point } = hall()
  lever('closed')
  link()
  scenario.job = { ...scenario.job, points: { ...scenario.job.points, [point.id]: { ...scenario.job.points[point.id]!, mustRun: true } } }
  expect([no('check'), no('check', true), no('wall')]).toEqual(['notClear', null, null])
})
test('a meter is read of a device that has one, of what must run first, and switches nothing', () => {
  const { scenario, lever, link, no, unit, point } = hall()
  lever('closed')
  link()
  expect(no('trace')).toBe('noMeter')
  link({ channels: [{ ...channel, meter: true }] })
  scenario.job = { ...scenario.job, points: { ...scenario.job.points, [point.id]: { ...scenario.job.points[point.id]!, mustRun: true } } }
  // Nobody has to stand clear of what is only read.
  expect(no('trace')).toBeNull()
  expect(meteredPoint(scenario.job, unit())?.id).toBe(point.id)
  expect(linkTasks.trace(scenario.job, unit())).toMatchObject({ do: 'trace', endpoint: channel.endpoint })
})
test('one channel that carries two points is measured against both', () => {
  const { scenario, link, unit, unitId, box, point } = hall()
  link({ channels: [{ ...channel, meter: true }] })
  const second = { ...point, id: 'second', load: { ...point.load, lamps: 3, wattsEach: 7 } }
  const work = scenario.job.boxes[box.id]!
  const job = {
    ...scenario.job,
    points: { ...scenario.job.points, second },
    boxes: { ...scenario.job.boxes, [box.id]: { ...work, devices: { 1: { ...work.devices[1]!, pointIds: [point.id, 'second'] } } } },
  }
  const alone = point.load.lamps * point.load.wattsEach
  expect(loadOn(job, unit(), point).watts).toBe(alone + 21)
  expect(loadOn(scenario.job, unit(), point).watts).toBe(alone)
  void unitId
})

describe('what the link measured', () => {
  test('stands beside what was looked at by hand, and keeps nobody from finishing who never tried it', () => {
    const { scenario, point, lever, link, measured, say } = hall()
    lever('closed')
    link()
    const byHand = checksFor(scenario.job, scenario.site, point)
    for (const { id } of byHand) scenario.must(say({ type: 'testPoint', pointId: point.id, checkId: id, result: 'pass', note: '' }))
    expect(pointStatus(scenario.job, scenario.site, point)).toBe('passed')
    measured([on!, on!])
    expect(testResults(scenario.job, scenario.site, point)['link:off']).toMatchObject({ result: 'fail', measured: 'on after 40 ms' })
    expect(pointStatus(scenario.job, scenario.site, point)).toBe('failed')
    measured([on!, off!])
    expect(pointStatus(scenario.job, scenario.site, point)).toBe('passed')
    expect(checksFor(scenario.job, scenario.site, point)).toHaveLength(byHand.length + 2)
  })
  test('a device that does not answer fails its checks', () => {
    const { lever, link, answer } = hall()
    lever('closed')
    link()
    expect(answer([null, null]).map(({ result, measured }) => [result, measured])).toEqual([
      ['fail', 'no answer over the link'],
      ['fail', 'no answer over the link'],
    ])
  })
  test('a dimmer is tried at three levels, a fan at three speeds, a meter against its lamp; the last is off', () => {
    const load = { watts: 10, dimmable: true }
    const ids = (has: object) => linkChecks({ ...channel, ...has }, load).map(({ id }) => id)
    expect(ids({ level: true })).toEqual(['link:on', 'link:level:25', 'link:level:50', 'link:level:75', 'link:off', 'link:wall'])
    expect(ids({ speed: true })).toEqual(['link:on', 'link:level:33', 'link:level:66', 'link:level:100', 'link:off'])
    // What does not dim is not dimmed.
    expect(linkChecks({ ...channel, level: true }, { ...load, dimmable: false }).map(({ id }) => id)).toEqual([
      'link:on',
      'link:off',
      'link:wall',
    ])
    const meter = linkChecks({ ...channel, meter: true }, load)[1]!
    const judged = (watts: number | null) => judgeLinkCheck(meter, { on: true, level: null, watts }, 1, load).pass
    // 10 W by its model: two watts or a fifth beside it is right.
    expect([8, 10, 12, 7.9, 12.1, null].map(judged)).toEqual([true, true, true, false, false, false])
  })
})

describe('whose serial it is', () => {
  test('a device that says another one is told of; that of another device of the job means swapped cards', () => {
    const { scenario, unit, link } = hall()
    expect(serialSaid(scenario.job, unit())).toBeNull()
    link({ serial: 'sn-100 ' })
    expect(serialSaid(scenario.job, unit())).toBeNull()
    link({ serial: '' })
    expect(serialSaid(scenario.job, unit())).toBeNull()
    link({ serial: 'SN-200' })
    expect(serialSaid(scenario.job, unit())).toEqual({ says: 'SN-200', of: null })
    const other = { ...unit(), id: 'other', serial: 'SN-200' }
    const job = { ...scenario.job, units: { ...scenario.job.units, other } }
    expect(serialSaid(job, unit())?.of?.id).toBe('other')
  })
})
describe('after the handover', () => {
  test('nothing goes on or off by itself while nobody is with the household; the installer is taken off from anywhere', () => {
    const { scenario, unitId, link, lever } = hall()
    lever('closed')
    link()
    const over = { ...scenario.job, handedOverAt: '2026-01-01T10:00:00Z', visits: {} }
    for (const doing of ['check', 'wall', 'open'] as const)
      expect(linkObjection(over, scenario.site, unitId, doing, unsaid)?.code).toBe('handedOver')
    for (const doing of ['homes', 'leave'] as const) expect(linkObjection(over, scenario.site, unitId, doing, unsaid)).toBeNull()
  })
})

describe('leaving', () => {
  test('is on the handover’s list from the first device joined, and done with the last', () => {
    const { scenario, unitId, link, item, say } = hall()
    expect(item()).toBeUndefined()
    link()
    expect(item()).toMatchObject({ done: false, why: 'SN-100' })
    scenario.must(say({ type: 'unlinkUnit', unitId, homesLeft: 1 }))
    expect(item()).toMatchObject({ done: true })
    expect(linkOf(scenario.job).units).toEqual({})
  })
  test('without the link, somebody says how', () => {
    const { unitId, link, item, say } = hall()
    const gone = (how: string) => say({ type: 'noteInstallerGone', unitId, how })
    expect(gone('reset as its maker says')).toMatchObject({ ok: false, refusal: { code: 'notLinked' } })
    link()
    expect(gone('')).toMatchObject({ ok: false, refusal: { code: 'noteMissing' } })
    expect(gone('reset as its maker says').ok).toBe(true)
    expect(item()).toMatchObject({ done: true })
  })
})

test('a stand-in is told of power, window, band and reset by the record', () => {
  const { scenario, unit, lever, say, unitId } = hall()
  const around = () => surroundingsOf(scenario.job, scenario.site, unit(), scenario.now)
  lever('open')
  expect(around()).toMatchObject({ powered: false, windowOpen: false, narrowBand: false, reset: false, serial: 'SN-100', kind: 'switch' })
  lever('closed')
  expect(around()).toMatchObject({ powered: true, windowOpen: true })
  scenario.must(say({ type: 'pauseBand', minutes: 10 }))
  scenario.must(say({ type: 'beginPairing', unitId }))
  scenario.must(say({ type: 'seeSign', unitId, seen: 'timeout' }))
  scenario.must(say({ type: 'tryPairingStep', unitId, step: 'reset' }))
  expect(around()).toMatchObject({ narrowBand: true, reset: true })
  scenario.now += 60 * 60_000
  expect(around()).toMatchObject({ windowOpen: false })
})

describe('the household', () => {
  const household = { label: 'Household', own: false }
  const own = { label: 'Installer', own: true }
  test('is let in by a window; who is on a device is asked, and asked again once it was opened', () => {
    const { scenario, unitId, say, link, no } = hall()
    expect([no('open'), no('homes')]).toEqual(['notLinked', 'notLinked'])
    link()
    expect([no('open'), no('homes')]).toEqual([null, null])
    scenario.must(say({ type: 'noteHomes', unitId, homes: [own] }))
    expect(linkOf(scenario.job).units[unitId]!.homes!.list).toEqual([own])
    scenario.must(say({ type: 'noteOpened', unitId, until: '2026-05-04T10:15:00.000Z' }))
    expect(linkOf(scenario.job).units[unitId]!.homes).toBeNull()
    scenario.must(say({ type: 'noteHomes', unitId, homes: [own, household] }))
    scenario.must(say({ type: 'unlinkUnit', unitId, homesLeft: 1 }))
    expect(scenario.job.units[unitId]!.pairing).toMatchObject({ result: 'joined' })
  })
  test('is not there: without its last home a device is paired no more, whatever was said of it before', () => {
    for (const last of ['unlinkUnit', 'noteInstallerGone'] as const) {
      const { scenario, unitId, say, link } = hall()
      link()
      const paired = () => handoverChecklist(scenario.job, scenario.site).find(({ id }) => id === 'pairing')!
      scenario.must(
        say(
          last === 'unlinkUnit'
            ? { type: last, unitId, homesLeft: 0 }
            : { type: last, unitId, how: 'held the button for ten seconds', reset: true },
        ),
      )
      expect(scenario.job.units[unitId]!.pairing).toMatchObject({ result: 'failed', note: noHomeLeft })
      expect(paired().done).toBe(false)
      link()
      expect(scenario.job.units[unitId]!.pairing).toMatchObject({ result: 'joined' })
    }
  })
  test('has the device already: its app shows a code, and that on the card is not needed', () => {
    const { scenario, unitId } = hall()
    const job = structuredClone(scenario.job)
    job.units[unitId]!.code = { ...job.units[unitId]!.code, kind: 'none' }
    expect(linkObjection(job, scenario.site, unitId, 'join', unsaid)?.code).toBe('noCode')
    expect(linkObjection(job, scenario.site, unitId, 'join', { ...unsaid, code: true })).toBeNull()
  })
  test('a laptop without the key does not say that nobody is on it', () => {
    expect(faultSaid('notLinked', 'leave')).toContain('until it is reset')
    expect(faultSaid('notLinked', 'check')).toContain('Join it')
  })
})
