import { DateTime } from 'luxon'
import { Chance } from '../../chance'
import { usualBehaviour, type AutomatedHome, type HomeDevice } from '../home'
import type { Routine } from '../model.schema'
import { byHand, byItself, playDays } from '../play'
import { strangeHome } from '../testing/strange-homes'
import { homeDays } from '../year'
import { explainSwitchings, readSwitchings, switchGroups, switchSentence, type Explained, type SwitchingLog } from '.'

const zone = 'America/New_York'
const log = (text: string, at = zone): SwitchingLog => {
  const read = readSwitchings(text, at)
  if (typeof read === 'string') throw new Error(read)
  return read
}
const explained = (...of: Parameters<typeof explainSwitchings>): Explained => {
  const found = explainSwitchings(...of)
  if (typeof found === 'string') throw new Error(found)
  return found
}
const device = (id: string, behaviour = {}): HomeDevice => ({
  ...{ id, name: id, room: 'Hall', roomId: null, light: true, watts: 60 },
  behaviour: { ...usualBehaviour, ...behaviour },
})
const home = (routines: Routine[] = [], devices = [device('hall')]) => ({ zone, position: [-70, 43] as const, devices, routines })
const local = (text: string) => DateTime.fromISO(text, { zone })
const line = (at: DateTime, name: string, state: string, by = '') => `${at.toFormat('yyyy-MM-dd HH:mm:ss')},${name},${state},${by}`
const table = (lines: string[]) => ['time,device,state,by', ...lines].join('\n')
const nights = (count: number, at: string, second: (day: number) => number = () => 0) =>
  Array.from({ length: count }, (_, day) => local(`2026-11-02T${at}`).plus({ days: day, seconds: second(day) }))

describe('a log as it comes', () => {
  test('columns by their heads, states in several words, levels, times with and without a zone; what repeats is no switching', () => {
    const { rows, devices, left } = log(
      'Last changed;Entity;Value\n2026-11-28 18:00:00;hall;on\n2026-11-28T18:05:00Z;hall;0 %\n1764356400;hall;40\n1764356401000;hall;60\n2026-11-28 20:00;hall;unavailable\nyesterday;hall;on\n2026-11-28 20:01;hall;melted\n',
    )
    expect(devices).toEqual(['hall'])
    expect(left).toBe(2)
    expect(rows.map(({ at, on }) => [at, on])).toEqual([
      [1764356400, true],
      [Date.parse('2026-11-28T18:05:00Z') / 1000, false],
      [local('2026-11-28T18:00').toSeconds(), true],
      [local('2026-11-28T20:00').toSeconds(), null],
    ])
  })
  test('what cannot be read is said, and nothing hangs', () => {
    for (const [text, words] of [
      ['', 'needs the columns'],
      ['time,device,state\nnever,hall,on\n', 'No switching could be read'],
      [table(Array.from({ length: 50_002 }, () => '1764356400,hall,on,')), 'more than 50000 lines'],
      ['<html><body>log in</body></html>', 'needs the columns'],
    ] as const)
      expect(readSwitchings(text, zone)).toContain(words)
    const long = log(table([line(local('2020-01-01'), 'hall', 'on'), line(local('2026-01-01'), 'hall', 'off')]))
    expect(explainSwitchings(home(), long, 'hall', 'hall', new Map())).toContain('more than a year')
    expect(explainSwitchings(home(), long, 'attic', null, new Map())).toContain('says nothing')
  })
  test('a device that has a name every object has is a device', () => {
    const { devices } = log(
      table([line(local('2026-11-28'), 'constructor', 'on'), line(local('2026-11-29'), '__proto__', 'toString')]) +
        '\n1764356400,__proto__,off,',
    )
    expect([...devices].sort()).toEqual(['__proto__', 'constructor'])
  })
})

