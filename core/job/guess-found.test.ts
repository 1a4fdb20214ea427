import { Chance } from '../chance'
import { identify, nextTest, type AsFoundBox, type WireReading } from '../wiring'
import { SimulatedMeter } from '../wiring/simulated-meter'
import { makeTrialBox } from '../wiring/testing/strange-homes'
import { makeWiderBox } from '../wiring/testing/wider-homes'
import { guessFound } from './index'

const sorted = (groups: string[][]) =>
  groups
    .map((letters) => [...letters].sort().join(' '))
    .sort()
    .join()
const onSwitches = ({ oldSwitches }: Pick<AsFoundBox, 'oldSwitches'>) =>
  oldSwitches.map(({ contacts, terminals }) => `${contacts} ${sorted(Object.values(terminals))}`).join()

/**
 * Somebody taps “This is how it was” without looking, in homes that are wired otherwise: the readings, which are true, have to
 * stop them. The homes know nothing of what is guessed.
 */
test.each([
  ['the usual homes', makeTrialBox, 1500],
  ['the wider ones', makeWiderBox, 1500],
])('what is usual and not so stops the box before anything is called by its name: %s', (_, make, count) => {
  let right = 0
  let otherwise = 0
  for (let index = 0; index < count; index++) {
    const chance = new Chance(1_200_036 + index)
    const { found, wiring } = make(chance, chance.is(0.2))
    const gangs = found.oldSwitches.length
    if (gangs !== 1 && (gangs !== 2 || found.circuits.length !== 2)) continue
    const conductors = found.cables.flatMap(({ id, cores }) =>
      cores.map(({ letter, colour }) => ({
        letter,
        colour: colour as 'black',
        cable: id,
        gaugeAwg: 14 as const,
        areaMm2: null,
        course: 'ends' as const,
      })),
    )
    const guess = guessFound({ conductors, gangs, breakerIds: found.circuits }, found.farSwitches)
    if (!guess.whole) continue
    if (sorted(guess.splices) === sorted(found.splices) && onSwitches(guess) === onSwitches(found)) {
      right++
      continue
    }
    otherwise++
    const noted: AsFoundBox = { ...found, splices: guess.splices, oldSwitches: guess.oldSwitches }
    // The meter is in the true home, with its true old switches.
    const meter = new SimulatedMeter(wiring, chance, 0, found)
    const readings: WireReading[] = []
    let energised = false
    for (;;) {
      const advice = nextTest(noted, readings, energised)
      if (advice.done) {
        expect({ index, finished: advice.found, wires: advice.found ? identify(noted, readings).wires : [] }).toMatchObject({
          finished: false,
        })
        break
      }
      energised = advice.next.energised
      for (const one of advice.next.tests) readings.push(meter.read(one))
      expect(readings.length).toBeLessThan(120)
    }
  }
  // Both happen, else this says nothing.
  expect(right).toBeGreaterThan(20)
  expect(otherwise).toBeGreaterThan(4)
})
