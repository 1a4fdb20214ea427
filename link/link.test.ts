import '@matter/main/platform'
import { randomBytes } from 'node:crypto'
import { mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { jest } from '@jest/globals'
import { Environment, Logger } from '@matter/general'
import { ManualPairingCodeCodec, QrPairingCodeCodec } from '@matter/types'
import { readSetupCode } from '../core/commission'
import type { LinkAnswer, LinkedKind, LinkTask, LinkWork, Surroundings } from '../core/link'
import { squareCode } from '../core/testing/square-code'
import { Fabric, FabricInUse } from './fabric'
import { Link } from './link'
import { StandInHome } from './stand-ins/home'

jest.setTimeout(120_000)
Logger.level = 'fatal'
const folder = mkdtempSync(join(tmpdir(), 'circuitry-link-'))
Environment.default.vars.set('storage.path', join(folder, 'stand-ins'))
const key = randomBytes(32)
const jobId = 'job'
/** Shorter than in a home: nothing here is slower than this. */
const patience = { look: 5_000, answer: 8_000 }
let home: StandInHome
let link: Link
beforeAll(async () => {
  home = await StandInHome.open(join(folder, 'home.json'))
  link = new Link(folder, home, patience)
})
afterAll(async () => {
  await link.close()
  rmSync(folder, { recursive: true, force: true })
})

/** A code as the library itself writes it on a card, by the published payload of the standard. */
const card = (number: number) => squareCode(100 + number, 30_000_000 + number * 7919)
let tasks = 0
const asked = (unitId: string, work: LinkWork, around: Surroundings, of = jobId): Promise<LinkAnswer> =>
  link.do({ id: `task ${++tasks}`, jobId: of, unitId, seal: key.toString('base64'), around, work } as LinkTask)
const around = (kind: LinkedKind, serial: string, more: Partial<Surroundings> = {}): Surroundings => ({
  ...{ powered: true, windowOpen: true, narrowBand: false, reset: false, kind, serial, watts: [9] },
  ...more,
})
const join_ = (number: number, at: Surroundings) => asked(at.serial, { do: 'join', code: card(number) }, at)
const step = (checkId: string, on: boolean | null, level: number | null = null, endpoint = 1) => ({
  checkId,
  endpoint,
  on,
  level,
  hears: false,
})
const check = (at: Surroundings, steps: ReturnType<typeof step>[]) => asked(at.serial, { do: 'check', steps }, at)
const readings = (answer: LinkAnswer) =>
  answer.ok && answer.did === 'check' ? answer.results.map(({ reading }) => reading && [reading.on, reading.level, reading.watts]) : answer

/** As whoever is there does it: once more, where it broke. */
async function onceMore(ask: () => Promise<LinkAnswer>, most = 5): Promise<LinkAnswer> {
  const answer = await ask()
  return answer.ok || most === 1 ? answer : onceMore(ask, most - 1)
}
describe('codes', () => {
  it('what the program reads of a card is what the library wrote on it', () => {
    for (const number of [1, 77, 900]) {
      const qr = readSetupCode('openHome', card(number))
      expect(qr.ok && qr.code).toMatchObject({ kind: 'qr', discriminator: 100 + number, passcode: 30_000_000 + number * 7919 })
      const manual = ManualPairingCodeCodec.encode({ discriminator: 100 + number, passcode: 30_000_000 + number * 7919 })
      const read = readSetupCode('openHome', manual)
      expect(read.ok && read.code).toMatchObject({
        kind: 'manual',
        passcode: 30_000_000 + number * 7919,
        shortDiscriminator: (100 + number) >> 8,
      })
    }
  })
})

describe('every kind of device', () => {
  const kinds: [LinkedKind, number, object][] = [
    ['switch', 1, { level: false, speed: false, meter: false }],
    ['dimmer', 1, { level: true, speed: false, meter: false }],
    ['fan', 1, { level: false, speed: true, meter: false }],
    ['twoChannel', 2, { level: false, speed: false, meter: false }],
    ['meteringRelay', 1, { level: false, speed: false, meter: true }],
    ['sensor', 0, {}],
  ]
  it.each(kinds)('%s: joined by its square code, and says what it is', async (kind, count, has) => {
    const answer = await join_(kinds.findIndex(([one]) => one === kind) + 1, around(kind, `S-${kind}`))
    expect(answer).toMatchObject({ ok: true, did: 'join', device: { serial: `S-${kind}`, dbm: -55 } })
    const { channels } = (answer as Extract<LinkAnswer, { did: 'join' }>).device
    expect(channels).toHaveLength(count)
    if (count) expect(channels[0]).toMatchObject(has)
    expect(home.find(`S-${kind}`)!.homes).toBe(1)
    // Joined twice it is the same: nothing is counted twice on the device.
    expect(await join_(kinds.findIndex(([one]) => one === kind) + 1, around(kind, `S-${kind}`))).toMatchObject({ ok: true })
    expect(home.find(`S-${kind}`)!.homes).toBe(1)
  })
  it('a switch goes on and off, says so, and is left as it was found', async () => {
    const at = around('switch', 'S-switch')
    await home.find('S-switch')!.press()
    expect(readings(await check(at, [step('on', true), step('off', false)]))).toEqual([
      [true, null, null],
      [false, null, null],
    ])
    expect(home.find('S-switch')!.isOn()).toBe(true)
    await home.find('S-switch')!.press()
  })
  it('a dimmer, a fan and a relay with a meter say their level, speed and watts', async () => {
    expect(readings(await check(around('dimmer', 'S-dimmer'), [step('25', null, 25), step('75', null, 75)]))).toEqual([
      [true, 25, null],
      [true, 75, null],
    ])
    expect(readings(await check(around('fan', 'S-fan'), [step('33', null, 33), step('100', null, 100), step('off', false)]))).toEqual([
      [true, 33, null],
      [true, 100, null],
      [false, 0, null],
    ])
    expect(
      readings(await check(around('meteringRelay', 'S-meteringRelay'), [step('on', true), step('meter', null), step('off', false)])),
    ).toEqual([
      [true, null, 9.18],
      [true, null, 9.18],
      [false, null, 0.3],
    ])
  })
  it('a meter is read again and again, and nothing is switched for it; one that has none says so', async () => {
    const at = around('meteringRelay', 'S-meteringRelay')
    const trace = (of: Surroundings, seconds: number) => asked(of.serial, { do: 'trace', endpoint: 1, seconds, everySeconds: 0.1 }, of)
    const off = await trace(at, 0.35)
    expect(off).toMatchObject({ ok: true, did: 'trace', trace: { watts: [0.3, 0.3, 0.3, 0.3] } })
    await home.find('S-meteringRelay')!.press()
    const on = await trace(at, 0.35)
    const read = (on as Extract<LinkAnswer, { did: 'trace' }>).trace
    expect(read.watts).toEqual([9.18, 9.18, 9.18, 9.18])
    expect(read.at.every((one, index) => index === 0 || one > read.at[index - 1]!)).toBe(true)
    expect(home.find('S-meteringRelay')!.isOn()).toBe(true)
    await home.find('S-meteringRelay')!.press()
    expect(await trace(around('switch', 'S-switch'), 1)).toMatchObject({ ok: false, fault: 'cannot' })
  })
  it('a level is left as it was found, on or off', async () => {
    const at = around('dimmer', 'S-dimmer')
    const now = async () => readings(await check(at, [step('now', null)]))
    for (const on of [true, false]) {
      await home.find('S-dimmer')!.set(40, on)
      await check(at, [step('on', true), step('75', null, 75), step('off', false)])
      expect(await now()).toEqual([[on, 40, null]])
    }
  })
  it('each channel moves its own load only', async () => {
    const device = home.find('S-twoChannel')!
    await check(around('twoChannel', 'S-twoChannel'), [step('one', true, null, 1)])
    expect(readings(await check(around('twoChannel', 'S-twoChannel'), [step('a', true, null, 2), step('b', null, null, 1)]))).toEqual([
      [true, null, null],
      [false, null, null],
    ])
    expect([device.isOn(0), device.isOn(1)]).toEqual([false, false])
  })
  it('somebody presses at the wall, and the link hears it; where nobody does, it says so', async () => {
    const at = around('switch', 'S-switch')
    const hearing = asked('S-switch', { do: 'check', steps: [{ ...step('wall', null), hears: true }] }, at)
    await new Promise((resolve) => setTimeout(resolve, 700))
    await home.find('S-switch')!.press()
    expect(readings(await hearing)).toEqual([[true, null, null]])
    // What somebody set at the wall stays.
    expect(home.find('S-switch')!.isOn()).toBe(true)
  })
  it('a name is written, read again, and shortened to what the standard keeps', async () => {
    const at = around('switch', 'S-switch')
    expect(await asked('S-switch', { do: 'name', name: 'net loft window light' }, at)).toEqual({
      ok: true,
      did: 'name',
      kept: 'net loft window light',
    })
    expect(home.find('S-switch')!.label).toBe('net loft window light')
    const long = await asked('S-switch', { do: 'name', name: 'bélvèdere of the tide keeper’s long loft' }, at)
    expect(long).toMatchObject({ ok: true, kept: 'bélvèdere of the tide keeper' })
    expect(Buffer.byteLength((long as { kept: string }).kept)).toBeLessThanOrEqual(32)
  })
})

describe('what goes wrong gets a word of its own', () => {
  it('on the wrong band it is not found; once the phone is at 2.4 GHz it is', async () => {
    const at = around('switch', 'B-5G')
    expect(await join_(20, at)).toMatchObject({ ok: false, fault: 'notFound' })
    expect(await join_(20, { ...at, narrowBand: true })).toMatchObject({ ok: true })
  })
  it('one that still belongs to somebody is not found before it was reset', async () => {
    const at = around('switch', 'C-BOUND')
    expect(await join_(21, at)).toMatchObject({ ok: false, fault: 'notFound' })
    expect(await join_(21, { ...at, reset: true })).toMatchObject({ ok: true })
  })
  it('a full list, another device’s card, a device nobody joined', async () => {
    expect(await join_(22, around('switch', 'D-FULL'))).toMatchObject({ ok: false, fault: 'keepsNoMore' })
    await home.surround(around('switch', 'E'), card(23))
    const swapped = QrPairingCodeCodec.decode(card(23))[0]!
    const wrong = QrPairingCodeCodec.encode([{ ...swapped, passcode: 34_567_891 }])
    expect(await asked('E', { do: 'join', code: wrong }, around('switch', 'E'))).toMatchObject({ ok: false, fault: 'wrongCode' })
    expect(await check(around('switch', 'E'), [step('on', true)])).toMatchObject({ ok: false, fault: 'notLinked' })
  })
  it('a weak one joins in the end, a dying relay does not follow, one without power does not answer', async () => {
    // Every tenth packet is lost, and a machine that is busy besides answers late: more tries than somebody would make.
    expect(await onceMore(() => join_(24, around('switch', 'F-WEAK')), 12)).toMatchObject({ ok: true, device: { dbm: -84 } })
    expect(await join_(25, around('switch', 'G-DYING'))).toMatchObject({ ok: true })
    expect(readings(await check(around('switch', 'G-DYING'), [step('on', true)]))).toEqual([[false, null, null]])
    expect(await check(around('dimmer', 'S-dimmer', { powered: false }), [step('on', true)])).toMatchObject({
      ok: false,
      fault: 'noAnswer',
    })
    expect(readings(await check(around('dimmer', 'S-dimmer'), [step('on', true)]))).toEqual([[true, 40, null]])
  }, 240_000)
})

describe('the household', () => {
  const pause = (ms: number) => new Promise((go) => setTimeout(go, ms))
  const of = (serial: string, work: LinkWork) => asked(serial, work, around('switch', serial))
  const homesOf = async (serial: string) => {
    const answer = await of(serial, { do: 'homes' })
    return answer.ok && answer.did === 'homes' ? answer.homes.map(({ label, own }) => [label, own]) : answer
  }
  const eventually = async (serial: string, homes: number) => {
    for (let tries = 0; tries < 60 && home.find(serial)!.homes !== homes; tries++) await pause(100)
    expect(home.find(serial)!.homes).toBe(homes)
  }
  it('joins with a code of its own while the device is open for it; then the installer may go, and the device keeps its name', async () => {
    expect(await join_(40, around('switch', 'H1'))).toMatchObject({ ok: true })
    await of('H1', { do: 'name', name: 'porch light' })
    expect(await homesOf('H1')).toEqual([['Installer', true]])
    expect(await of('H1', { do: 'leave', gone: false, anyway: false })).toMatchObject({ ok: false, fault: 'onlyHome' })
    const opened = await of('H1', { do: 'open', seconds: 300 })
    if (!opened.ok || opened.did !== 'open') throw new Error(JSON.stringify(opened))
    // Both codes are those of the standard, and neither is the one on the device.
    expect(ManualPairingCodeCodec.decode(opened.code).passcode).toBe(QrPairingCodeCodec.decode(opened.square)[0]!.passcode)
    expect(readSetupCode('openHome', opened.square)).toMatchObject({ ok: true })
    expect(opened.square).not.toBe(card(40))
    await eventually('H1', 2)
    // An app writes its name once it is in.
    for (let tries = 0; tries < 60 && JSON.stringify(await homesOf('H1')).includes('""'); tries++) await pause(100)
    expect(await homesOf('H1')).toEqual([
      ['Installer', true],
      ['Household', false],
    ])
    expect(await of('H1', { do: 'leave', gone: false, anyway: false })).toEqual({ ok: true, did: 'leave', homesLeft: 1 })
    expect([home.find('H1')!.homes, home.find('H1')!.label]).toEqual([1, 'porch light'])
  })
  it('opened twice, the newer code counts; where nobody scans, nobody is on it', async () => {
    expect(await join_(41, around('switch', 'H2-ALONE'))).toMatchObject({ ok: true })
    const first = await of('H2-ALONE', { do: 'open', seconds: 300 })
    const second = await of('H2-ALONE', { do: 'open', seconds: 300 })
    if (!first.ok || first.did !== 'open' || !second.ok || second.did !== 'open') throw new Error('not opened')
    expect(first.code).not.toBe(second.code)
    expect(await homesOf('H2-ALONE')).toEqual([['Installer', true]])
    // Somebody else who reads the code joins as well as the household would: the installer of another job here.
    const other = { ...around('switch', 'H2-ALONE') }
    expect(await asked('H2-ALONE', { do: 'join', code: second.code }, other, 'second')).toMatchObject({ ok: true })
    expect(home.find('H2-ALONE')!.homes).toBe(2)
    expect(await asked('H2-ALONE', { do: 'leave', gone: false, anyway: false }, other, 'second')).toMatchObject({ ok: true, homesLeft: 1 })
    expect(await of('H2-ALONE', { do: 'leave', gone: false, anyway: true })).toMatchObject({ ok: true, homesLeft: 0 })
  })
  it('a device that was reset since is joined anew, whatever the link has kept of it', async () => {
    expect(await join_(42, around('switch', 'H3'))).toMatchObject({ ok: true })
    await home.reset('H3')
    expect(home.find('H3')!.homes).toBe(0)
    const again = await join_(42, around('switch', 'H3'))
    expect(again).toMatchObject({ ok: true, did: 'join' })
    expect(again.ok && again.did === 'join' && again.device.ms).toBeGreaterThan(0)
    expect(home.find('H3')!.homes).toBe(1)
    expect(await of('H3', { do: 'leave', gone: false, anyway: true })).toMatchObject({ ok: true, homesLeft: 0 })
  })
})

describe('the installer of a home', () => {
  const fabrics = join(folder, 'fabrics')
  const files = () => readdirSync(fabrics).filter((name) => name.startsWith(jobId) && name.endsWith('.fabric'))
  it('is sealed: nothing of it is read without the key of the office, and a changed file is refused', async () => {
    await link.close()
    const file = join(fabrics, files()[0]!)
    const bytes = readFileSync(file)
    for (const word of ['adminFabricLabel', 'Installer', 'S-switch', 'privateKey', 'fabric']) expect(bytes.includes(word)).toBe(false)
    const of = { jobId, folder: join(folder, 'fabrics'), network: home.host(), standIns: true }
    writeFileSync(file, Buffer.concat([bytes.subarray(0, 60), Buffer.from([bytes[60]! ^ 1]), bytes.subarray(61)]))
    await expect(Fabric.open({ ...of, key })).rejects.toThrow()
    writeFileSync(file, bytes)
    home = await StandInHome.open(join(folder, 'home.json'))
    link = new Link(folder, home, patience)
  })
  it('is there again after the process was stopped, and drives what it had joined', async () => {
    expect(readings(await check(around('switch', 'S-switch'), [step('on', true)]))).toEqual([[true, null, null]])
  })
  it('is kept under the key of the office, whichever that is now; without the key it is begun anew', async () => {
    const of = (key: Buffer) => ({ jobId: 'anew', folder: fabrics, network: home.host(), standIns: true, key })
    const [one, two] = [randomBytes(32), randomBytes(32)]
    const sealed = () => readdirSync(fabrics).filter((name) => name.startsWith('anew-'))
    await (await Fabric.open(of(one))).close()
    const [before] = sealed()
    const fabric = await Fabric.open(of(one))
    fabric.reseal(two)
    expect(sealed()).toHaveLength(1)
    expect(sealed()).not.toEqual([before])
    await fabric.close()
    // A file from before files were named by their key.
    renameSync(join(fabrics, sealed()[0]!), join(fabrics, 'anew.fabric'))
    await (await Fabric.open(of(two))).close()
    await (await Fabric.open(of(one))).close()
    expect(sealed()).toEqual([before])
  })
  it('is open in one process only', async () => {
    const of = { jobId, folder: join(folder, 'fabrics'), key, network: home.host(), standIns: true }
    writeFileSync(join(of.folder, 'other.lock'), String(process.ppid))
    await expect(Fabric.open({ ...of, jobId: 'other' })).rejects.toThrow(FabricInUse)
    // One that died with its lock in place is no hindrance.
    writeFileSync(join(of.folder, 'dead.lock'), '999999')
    const opened = await Fabric.open({ ...of, jobId: 'dead' })
    await opened.close()
  })
  it('leaves each device; one that is away keeps it, and the key is destroyed last', async () => {
    const joined = ['S-switch', 'S-dimmer', 'S-fan', 'S-twoChannel', 'S-meteringRelay', 'S-sensor', 'B-5G', 'C-BOUND', 'F-WEAK', 'G-DYING']
    const leave = (serial: string, more: Partial<Surroundings> = {}) =>
      asked(serial, { do: 'leave', gone: false, anyway: true }, around('switch', serial, { narrowBand: true, reset: true, ...more }))
    expect(await leave('S-dimmer', { powered: false })).toMatchObject({ ok: false, fault: 'noAnswer' })
    for (const serial of joined.filter((one) => one !== 'S-dimmer' && one !== 'G-DYING')) {
      expect(await onceMore(() => leave(serial))).toMatchObject({ ok: true, did: 'leave' })
      expect(home.find(serial)!.homes).toBe(0)
    }
    // In the bin: nobody can ask it.
    expect(
      await asked('G-DYING', { do: 'leave', gone: true, anyway: false }, around('switch', 'G-DYING', { powered: false })),
    ).toMatchObject({ ok: true })
    expect(files()).toHaveLength(1)
    expect(await leave('S-dimmer')).toEqual({ ok: true, did: 'leave', homesLeft: 0 })
    expect(files()).toEqual([])
    // Whoever has no key to it cannot say that nobody is on it.
    expect(await leave('S-dimmer')).toMatchObject({ ok: false, fault: 'notLinked' })
    expect(files()).toEqual([])
  })
})
