import { createDecipheriv, createHash, pbkdf2Sync } from 'node:crypto'
import { tellingIn } from '../automation/describe'
import { automatedHome, handoverChecklist } from '../job'
import { papers } from '../names/labels'
import { inventedCode } from '../testing/codes'
import { crew, Scenario, testModel } from '../testing/scenario'
import { guestCard } from './guest-card'
import { guestCardSheets, linesIn } from './guest-card-drawing'
import { homeHtml } from './home-html'
import { newPassphrase, plainPassphrase } from './passphrase'
import { openCodes, sealCodes, withSealedCodes } from './sealed-codes'
import { homeSections } from './home-page'

const edges = {
  gestures: [
    { gesture: 'pressTop' as const, does: 'on' as const },
    { gesture: 'pressBottom' as const, does: 'off' as const },
  ],
}
const key = { gestures: [{ gesture: 'press' as const, does: 'onOff' as const }] }
/** A hall with a device at its door, one at its stair, and an old switch elsewhere in the record. */
function hall(stair: Partial<typeof testModel> = {}) {
  const scenario = new Scenario()
  const door = { ...testModel, ...edges, restart: 'Pull the air gap.', reset: 'Hold the top 15 seconds.' }
  const other = { ...door, id: '01890000-0000-7000-a000-0000000000c1', name: 'other', ...stair }
  const over = { model: (id: string) => (id === other.id ? other : door) }
  const say = (command: Parameters<Scenario['submitJob']>[0], actor = crew.ann, more = {}) =>
    scenario.submitJob(command, actor, { ...over, ...more })
  const units = (['door', 'stair'] as const).map((name, index) => {
    const unitId = scenario.newId()
    const point = scenario.point(name === 'door' ? 'Door light' : 'Stair light')
    scenario.must(
      say({ type: 'chooseDevice', boxId: scenario.box(name).id, gang: 1, modelId: index ? other.id : door.id, pointIds: [point.id] }),
    )
    const setupCode = inventedCode(index + 1)
    scenario.must(
      say({ type: 'recordUnit', unitId, boxId: scenario.box(name).id, gang: 1, serial: `SN-10${index}`, setupCode, setupCodeAgain: '' }),
    )
    return { unitId, setupCode, name: `Hall ${name}` }
  })
  const pair = () => {
    for (const { unitId, name } of units) {
      scenario.must(say({ type: 'recordPairing', unitId, result: 'joined', network: 'hall', signal: { kind: 'dbm', dbm: -55 }, note: '' }))
      scenario.must(say({ type: 'nameUnit', unitId, pointId: null, name, despiteClash: false }))
    }
  }
  const item = (id: string) => handoverChecklist(scenario.job, scenario.site).find((one) => one.id === id)
  return { scenario, units, say, item, pair }
}
const code = (answer: ReturnType<Scenario['submitJob']>) => (answer.ok ? null : answer.refusal.code)

