import { readFileSync } from 'node:fs'
import { Ajv2020 } from 'ajv/dist/2020.js'
import fc from 'fast-check'
import { emptySite, siteStream } from '../site'
import { fedByItself } from '../site/circle'
import { applyEvent, type StreamEvent } from '../stream'
import { crew, idCounter, Scenario, testFile } from '../testing/scenario'
import { checkJobFile, intakeCommands, jobFileJsonSchema, jobFileSchema, readJobFile, readPointsCsv } from './index'

const head = {
  job: { title: 'Reed barn', note: '' },
  customer: { name: 'A. Test', phone: '', email: '' },
  site: {
    name: 'Reed barn',
    address: '1 Reed',
    scheme: 'na120' as const,
    yearBuilt: null,
    doorCode: '',
    sources: [{ key: 'service', kind: 'service' as const, name: 'service' }],
  },
}
const csv = readFileSync('samples/reed-barn-points.csv', 'utf8')
const problemsOf = (reading: ReturnType<typeof readJobFile>) => (reading.ok ? [] : reading.problems)

describe('job file', () => {
  test('the shipped sample reads', () =>
    expect(readJobFile(readFileSync('samples/gate-house.json', 'utf8'))).toMatchObject({
      ok: true,
      value: { job: { title: 'Gate house, hall and stair' } },
    }))
  test('what is broken is listed with its path, all of it', () => {
    const broken = structuredClone(testFile) as never as Record<string, never> & {
      boxes: { gangs: number; room: string }[]
      points: { controls: { box: string }[] }[]
    }
    broken.boxes[0]!.gangs = 0
    expect(problemsOf(checkJobFile(broken)).map((problem) => problem.where)).toEqual(['boxes[0].gangs'])
    broken.boxes[0]!.gangs = 1
    broken.boxes[0]!.room = 'nowhere'
    broken.points[1]!.controls[0]!.box = 'ghost'
    expect(problemsOf(checkJobFile(broken))).toEqual([
      { where: 'boxes[0].room', problem: 'There is no room “nowhere”.' },
      { where: 'points[1].controls[0]', problem: 'There is no box “ghost”.' },
    ])
  })
  test('no JSON, the wrong file, unknown fields', () => {
    expect(problemsOf(readJobFile('{'))[0]!.problem).toMatch(/not JSON/)
    expect(problemsOf(readJobFile('{"format":"other"}')).map((problem) => problem.where)).toContain('format')
    expect(problemsOf(checkJobFile({ ...testFile, extra: 1 })).length).toBe(1)
  })
  test('a doubled breaker, a panel that feeds itself, a gang too many', () => {
    const file = structuredClone(testFile)
    file.panels[0]!.breakers.push({ ...file.panels[0]!.breakers[0]! })
    file.panels[0]!.fedFrom = { panel: 'panel', breaker: '1' }
    file.points[0]!.controls[0]!.gang = 2
    expect(problemsOf(checkJobFile(file)).map((problem) => problem.problem)).toEqual([
      '{Breaker} 1 is there twice.',
      '{A panel} does not feed itself.',
      'Box “door” has 1 gang, not 2.',
    ])
  })
  test('a panel that feeds itself over others, as a file and as the command that lays a home out', () => {
    const file = structuredClone(testFile)
    const panel = file.panels[0]!
    const under = (key: string, from: string) => ({
      ...structuredClone(panel),
      ...{ key, name: key, main: null, otherMains: [], alsoFedFrom: [], fedFrom: { panel: from, breaker: '1' } },
    })
    file.panels.push(under('annexe', panel.key), under('shed', 'annexe'))
    const [annexe, shed] = [file.panels.length - 2, file.panels.length - 1]
    expect(checkJobFile(file).ok).toBe(true)
    file.panels[annexe]!.fedFrom = { panel: 'shed', breaker: '1' }
    expect(problemsOf(checkJobFile(file)).map(({ problem }) => problem)).toEqual(['{A panel} feeds itself, over others.'])
    // The same, given as a command by a program that reads no files.
    file.panels[annexe]!.fedFrom = { panel: panel.key, breaker: '1' }
    const scenario = new Scenario()
    let count = 0
    const { layOut } = intakeCommands(file, scenario.site.siteId, () => `00000000-0000-4000-9000-${String(++count).padStart(12, '0')}`)
    const idOf = (name: string) => layOut.panels.find((one) => one.name === name)!.id
    const above = layOut.breakers.find(({ suppliesPanelId, role }) => suppliesPanelId === idOf('annexe') && role !== 'main')!
    const turned = { ...layOut, breakers: layOut.breakers.map((one) => (one === above ? { ...one, panelId: idOf('shed') } : one)) }
    expect(scenario.submitSite(turned, crew.office)).toMatchObject({ ok: false, refusal: { code: 'feedsItself' } })
    scenario.must(scenario.submitSite(layOut, crew.office))
    expect(shed).toBeGreaterThan(annexe)
  })
  test('whatever feeds whatever: a circle is found where one comes back by following what is fed, and only there', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 })), { maxLength: 12 }), (pairs) => {
        const edges = pairs.map(([from, to]) => [String(from), String(to)] as const)
        // Everything that is reached from one, by going on until nothing is new.
        const reached = (start: string) => {
          const seen = new Set<string>()
          for (let grown = -1; grown < seen.size;) {
            grown = seen.size
            for (const [from, to] of edges) if (from === start || seen.has(from)) seen.add(to)
          }
          return seen
        }
        const circular = edges.map(([from]) => from).filter((from) => reached(from).has(from))
        const found = fedByItself(edges)
        return found === null ? circular.length === 0 : circular.includes(found)
      }),
    )
  })
  test('a validator that knows nothing of this program says the same of the JSON Schema (JSON Schema 2020-12, by Ajv)', () => {
    const valid = new Ajv2020({ strict: false, validateFormats: false }).compile(jobFileJsonSchema())
    const whole = JSON.parse(readFileSync('samples/gate-house.json', 'utf8')) as object
    expect([valid(whole), valid.errors]).toEqual([true, null])
    /** Every place in a document, as the keys that lead there. */
    const places = (value: unknown, path: (string | number)[] = []): (string | number)[][] =>
      value && typeof value === 'object'
        ? Object.entries(value).flatMap(([key, inner]) => [[...path, key], ...places(inner, [...path, key])])
        : []
    const spoil = (path: (string | number)[], how: (holder: Record<string, unknown>, key: string) => void) => {
      const file = structuredClone(whole)
      how(
        path.slice(0, -1).reduce<unknown>((at, key) => (at as Record<string, unknown>)[key], file) as Record<string, unknown>,
        String(path.at(-1)),
      )
      return file
    }
    let broken = 0
    for (const path of places(whole))
      for (const how of [
        (holder: Record<string, unknown>, key: string) => (Array.isArray(holder) ? holder.splice(Number(key), 1) : delete holder[key]),
        (holder: Record<string, unknown>, key: string) => (holder[key] = { odd: true }),
        (holder: Record<string, unknown>, key: string) => (holder[key] = -7.5),
        (holder: Record<string, unknown>, key: string) => (holder[key] = 'x'.repeat(3000)),
      ]) {
        const file = spoil(path, (holder, key) => void how(holder, key))
        const here = jobFileSchema.safeParse(file).success
        if (!here) broken++
        expect([path.join('.'), valid(file)]).toEqual([path.join('.'), here])
      }
    expect(broken).toBeGreaterThan(200)
  })
})