describe('what switched it', () => {
  const by = (found: Explained) => found.switchings.map((one) => one.by)
  test('a clock that nobody told us of is found, also around midnight, and not in three days of eight', () => {
    const found = explained(
      home(),
      log(
        table([
          line(local('2026-11-01T12:00'), 'hall', 'off'),
          ...nights(8, '22:03:00', (day) => day * 9).map((at) => line(at, 'hall', 'on')),
          ...nights(8, '23:59:00', (day) => (day % 2) * 90).map((at) => line(at, 'hall', 'off')),
        ]),
      ),
      'hall',
      'hall',
      new Map(),
    )
    expect(new Set(by(found).map(({ is }) => is))).toEqual(new Set(['clock']))
    const groups = switchGroups(found, home(), 'en-GB')
    expect(groups.map(({ words, count }) => [words, count])).toEqual([
      ['on at about 22:03, day after day, by nothing on record', 8],
      [expect.stringMatching(/^off at about (23:59|00:00), day after day, by nothing on record$/), 8],
    ])
    expect(switchGroups(found, home(), 'en-US')[0]!.words).toBe('on at about 10:03\u00a0PM, day after day, by nothing on record')
    expect(switchSentence(found, groups, 'hall')).toMatch(/^hall: 16 switchings in 9 days\. 8 times .*Look for another app/)
    const rare = explained(
      home(),
      log(
        table([
          line(local('2026-11-01T12:00'), 'hall', 'off'),
          ...[0, 4, 7].flatMap((day) => [
            line(local('2026-11-02T22:03').plus({ days: day }), 'hall', 'on'),
            line(local('2026-11-02T10:00').plus({ days: day, hours: 13 + day / 2, minutes: 7 * day }), 'hall', 'off'),
          ]),
        ]),
      ),
      'hall',
      'hall',
      new Map(),
    )
    expect(by(rare).every(({ is }) => is === 'alone')).toBe(true)
  })
  test('the sun is told from a clock once the days are many', () => {
    const days = homeDays('2026-10-05', 26, zone, [-70, 43])
    const lines = days.flatMap(({ sunset, midnight }) => [
      line(DateTime.fromSeconds(sunset! + 600, { zone }), 'hall', 'on'),
      line(DateTime.fromSeconds(midnight + 86_400 - 4000 + (midnight % 7919), { zone }), 'hall', 'off'),
    ])
    const found = explained(home(), log(table([line(local('2026-10-04T12:00'), 'hall', 'off'), ...lines])), 'hall', 'hall', new Map())
    const ons = found.switchings.filter(({ on }) => on)
    expect(ons.filter(({ by: of }) => of.is === 'sun' && of.event === 'sunset' && Math.abs(of.offset - 10) <= 1)).toHaveLength(26)
  })
  test('what another device does at the same moment, time and again, is one doing; what its rule does is the rule’s', () => {
    const together = nights(4, '19:00:00', (day) => day * 2711).flatMap((at) => [
      line(at, 'landing', 'on'),
      line(at.plus({ seconds: 1 }), 'hall', 'on'),
      line(at.plus({ minutes: 30 + (at.second % 7) }), 'hall', 'off'),
      line(at.plus({ minutes: 50 }), 'landing', 'off'),
    ])
    const text = table([line(local('2026-11-01T12:00'), 'hall', 'off'), line(local('2026-11-01T12:00'), 'landing', 'off'), ...together])
    const strange = explained(home(), log(text), 'hall', 'hall', new Map())
    expect(strange.switchings.filter(({ on }) => on).map(({ by: of }) => of)).toEqual(
      Array.from({ length: 4 }, () => ({ is: 'with', device: 'landing' })),
    )
    const rule: Routine = {
      ...{ kind: 'rule', id: '01890000-0000-7000-8000-000000000001', name: 'both', runs: 'hub', paused: false, modes: [], only: [] },
      when: [{ is: 'device', deviceId: 'landing', on: true, forMinutes: 0 }],
      then: [{ do: 'on', deviceId: 'hall', level: null, afterSeconds: 0, forSeconds: null }],
    }
    const known = explained(home([rule], [device('hall'), device('landing')]), log(text), 'hall', 'hall', new Map([['landing', 'landing']]))
    expect(known.switchings.filter(({ on }) => on).every(({ by: of }) => of.is === 'routine')).toBe(true)
  })
  test('its own timer, the supply, what the log says, and how long it was on with what that takes', () => {
    const day = local('2026-11-05T10:00')
    const text = table([
      line(day, 'hall', 'off'),
      line(day.plus({ minutes: 10 }), 'hall', 'on', 'Uma'),
      line(day.plus({ minutes: 40, seconds: 4 }), 'hall', 'off'),
      line(day.plus({ minutes: 60 }), 'hall', 'unavailable'),
      line(day.plus({ minutes: 70 }), 'hall', 'on'),
      line(day.plus({ minutes: 130 }), 'hall', 'unavailable'),
      line(day.plus({ minutes: 140 }), 'hall', 'on'),
      line(day.plus({ minutes: 150 }), 'hall', 'off'),
    ])
    const found = explained(home([], [device('hall', { autoOffMinutes: 30 })]), log(text), 'hall', 'hall', new Map())
    expect(by(found)).toEqual([{ is: 'said', by: 'Uma' }, { is: 'itself', minutes: 30 }, { is: 'supply' }, { is: 'alone' }])
    expect(found.unreachable).toEqual({ times: 2, seconds: 20 * 60 })
    // Half an hour, an hour, ten minutes; 60 W.
    expect(found.onSeconds).toBe(30 * 60 + 4 + 60 * 60 + 10 * 60)
    expect(found.energy).toBeCloseTo((60 * found.onSeconds) / 3_600_000, 10)
  })
})

