import { readFileSync } from 'node:fs'
import { rareDay } from '../testing/rare-day'
import { crew, Scenario } from '../testing/scenario'
import { tableIn, writeRows } from './cells'
import {
  checkJobFile,
  intakeCommands,
  jobFileOf,
  readJobFile,
  readSurveyTables,
  surveyTables,
  surveyTableNames,
  type JobFile,
} from './index'

const fileAt = (path: string) => {
  const reading = readJobFile(readFileSync(path, 'utf8'))
  if (!reading.ok) throw new Error(JSON.stringify(reading.problems))
  return reading.value
}
const sample = fileAt('samples/gate-house.json')
const headOf = ({ customer, site: { name, address, yearBuilt } }: JobFile) => ({ customer, site: { name, address, yearBuilt } })
/** A home and a job as the office takes a file in, with what a survey saw. */
function takenIn(file: JobFile): Scenario {
  const scenario = new Scenario(file)
  for (const command of intakeCommands(file, scenario.site.siteId, scenario.newId, scenario.site).survey)
    scenario.must(scenario.submitSite(command, crew.office))
  return scenario
}
const again = (file: JobFile) => {
  const { job, site } = takenIn(file)
  return jobFileOf(job, site, headOf(file))
}
const unlocked = (file: JobFile) => ({ ...file, site: { ...file.site, doorCode: '' } })

describe('the file of a survey', () => {
  test('a file of the first version reads, and is the same home', () => {
    const first = fileAt('core/format/testing/gate-house-v1.json')
    expect(first).toMatchObject({ version: 2, networks: [], boxes: [{ survey: {} }, { survey: {} }, { survey: {} }] })
    expect(again(first).points.map(({ name }) => name)).toEqual(['Hall light', 'Stair light'])
  })
  test('a file of a later version is refused with its number', () =>
    expect(checkJobFile({ ...sample, version: 9 })).toEqual({
      ok: false,
      problems: [{ where: 'version', problem: 'This file is of version 9; this program reads up to 2.' }],
    }))
  test('out and in again it says the same: rooms on the plan, cables, faults, fixture, network, reading', () => {
    expect(again(sample)).toEqual(unlocked(sample))
    expect(checkJobFile(again(sample)).ok).toBe(true)
  })
  test('a home with everything a crew can find goes out, is a good file, and comes in the same', () => {
    const { job, site } = rareDay()
    const file = jobFileOf(job, site, headOf(sample))
    const checked = checkJobFile(JSON.parse(JSON.stringify(file)))
    expect(checked).toMatchObject({ ok: true })
    expect(again(file)).toEqual(file)
    expect(file.points.find(({ name }) => name === 'Loft lamp')).toMatchObject({ fixture: expect.stringMatching(/lantern/) })
  })
  test('what a known home says already stands; what it does not is added', () => {
    const scenario = takenIn(sample)
    const door = scenario.box('hall door')
    scenario.must(scenario.submitSite({ type: 'noteBox', boxId: door.id, noted: { neutral: 'none', ground: null } }))
    const { survey } = intakeCommands(sample, scenario.site.siteId, scenario.newId, scenario.site)
    expect(survey).toEqual([{ type: 'noteBox', boxId: door.id, noted: { ground: 'conductor' } }])
  })
  test('a gang, a room, a network and a fixture that are not there are each said at their place', () => {
    const broken = structuredClone(sample)
    broken.boxes[0]!.survey.old![0]!.gang = 3
    broken.networks[0]!.room = 'attic'
    broken.signals[0]!.network = 'other'
    broken.points[1]!.fixture = 'stair-foot'
    broken.sharedNeutrals = [
      [
        { panel: 'panel', breaker: '2' },
        { panel: null, breaker: '9' },
      ],
    ]
    const reading = checkJobFile(broken)
    expect(reading.ok ? [] : reading.problems.map(({ where }) => where).sort()).toEqual([
      'boxes[0].survey.old[0].gang',
      'networks[0].room',
      'points[1].fixture',
      'sharedNeutrals[0][1]',
      'signals[0].network',
    ])
  })
})

