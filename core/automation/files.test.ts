import Ajv from 'ajv/dist/2020'
import { automationFile, automationJsonSchema, readAutomation, readMoment, schedulesCsv } from './files'
import { routineSaid, plainTelling, tellingIn, daysSaid } from './describe'
import type { AutomatedHome } from './home'
import { Chance } from '../chance'
import { at, clock, goodHome, HomeMaker, off, on, sun } from './testing/seeded-faults'
import { strangeHome } from './testing/strange-homes'

let count = 0
const freshId = () => `01890000-0000-7000-8c00-${String(++count).padStart(12, '0')}`
const small = () => {
  const made = new HomeMaker('Europe/London', [0, 51.5])
  const [porch, hall] = [made.device('Porch', null), made.device('Hall, "big"', made.room('hall'))]
  const eye = made.sensor('Eye', 'motion', made.rooms[0]!.id)
  made.pair('Evening', [porch, hall], sun('sunset', -20), clock(23, 30))
  made.rule(
    'Passage',
    [{ is: 'motion', sensorId: eye, seen: true, forMinutes: 0 }],
    [on(hall, { level: 30, forSeconds: 120 })],
    [{ is: 'dark', dark: true }],
  )
  return made.home
}

describe('files', () => {
  test('what goes out comes in again as it was', () => {
    for (const home of [small(), ...[1, 2, 3, 4].map((seed) => goodHome(new Chance(seed)).home)]) {
      const { routines, sensors, behaviours, problems } = readAutomation(JSON.stringify(automationFile(home)), home, freshId)
      expect(problems).toEqual([])
      expect(routines).toEqual(home.routines)
      expect(sensors).toEqual(home.sensors)
      expect(behaviours).toEqual(home.devices.map(({ id, behaviour }) => ({ deviceId: id, behaviour })))
    }
  })
  test('every routine there can be fits the JSON Schema that is published for it', () => {
    const validate = new Ajv({ strict: false, validateFormats: false }).compile(automationJsonSchema())
    for (let seed = 1; seed <= 40; seed++) {
      const file = JSON.parse(JSON.stringify(automationFile(strangeHome(seed).home))) as { devices: { room: string }[] }
      expect([seed, validate(file), validate.errors]).toEqual([seed, true, null])
    }
    expect(validate({ format: 'circuitry.automation', version: 2 })).toBe(false)
  })
  test('in another home devices and sensors are known by their names, and what is not there is said', () => {
    const home = small()
    const other: AutomatedHome = {
      ...small(),
      routines: [],
      sensors: [],
      devices: small().devices.map((one, index) => ({ ...one, id: `own-${index}` })),
    }
    const taken = readAutomation(JSON.stringify(automationFile(home)), other, freshId)
    expect(taken.problems).toEqual([])
    expect(taken.routines[0]).toMatchObject({ name: 'Evening', deviceIds: ['own-0', 'own-1'] })
    expect(taken.routines[0]!.id).not.toBe(home.routines[0]!.id)
    expect(taken.routines[1]).toMatchObject({ when: [{ sensorId: taken.sensors[0]!.id }] })
    const poor = readAutomation(JSON.stringify(automationFile(home)), { ...other, devices: other.devices.slice(0, 1) }, freshId)
    expect(poor.routines).toEqual([])
    expect(poor.problems).toEqual([
      '“Evening” is left out: this home has no “Hall, "big"”.',
      '“Passage” is left out: this home has no “Hall, "big"”.',
    ])
  })
  test('nonsense has a sentence', () => {
    const problem = (text: string) => readAutomation(text, small(), freshId).problems
    expect(problem('')).toEqual(['The file is empty.'])
    expect(problem('{"format": ')).toEqual(['This is no JSON that can be read.'])
    expect(problem('{"format":"other"}')[0]).toContain('This is no file of schedules and rules: format')
    expect(problem('a,b,c\n1,2,3')).toEqual(['This is no table of schedules: it has no column “name”, “devices”, “on”, “off”.'])
    expect(problem(`name,devices,on,off\n${'x,y,06:00,07:00\n'.repeat(501)}`)[0]).toContain('501 lines')
  })
  test('schedules as a table, out and in', () => {
    const home = small()
    const csv = schedulesCsv(home)
    expect(csv.split('\r\n')).toEqual([
      'name,devices,on,off,days,level,runs',
      'Evening,"Porch; Hall, ""big""",20 min before sunset,23:30,1 2 3 4 5 6 7,,hub',
    ])
    expect(readAutomation(csv, home, freshId)).toMatchObject({ problems: [], routines: [home.routines[0]] })
  })
  test('a name that a spreadsheet would take for a formula comes back as it was', () => {
    const made = new HomeMaker('Europe/London', [0, 51.5])
    made.pair('=Evening', [made.device('-Porch', null)], clock(18), clock(22))
    expect(schedulesCsv(made.home)).toContain(`"'=Evening","'-Porch"`)
    expect(readAutomation(schedulesCsv(made.home), made.home, freshId)).toMatchObject({ problems: [], routines: [made.home.routines[0]] })
  })
  test('lines that cannot be are left out, each with its reason', () => {
    const rows = [
      'Name,Devices,On,Off,Days,Level,Runs',
      ',Porch,06:00,07:00,,,',
      'a,Barn,06:00,07:00,,,',
      'b,,06:00,07:00,,,',
      'c,Porch,6 o’clock,07:00,,,',
      'd,Porch,06:00,07:00,someday,,',
      'e,Porch,06:00,07:00,,140,',
      'f,porch,6:00,sunrise,"Mon, Wed",50,cloud',
      'g,Porch,06:00,07:00,2026-12-24,,',
    ]
    const { routines, problems } = readAutomation(rows.join('\n'), small(), freshId)
    expect(problems.map((line) => line.slice(0, 6))).toEqual(['Line 2', 'Line 3', 'Line 4', 'Line 5', 'Line 6', 'Line 7'])
    expect(routines).toMatchObject([
      { name: 'f', days: [1, 3], level: 50, runs: 'cloud', off: { at: 'sunrise', offset: 0 } },
      { name: 'g', days: [], date: '2026-12-24', runs: 'hub' },
    ])
  })
  test('moments', () => {
    expect(readMoment('24:00')).toBeNull()
    expect(readMoment('5 min after Sunset')).toEqual({ at: 'sunset', offset: 5 })
    expect(readMoment('999 min after sunset')).toBeNull()
  })
})