describe('what the handover rests on', () => {
  test('a tick says what shows it, in the record and in the history; a picture must be there', () => {
    const { scenario, say, item } = hall()
    const tick = (more: object, over = {}) =>
      say({ type: 'tickHandover', itemId: 'labels', done: true, rests: 'seen', photoId: null, note: '', ...more }, crew.ann, over)
    const photoId = scenario.newId()
    expect(code(tick({ rests: 'picture' }))).toBe('noPicture')
    // On the server, but not of this job’s record.
    expect(code(tick({ rests: 'picture', photoId }, { hasPhoto: () => true }))).toBe('noPicture')
    scenario.must(say({ type: 'addPhoto', photoId, boxId: null, kind: 'other', caption: '' }))
    scenario.must(tick({ rests: 'picture', photoId, note: 'inside of the door' }))
    expect(item('labels')).toMatchObject({ done: true, tick: { rests: 'picture', photoId, note: 'inside of the door' } })
    // A word needs no picture, and keeps none.
    scenario.must(tick({ rests: 'word', photoId, note: 'Mara says so' }))
    expect(scenario.job.ticks.labels).toMatchObject({ rests: 'word', photoId: null })
    scenario.must(tick({ done: false, rests: 'picture' }))
    expect(item('labels')).toMatchObject({ done: false })
    expect(item('labels')!.tick).toBeUndefined()
  })
  test('an invitation alone opens nothing: the list waits for each who was invited', () => {
    const { scenario, say, item } = hall()
    const note = (memberId: string, name: string, is: 'invited' | 'accepted' | 'gone') => say({ type: 'noteMember', memberId, name, is })
    expect(item('members')).toMatchObject({ auto: false })
    const [mara, ib] = [scenario.newId(), scenario.newId()]
    scenario.must(note(mara, 'Mara', 'invited'))
    scenario.must(note(ib, 'Ib', 'invited'))
    expect(code(note(scenario.newId(), 'MARA', 'invited'))).toBe('nameTaken')
    scenario.must(note(mara, 'Mara', 'accepted'))
    expect(item('members')).toMatchObject({ auto: true, done: false, why: 'Ib has not accepted yet' })
    expect(code(say({ type: 'tickHandover', itemId: 'members', done: true, rests: 'seen', photoId: null, note: '' }))).toBe('computed')
    scenario.must(note(ib, 'Ib', 'gone'))
    expect(item('members')).toMatchObject({ done: true, why: 'Mara accepted.' })
    scenario.must(note(mara, 'Mara', 'gone'))
    expect(item('members')).toMatchObject({ auto: false, done: false })
  })
  test('warranties follow from what was registered; what no maker wants is ticked', () => {
    const { scenario, units, say, item } = hall()
    const register = (unitIds: string[], until: string | null = '2031-03-02') =>
      say({ type: 'registerWarranty', unitIds, number: 'W-7', until }, crew.office)
    expect(code(register([scenario.newId()]))).toBe('noSuchUnit')
    expect(code(register([units[0]!.unitId], '2026-02-01'))).toBe('overAlready')
    scenario.must(register([units[0]!.unitId]))
    expect(item('warranty')).toMatchObject({ auto: false, done: false, why: 'Not yet: SN-101. Tick where these need none.' })
    scenario.must(register([units[1]!.unitId], null))
    expect(item('warranty')).toMatchObject({ auto: true, done: true })
  })
  test('the installer is gone by the devices’ own lists, or by somebody’s word where one was never asked', () => {
    const { scenario, units, say, item, pair } = hall()
    pair()
    const device = { channels: [], vendor: 'Maker', product: 'Switch', serial: 'x', dbm: null, network: 'hall', ms: 5 }
    const link = (unitId: string) => scenario.must(say({ type: 'linkUnit', unitId, device } as never))
    for (const { unitId } of units) link(unitId)
    expect(item('access')).toMatchObject({ auto: false })
    scenario.must(say({ type: 'unlinkUnit', unitId: units[0]!.unitId, homesLeft: 1 }))
    expect(item('access')).toMatchObject({ auto: false })
    scenario.must(say({ type: 'unlinkUnit', unitId: units[1]!.unitId, homesLeft: 2 }))
    // Whose the second one is no list says.
    expect(item('access')).toMatchObject({ auto: false, done: false })
    expect(item('access')!.why).toBe(
      'By the list of each device itself: the installer was on all 2 before and on none after; 1 to 2 homes are left. See in their app that each is the household’s, then tick.',
    )
    link(units[1]!.unitId)
    scenario.must(say({ type: 'unlinkUnit', unitId: units[1]!.unitId, homesLeft: 1 }))
    expect(item('access')).toMatchObject({ auto: true, done: true })
    expect(item('access')!.why).toMatch(/on none after; 1 home is left\.$/)
    // One that answered no more was never asked.
    link(units[0]!.unitId)
    scenario.must(say({ type: 'noteInstallerGone', unitId: units[0]!.unitId, how: 'reset as its maker says', reset: false }))
    expect(item('access')).toMatchObject({ auto: false })
  })
  test('what is shown is of these models, and of no other', () => {
    const { item } = hall({ reset: 'Hold 20 seconds; release at the fourth blink.' })
    expect(item('wall')!.why).toBe('switch: press the top: on, press the bottom: off. other: press the top: on, press the bottom: off.')
    expect(item('reset')!.why).toContain('Hold the top 15 seconds.')
    expect(item('reset')!.why).toContain('release at the fourth blink')
  })
})