test('logs of strange homes that the engine played: what the clock did is told as its doing, and hands seldom', () => {
  const chance = new Chance(71)
  const tally = { clock: 0, right: 0, hands: 0, blamed: 0 }
  for (let seed = 1; seed <= 150; seed++) {
    const { home: strange, from, days, world } = strangeHome(seed)
    const played = playDays(strange, homeDays(from, days, strange.zone, strange.position), world)
    if (played.loops.length) continue
    const rows = [...played.changes].sort((a, b) => a.at - b.at)
    const said = rows.map(
      ({ at, device: index, on }) => `${Math.round(at + chance.next() * 4)},${strange.devices[index]!.id},${on ? 'on' : 'off'}`,
    )
    const read = readSwitchings(
      ['time,device,state', ...strange.devices.map(({ id }) => `${played.from - 1},${id},off`), ...said].join('\n'),
      strange.zone,
    )
    if (typeof read === 'string') continue
    const names = new Map(strange.devices.map(({ id }) => [id, id]))
    for (const { id } of strange.devices) {
      const found = explainSwitchings(strange as AutomatedHome, read, id, id, names)
      if (typeof found === 'string') continue
      for (const { at, on, by } of found.switchings) {
        const truth = rows.find((row) => strange.devices[row.device]!.id === id && row.on === on && at - row.at >= -1 && at - row.at <= 5)
        if (!truth || truth.by === byItself) continue
        const routine = truth.by >= 0 ? strange.routines[truth.by]! : null
        const timed = routine && (routine.kind !== 'rule' || routine.when.every(({ is }) => is === 'time'))
        if (timed) {
          tally.clock++
          // Two that do the same at the same moment are each other’s equal.
          if (by.is === 'routine') tally.right++
        } else if (truth.by === byHand) {
          tally.hands++
          if (by.is === 'routine' || by.is === 'clock' || by.is === 'sun') tally.blamed++
        }
      }
    }
  }
  expect(tally.clock).toBeGreaterThan(300)
  expect(tally.right / tally.clock).toBeGreaterThan(0.97)
  expect(tally.hands).toBeGreaterThan(300)
  expect(tally.blamed / tally.hands).toBeLessThan(0.05)
})
