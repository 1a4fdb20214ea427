import { DateTime } from 'luxon'
import { explainSwitchings, readSwitchings, usualBehaviour, type Routine } from '../automation'
import { goesOnUntil, nothingTaught, numbersOf, ofItsLog, triage, withItsLog, type OfItsLog, type OfThisHome, type Said } from '.'

const zone = 'America/New_York'
const start = DateTime.fromISO('2026-11-02T00:00', { zone })
const at = (day: number, clock: string, state: string, device = 'hall') => {
  const [hour, minute] = clock.split(':').map(Number)
  const when = start.plus({ days: day }).set({ hour, minute })
  return `${when.toFormat('yyyy-MM-dd HH:mm:ss')},${device},${state}`
}
const daily = (id: string, name: string, minute: number, act: 'on' | 'off'): Routine => ({
  ...{ kind: 'rule', id: `01890000-0000-7000-8000-00000000000${id}`, name, runs: 'hub', paused: false, modes: [], only: [] },
  when: [{ is: 'time', moment: { at: 'clock', minute }, days: [1, 2, 3, 4, 5, 6, 7], date: null }],
  then: [
    act === 'on'
      ? { do: 'on', deviceId: 'hall', level: null, afterSeconds: 0, forSeconds: null }
      : { do: 'off', deviceId: 'hall', afterSeconds: 0 },
  ],
})
const hall = { ...{ id: 'hall', name: 'hall', room: 'Hall', roomId: null, light: true, watts: 60 }, behaviour: usualBehaviour }
function says(lines: string[], routines: Routine[] = []): OfItsLog {
  const log = readSwitchings(['time,device,state,by', ...lines].join('\n'), zone)
  if (typeof log === 'string') throw new Error(log)
  const found = explainSwitchings({ zone, position: [-70, 43], routines, devices: [hall] }, log, 'hall', 'hall', new Map())
  if (typeof found === 'string') throw new Error(found)
  return ofItsLog(
    found,
    routines.map(({ name }) => name),
  )
}
const bare: OfThisHome = { facts: [], notHere: new Set(), atWork: null }
const weight = ({ facts }: OfItsLog, cause: string) => facts.reduce((product, { weighs }) => product * (weighs[cause] ?? 1), 1)
const days = (count: number, lines: (day: number) => string[]) => [
  at(0, '0:10', 'off'),
  ...Array.from({ length: count }, (_, day) => lines(day)).flat(),
]
const byHand = days(6, (day) => [
  at(day, `${7 + ((day * 5) % 9)}:${10 + day * 7}`, 'on'),
  at(day, `${18 + (day % 4)}:${5 + day * 8}`, 'off'),
])

test('a clock that nobody has on record speaks for a schedule, and the questions about hours are answered', () => {
  const log = says(days(6, (day) => [at(day, '22:03', 'on'), at(day, `23:${10 + day * 7}`, 'off')]))
  expect(weight(log, 'scheduleWrong')).toBeGreaterThan(5)
  expect(log.answers).toEqual(['clock', 'always'])
  const said: Said = { symptoms: ['byItself'], answers: [{ question: 'clock', answer: 1 }], tried: [] }
  expect(withItsLog(bare, log, said)).toMatchObject({ said: { answers: [] }, home: { notHere: new Set(['clock', 'always']) } })
  expect(withItsLog(bare, null, said)).toEqual({ home: bare, said })
  const numbers = numbersOf(nothingTaught())
  const share = (of: OfItsLog | null) => {
    const call = withItsLog(bare, of, { ...said, answers: [] })
    return triage(numbers, call.home.facts, call.said, call.home).suspects.find(({ cause }) => cause.id === 'scheduleWrong')!.share
  }
  expect(share(log)).toBeGreaterThan(share(null) + 0.1)
})
test('who it was, as the log says, and a device that nobody switched are no hands', () => {
  const ids = (lines: string[]) => says(lines).facts.map(({ id }) => id)
  expect(ids([...byHand.slice(0, -1), `${byHand.at(-1)!},Scene of another app`])).toEqual(['log-reached'])
  expect(ids([at(0, '8:00', 'unavailable'), at(9, '8:00', 'off')])).not.toContain('log-hands')
})
test('that only hands switched it speaks against no schedule that did nothing', () => {
  const log = says(byHand)
  const factsFor = (symptom: 'byItself' | 'missed') =>
    withItsLog(bare, log, { symptoms: [symptom], answers: [], tried: [] }).home.facts.map(({ id }) => id)
  expect(factsFor('byItself')).toEqual(['log-hands', 'log-reached'])
  expect(factsFor('missed')).toEqual(['log-reached'])
})
test('hands alone speak against schedules and rules; a day of them says nothing', () => {
  expect(weight(says(byHand), 'scheduleWrong')).toBeLessThan(0.2)
  expect(weight(says(byHand), 'weakSignal')).toBeLessThan(0.2)
  const short = says(byHand.slice(0, 3))
  expect([weight(short, 'scheduleWrong'), weight(short, 'weakSignal')]).toEqual([1, 1])
})
test('out of reach time and again speaks for a weak signal, and against what is away for good', () => {
  const log = says(
    days(5, (day) => [at(day, '9:00', 'on'), at(day, `1${day}:20`, 'unavailable'), at(day, `1${day}:41`, 'on'), at(day, '20:00', 'off')]),
  )
  expect(weight(log, 'weakSignal')).toBeGreaterThan(3)
  expect(weight(log, 'routerChanged')).toBeLessThan(0.5)
  expect(log.facts.some(({ words }) => words.includes('out of reach in 5 days'))).toBe(true)
})
test('one that comes on when it is back in reach speaks for its state after an outage', () => {
  const log = says([...byHand, at(6, '3:00', 'unavailable'), at(6, '3:20', 'on')])
  expect(weight(log, 'powerOnState')).toBeGreaterThan(5)
})
test('two routines within minutes of each other are two rules that fight; one of them is a schedule', () => {
  const [on, off] = [daily('1', 'Evening', 20 * 60, 'on'), daily('2', 'Night', 20 * 60 + 5, 'off')]
  const lines = days(4, (day) => [at(day, '20:00', 'on'), at(day, '20:05', 'off')])
  expect(weight(says(lines, [on, off]), 'rulesFight')).toBeGreaterThan(5)
  const one = says(
    days(4, (day) => [at(day, '20:00', 'on'), at(day, `22:${10 + 9 * day}`, 'off')]),
    [on],
  )
  expect([weight(one, 'scheduleWrong'), weight(one, 'rulesFight')]).toEqual([3, 1])
  expect(one.facts[0]!.words).toContain('“Evening”')
})
test('a log that ends before the trouble began says nothing of it', () => {
  const log = says(byHand)
  expect(goesOnUntil(log, '2026-11-07', zone)).toBe(true)
  expect(goesOnUntil(log, '2026-11-09', zone)).toBe(false)
})