describe('in a sentence', () => {
  const home = small()
  const said = (index: number) => routineSaid(home.routines[index]!, home, plainTelling)
  test('schedules and rules', () => {
    expect(said(0)).toBe('Porch and Hall, "big" on at 20 min before sunset, off at 23:30, every day.')
    expect(said(1)).toBe('When Eye sees somebody, if it is dark: Hall, "big" at 30 % for 2 min.')
  })
  test('as the branch writes it', () => {
    const made = new HomeMaker('America/New_York', [-74, 40.7])
    const warmth = made.sensor('Warmth', 'temperature', null)
    made.rule('Fan', [{ is: 'temperature', sensorId: warmth, over: true, degrees: 25 }, at(clock(18))], [off(made.device('Fan', null), 90)])
    const telling = tellingIn('na120', 'en-US')
    expect(routineSaid(made.home.routines[0]!, made.home, telling).replace(/\s/g, ' ')).toBe(
      'When Warmth goes over 77 °F or it is 6:00 PM, every day: Fan off 90 s later.',
    )
  })
  test('what is gone is said to be; days in a row are a span', () => {
    expect(routineSaid(home.routines[0]!, { ...home, devices: [] }, plainTelling)).toContain('something that is gone')
    expect(daysSaid([5, 1, 2, 3, 4], null, plainTelling)).toBe('Mon to Fri')
    expect(daysSaid([6, 7], null, plainTelling)).toBe('Sat, Sun')
    expect(daysSaid([], '2026-12-24', plainTelling)).toBe('once, on 2026-12-24')
  })
})
