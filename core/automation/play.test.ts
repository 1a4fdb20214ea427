import { byHand, byItself, bySupply, playDays, type Played } from './play'
import { stepThrough } from './testing/minutes'
import { strangeHome } from './testing/strange-homes'
import { homeDays } from './year'
import type { AutomatedHome } from './home'

const linesOf = ({ changes, from }: Played, { devices, routines }: AutomatedHome) =>
  changes.map(({ at, device, on, level, by }) => {
    const who = by === byHand ? 'hand' : by === bySupply ? 'supply' : by === byItself ? 'itself' : routines[by]!.id
    return `${(at - from) / 60} ${devices[device]!.id} ${on ? level : 'off'} ${who}`
  })

describe('against the same home played minute by minute', () => {
  test('a hundred strange homes do the same', () => {
    let [same, events] = [0, 0]
    for (let seed = 1; same < 100; seed++) {
      const { home, from, days, world } = strangeHome(seed)
      const played = playDays(home, homeDays(from, days, home.zone, home.position), world)
      // What never rests is left out by the engine, and goes round for ever minute by minute.
      if (played.loops.length) continue
      same++
      events += played.changes.length
      expect({ seed, lines: linesOf(played, home) }).toEqual({ seed, lines: stepThrough(home, from, days, world) })
    }
    expect(events).toBeGreaterThan(2000)
  }, 120_000)
})