describe('CSV of points', () => {
  test('the shipped sample reads: 4 points, the loft switched from two places, its feed unknown', () => {
    const reading = readPointsCsv(csv, head)
    if (!reading.ok) throw new Error(JSON.stringify(reading.problems))
    expect(reading.value.points.map((point) => [point.name, point.controls.length])).toEqual([
      ['Tide room ceiling', 1],
      ['Window seat', 1],
      ['Yard light', 1],
      ['Loft light', 2],
    ])
    expect(reading.value.boxes.filter((box) => box.unknownFeed).map((box) => box.name)).toEqual(['loft ladder', 'loft end'])
  })
  test('spreadsheet habits: a byte-order mark, CRLF, blank lines, decimal commas', () => {
    const reading = readPointsCsv(`\uFEFF${csv.replaceAll('\n', '\r\n').replaceAll(',34,', ',"34,5",')}\r\n\r\n`, head)
    expect(reading).toMatchObject({ ok: true })
    if (reading.ok) expect(reading.value.boxes[0]!.volumeIn3).toBe(34.5)
  })
  test('what is wrong is listed by line', () => {
    const lines = csv.split('\n')
    lines[1] = lines[1]!.replace('led', 'laser')
    lines[3] = lines[3]!.replace(',1,12,no', ',one,12,no')
    lines[5] = lines[5]!.replace(',4,8,', ',9,8,')
    const reading = readPointsCsv(lines.join('\n'), head)
    expect(reading.ok ? [] : reading.problems.map((problem) => `${problem.where}: ${problem.problem}`)).toEqual([
      'line 2: load expects one of led, filament, fan, motor, socket.',
      'line 4: lamps expects a whole number.',
      'line 6: Loft light had another load on an earlier line.',
    ])
  })
  test('missing columns and empty files', () => {
    expect(readPointsCsv('room,box\nA,b', head)).toMatchObject({ ok: false, problems: [{ where: 'line 1' }] })
    expect(readPointsCsv(csv.split('\n')[0]!, head)).toMatchObject({ ok: false })
  })
})

describe('intake', () => {
  test('a second job at a known home uses its panel, rooms and boxes again', () => {
    const scenario = new Scenario()
    const second = {
      ...testFile,
      boxes: [testFile.boxes[0]!, { ...testFile.boxes[0]!, key: 'new', name: 'new box', feeds: [{ panel: 'panel', breaker: '3' }] }],
      points: [{ ...testFile.points[0]!, name: 'New light', controls: [{ box: 'new', gang: 1 }] }],
    }
    const before = Object.keys(scenario.site.breakers).length
    const commands = intakeCommands(second, scenario.site.siteId, scenario.newId, scenario.site)
    expect(commands.layOut.breakers).toEqual([])
    expect(commands.openJob.boxIds[0]).toBe(scenario.box('door').id)
    scenario.must(scenario.submitSite(commands.layOut, crew.office))
    expect(Object.keys(scenario.site.breakers)).toHaveLength(before)
    expect(scenario.box('new box').breakerIds).toEqual([scenario.breaker('3').id])
  })
  test('the same file gives the same layout, whoever folds it', () => {
    const [one, two] = [0, 1].map(() => {
      const site = emptySite('s')
      applyEvent(siteStream.reducer, site, {
        seq: 1,
        version: 1,
        type: 'siteLaidOut',
        actor: crew.office,
        payload: intakeCommands(testFile, 's', idCounter()).layOut,
      } as unknown as StreamEvent)
      return site
    })
    expect(one).toEqual(two)
  })
})