describe('the card for guests', () => {
  test('one set of gestures for the home, and an own one only where a room is otherwise', () => {
    const same = hall()
    const card = guestCard(same.scenario.job, same.scenario.site, 'Net Loft')
    expect(card.hands).toEqual([{ kind: 'switch', hands: edges.gestures }])
    expect(card.rooms.map(({ name, otherwise }) => [name, otherwise])).toEqual([['Hall', []]])
    expect(card.rooms[0]!.plates.map(({ box, gangs }) => [box, gangs.map((gang) => gang?.names)])).toEqual([
      ['door', [['Door light']]],
      ['stair', [['Stair light']]],
    ])
    const other = hall(key)
    const [room] = guestCard(other.scenario.job, other.scenario.site, 'Net Loft').rooms
    expect(room!.otherwise).toEqual([{ kind: 'switch', hands: key.gestures }])
  })
  test('a dimmer that does what a switch does and more says it once', () => {
    const dims = [...edges.gestures, { gesture: 'holdTop' as const, does: 'brighter' as const }]
    const { scenario } = hall({ kind: 'dimmer', gestures: dims })
    expect(guestCard(scenario.job, scenario.site, 'x').hands).toEqual([{ kind: 'dimmer', hands: dims }])
  })
  test('of a model whose gestures are not on record nothing is said but to ask', () => {
    const { scenario } = hall({ gestures: [] })
    const card = guestCard(scenario.job, scenario.site, 'x')
    expect(card.rooms[0]!.plates.map(({ gangs }) => gangs[0]!.unknown ?? false)).toEqual([false, true])
    expect(guestCardSheets(card, 'a4', { name: 'x', telephone: '' }).join('')).toContain('Stair light (ask your host how)')
  })
  test('an old switch works as it did; a place of nothing of this job is blank; names are those that were given', () => {
    const { scenario, pair } = hall()
    pair()
    const { job, site } = scenario
    delete job.units[Object.keys(job.units)[1]!]
    site.boxes[scenario.box('door').id]!.gangs = 3
    const card = guestCard(job, site, 'x')
    expect(card.oldOnes).toBe(true)
    expect(card.rooms[0]!.plates[0]!.gangs).toEqual([{ names: ['Hall door'], kind: 'switch' }, null, null])
    expect(card.rooms[0]!.plates[1]!.gangs).toEqual([{ names: ['Stair light'], kind: null }, null])
  })
  test('is in large print (16 point and more), on the paper, and holds no code, serial or network', () => {
    const { scenario, units, pair } = hall()
    pair()
    const long = { ...guestCard(scenario.job, scenario.site, 'The Very Long House & Barn'), mayForget: true }
    const many = { ...long, rooms: Array.from({ length: 20 }, () => long.rooms[0]!) }
    for (const paper of ['a4', 'letter'] as const) {
      const sheets = guestCardSheets(many, paper, { name: 'Wick & Latch', telephone: '555 0100' })
      expect(sheets.length).toBeGreaterThan(2)
      const all = sheets.join('')
      expect(all.match(/&#38;/g)!.length).toBeGreaterThan(1)
      // Millimetres: 16 points are 5.64. Numbers on plates stand beside the same number in large print.
      const sizes = [...all.matchAll(/font-size="([\d.]+)"/g)].map(([, size]) => Number(size))
      expect(sizes.filter((size) => size < 5.64 && size !== 4.6)).toEqual([])
      for (const [, y] of all.matchAll(/translate\(16 ([\d.]+)\)/g)) expect(Number(y)).toBeLessThan(papers[paper][1] - 16)
      for (const secret of [...units.flatMap(({ setupCode }) => [setupCode, setupCode.slice(-4)]), 'SN-100', 'netloft'])
        expect(all).not.toContain(secret)
    }
  })
  test('lines are broken at spaces, and a word that is longer than a line is cut', () => {
    expect(linesIn('one two three', 7)).toEqual(['one two', 'three'])
    expect(linesIn('abcdefghij', 4)).toEqual(['abcd', 'efgh', 'ij'])
    expect(linesIn('💡💡💡', 2)).toEqual(['💡💡', '💡'])
    expect(linesIn('', 5)).toEqual([])
  })
})

describe('what a household keeps', () => {
  const kept = () => {
    const { scenario, units, say, pair } = hall()
    pair()
    scenario.must(say({ type: 'registerWarranty', unitIds: [units[0]!.unitId], number: 'W-7', until: '2031-03-02' }))
    scenario.job.note = 'NOTE: key under the pot'
    const home = automatedHome(scenario.job, scenario.site, { zone: 'Europe/London', position: [0, 51.5] })
    const sections = homeSections(scenario.job, scenario.site, {
      ...{ home, telling: tellingIn('na120', 'en-US'), locale: 'en-US' as const, telephone: '555 0100' },
    })
    return { scenario, units, sections, home }
  }
  const of = (sections: ReturnType<typeof kept>['sections'], id: string) => sections.find((one) => one.id === id)!

  test('what is where, with its warranty; how each model is started anew; how one leaves, in order', () => {
    const { sections } = kept()
    expect(of(sections, 'where').table!.rows).toEqual([
      ['Hall door', 'Hall, door', 'Door light', 'Test maker switch, SN-100', 'to Mar 2, 2031, W-7'],
      ['Hall stair', 'Hall, stair', 'Stair light', 'Test maker other, SN-101', ''],
    ])
    expect(of(sections, 'wrong').lines[0]).toMatch(/do not close the \{breaker\} again, and call a licensed electrician today/)
    expect(of(sections, 'wrong').lines).toContain('Test maker switch: Pull the air gap.')
    const leaving = of(sections, 'leaving').lines
    const at = (words: RegExp) => leaving.findIndex((line) => words.test(line))
    expect(at(/every member/)).toBeLessThan(at(/Reset each device/))
    expect(at(/Reset each device/)).toBeLessThan(at(/Hold the top 15 seconds/))
    expect(sections.some(({ id }) => id === 'itself')).toBe(false)
  })
  test('as one file it loads nothing, breaks out of nothing, and holds neither code nor note', () => {
    const { scenario, units, sections } = kept()
    scenario.job.units[units[0]!.unitId]!.name = '<img src=x onerror=alert(1)>'
    const [sheet] = guestCardSheets(guestCard(scenario.job, scenario.site, 'x'), 'a4', { name: 'x', telephone: '' })
    const head = { home: 'Net Loft "x"', company: 'W & L', telephone: '', made: 'today', handedOver: 'Handed over.', locale: 'en-US' }
    const html = homeHtml(head, [...sections, { id: 'open', title: '<b>', lines: ['</section><script>'] }], [sheet!])
    expect(html).toContain("default-src 'none'")
    expect(html.replace(/xmlns="[^"]+"/g, '')).not.toMatch(/<script|<img|https?:|src=x onerror=alert\(1\)>|url\(/)
    for (const { setupCode } of units) expect(html).not.toContain(setupCode)
    expect(html).not.toContain('under the pot')
    expect(html.length).toBeLessThan(2_000_000)
  })

  describe('with its codes, sealed', () => {
    const codes = [
      { name: 'Hall <b>light</b>', where: 'Hall', serial: 'SN-1', code: '3497-011-2332' },
      { name: '', where: '', serial: 'SN-2', code: 'MT:Y.K90-Q000KA0648G00' },
    ]
    const empty = () =>
      homeHtml({ home: 'Net Loft', company: 'W & L', telephone: '', made: 'today', handedOver: 'Handed over.', locale: 'en-US' }, [], [])
    test('a passphrase is drawn evenly, sixteen letters and digits without I, L, O, U, 0 and 1', () => {
      const counts = new Map<string, number>()
      for (let drawn = 0; drawn < 400; drawn++) {
        const passphrase = newPassphrase((bytes) => crypto.getRandomValues(bytes))
        expect(passphrase).toMatch(/^[A-HJKMNP-TV-Z2-9]{4}(-[A-HJKMNP-TV-Z2-9]{4}){3}$/)
        for (const sign of plainPassphrase(passphrase)) counts.set(sign, (counts.get(sign) ?? 0) + 1)
      }
      expect(counts.size).toBe(30)
      // 6,400 signs, 213 of each: more than seven deviations away would be no chance.
      for (const count of counts.values()) expect(Math.abs(count - 6400 / 30)).toBeLessThan(105)
      // Bytes that would favour the first letters are drawn again.
      let asked = 0
      expect(newPassphrase((bytes) => bytes.fill(asked++ === 0 ? 255 : 0))).toBe('AAAA-AAAA-AAAA-AAAA')
    })
    test('it opens with its passphrase however that is typed, and with no other; a changed one does not open', async () => {
      const sealed = await sealCodes(codes, 'K7QM-2F9T-XW4H-PB3D')
      expect(await openCodes(sealed, ' k7qm 2f9txw4hpb3d ')).toEqual(codes)
      await expect(openCodes(sealed, 'K7QM-2F9T-XW4H-PB3E')).rejects.toThrow()
      await expect(openCodes(sealed, '')).rejects.toThrow()
      const [first] = sealed.data
      await expect(
        openCodes({ ...sealed, data: (first === 'A' ? 'B' : 'A') + sealed.data.slice(1) }, 'K7QM-2F9T-XW4H-PB3D'),
      ).rejects.toThrow()
      // The same codes twice are sealed in two ways.
      expect((await sealCodes(codes, 'K7QM-2F9T-XW4H-PB3D')).data).not.toBe(sealed.data)
    })
    test('what is sealed here is opened by OpenSSL: PBKDF2 of RFC 8018, AES-GCM of NIST SP 800-38D', async () => {
      const sealed = await sealCodes(codes, 'K7QM-2F9T-XW4H-PB3D')
      const bytes = (text: string) => Buffer.from(text, 'base64')
      const key = pbkdf2Sync('K7QM2F9TXW4HPB3D', bytes(sealed.salt), sealed.rounds, 32, 'sha256')
      const opened = createDecipheriv('aes-256-gcm', key, bytes(sealed.iv))
      opened.setAuthTag(bytes(sealed.data).subarray(-16))
      const plain = Buffer.concat([opened.update(bytes(sealed.data).subarray(0, -16)), opened.final()])
      expect(JSON.parse(plain.toString())).toEqual(codes)
      expect(sealed.rounds).toBeGreaterThanOrEqual(600_000)
    })
    test('the file runs its own lines and no others, and says that it has codes', async () => {
      const html = await withSealedCodes(empty(), await sealCodes(codes, 'K7QM-2F9T-XW4H-PB3D'))
      for (const { code, serial } of codes) for (const secret of [code, serial, 'K7QM']) expect(html).not.toContain(secret)
      const scripts = [...html.matchAll(/<script>([^]*?)<\/script>/g)].map(([, script]) => script!)
      expect(scripts).toHaveLength(1)
      expect(html).toContain(`script-src 'sha256-${createHash('sha256').update(scripts[0]!).digest('base64')}'`)
      expect(html).toContain("default-src 'none'")
      // Where a viewer runs no lines, the passphrase goes nowhere.
      expect(html).toContain("form-action 'none'")
      expect(html).toContain('<noscript>')
      expect(html).not.toContain('Setup codes are not in this file')
      await expect(withSealedCodes('<html><body></body></html>', await sealCodes([], 'x'))).rejects.toThrow('not the file of a home')
      await expect(withSealedCodes(html, await sealCodes([], 'x'))).rejects.toThrow('not the file of a home')
    })
  })
})