describe('the tables of a survey', () => {
  /** As somebody types it: what kind of home it is, the tables say. */
  const head = (file: JobFile) => ({
    job: file.job,
    customer: file.customer,
    site: {
      ...file.site,
      housing: null,
      builder: '',
      neutralEarthed: null,
      sources: [{ key: 'service', kind: 'service' as const, name: 'service' }],
    },
  })
  const asFiles = (file: JobFile) => Object.entries(surveyTables(file)).map(([name, text]) => ({ name: `${name}.csv`, text }))
  test('out and in again they say the same, of the sample and of a home with everything', () => {
    const { job, site } = rareDay()
    for (const file of [sample, jobFileOf(job, site, headOf(sample))]) {
      const reading = readSurveyTables(asFiles(file), head(file))
      expect(reading).toMatchObject({ ok: true })
      // Keys are the file's own: what they stand for is the same.
      if (reading.ok) expect(again(reading.value)).toEqual(again(file))
    }
  })
  test.each(['=1+1', '＝1+1', '＠sum', '－2', '=1\nx', '\t=1'])('%p is guarded, and read as it was', (cell) => {
    const table = writeRows(['a'], [{ a: cell }])
    expect(table).toContain(`'${cell}`)
    expect(tableIn(table).rows).toEqual([{ a: cell }])
    expect(writeRows(['a'], [{ a: -5 }, { a: 'a=b' }])).toBe('a\n-5\na=b\n')
  })
  test('a cell that a spreadsheet would take for a formula is guarded, and read as it was', () => {
    const file = structuredClone(sample)
    file.boxes[0]!.name = '=1+1'
    file.panels[0]!.breakers[0]!.label = '-lts, "hall"'
    const tables = surveyTables(file)
    expect(tables.boxes).toContain("'=1+1")
    const reading = readSurveyTables(asFiles(file), head(file))
    expect(reading).toMatchObject({ ok: true, value: { boxes: [{ name: '=1+1' }, {}, {}, {}] } })
    if (reading.ok) expect(reading.value.panels[0]!.breakers[0]!.label).toBe('-lts, "hall"')
  })
  test('what is wrong is listed by table and line, all of it', () => {
    const files = asFiles(sample)
    const spoil = (name: string, from: string, to: string) => {
      const file = files.find((one) => one.name === `${name}.csv`)!
      expect(file.text).toContain(from)
      file.text = file.text.replace(from, to)
    }
    spoil('cables', 'Hall,hall door,14,,black', 'Hall,hall dor,14,,black')
    spoil('boxes', 'Stair,stair head,,1', 'Stair,stair head,,nine')
    spoil('breakers', ',6,,,1,15,sump,closed', ',6,,,1,15,sump,ajar')
    spoil('points', ',stair head,1', ',stair hed,1')
    spoil('signals', '2.4,-66', '3.5,-66')
    files.push({ name: 'lamps.csv', text: 'a,b\n' })
    const reading = readSurveyTables(files, head(sample))
    expect(reading.ok ? [] : reading.problems.map(({ where, problem }) => `${where}: ${problem}`)).toEqual([
      expect.stringMatching(/^lamps.csv: There is no such table/),
      'boxes.csv, line 4: gangs expects a whole number.',
      'breakers.csv, line 5: state expects one of closed, open, tripped, unknown.',
      expect.stringMatching(/^points.csv, line 4: There is no box “Stair stair hed”/),
      expect.stringMatching(/^signals.csv, line 2: band expects one of 2.4, 5, 6/),
      expect.stringMatching(/^cables.csv, line 2: There is no box “Hall hall dor”/),
    ])
  })
  test('what only the whole tells is said by line too', () => {
    const files = asFiles(sample)
    const devices = files.find(({ name }) => name === 'devices.csv')!
    devices.text = devices.text.replace('hall door,1', 'hall door,4')
    const reading = readSurveyTables(files, head(sample))
    expect(reading).toEqual({
      ok: false,
      problems: [{ where: 'boxes.csv, line 2', problem: 'gang: Box “hall-hall-door” has 1 gang, not 4.' }],
    })
  })
  test('missing columns, an empty file, a table twice', () => {
    const of = (name: string, text: string) => readSurveyTables([{ name, text }], head(sample))
    expect(of('rooms.csv', 'room\nHall')).toMatchObject({ ok: false, problems: [{ where: 'rooms.csv, line 1' }] })
    expect(of('rooms.csv', '')).toMatchObject({ ok: false })
    const one = asFiles(sample)[0]!
    expect(readSurveyTables([one, one], head(sample))).toMatchObject({ ok: false, problems: [{ problem: 'This table is there twice.' }] })
  })
  test('rooms that only boxes name are taken from them', () => {
    const reading = readSurveyTables(
      asFiles(sample).filter(({ name }) => name !== 'rooms.csv'),
      head(sample),
    )
    expect(reading).toMatchObject({ ok: true, value: { rooms: [{ name: 'Hall' }, { name: 'Stair' }] } })
  })
  test('there is a table for everything', () => expect(Object.keys(surveyTables(sample)).sort()).toEqual([...surveyTableNames].sort()))
})
