import {
  diagnose,
  everyPosition,
  homeOf,
  knownCables,
  predictSeen,
  proposePlan,
  singleFaults,
  type Fault,
  type PlannedHome,
} from '../wiring'
import { practiceBoxes } from '../wiring/practice'
import { readToTheEnd } from '../wiring/practice/read-to-the-end'
import type { Symptom } from './causes'
import { rowsTold } from './told-wiring'

/** Every practice box that is wired as proposed, with one light of it. */
const homes = practiceBoxes.flatMap((box): { id: string; home: PlannedHome; lightId: string }[] => {
  const cables = knownCables(box.found, readToTheEnd(box, 3).findings)
  if (!cables || !box.devices.length) return []
  const home = homeOf(box.found, cables, proposePlan(box.found, cables, box.devices, box), box.devices, box.loads)
  return home.outside.lights.map(({ id: lightId }) => ({ id: box.id, home, lightId }))
})
const everywhere = (home: PlannedHome) => [...everyPosition(home)]
/** What somebody would tell of it who sees the home with this fault; null: nothing that they would telephone about, or nothing simple. */
function toldOf(home: PlannedHome, lightId: string, fault: Fault): Symptom | null {
  const healthy = predictSeen(home, [], everywhere(home))
  const truth = predictSeen(home, [fault], everywhere(home))
  const light = (index: number) => truth[index]!.lights[lightId]
  const all = (wanted: (index: number) => boolean, where: (index: number) => boolean = () => true) =>
    truth.every((_, index) => !where(index) || wanted(index))
  const on = (index: number) => healthy[index]!.lights[lightId] === 'on'
  // A light that this plan never lights is telephoned about whatever the fault.
  if (!healthy.some((_, index) => on(index))) return null
  if (home.wiring.circuits.length === 1 && all((index) => truth[index]!.trips.length > 0, on)) return 'trips'
  if (truth.some(({ trips }) => trips.length)) return null
  if (all((index) => light(index) === 'off')) return 'dead'
  if (all((index) => light(index) === 'on')) return 'staysOn'
  if (all((index) => ['glow', 'dim'].includes(light(index)!), on)) return 'flickers'
  return null
}

test('whatever single fault makes a light dark, stay on, go dim or trip: what is told fits it, and it is among what explains it', () => {
  const count: Partial<Record<Symptom, number>> = {}
  let named = 0
  let told = 0
  for (const { id, home, lightId } of homes)
    for (const fault of singleFaults(home)) {
      const symptom = toldOf(home, lightId, fault)
      if (!symptom) continue
      count[symptom] = (count[symptom] ?? 0) + 1
      const rows = rowsTold(home, lightId, [symptom])
      expect(rows.length).toBeGreaterThan(0)
      const { groups, wiringIsRight } = diagnose(home, rows)
      const explained = groups.filter(({ misfits }) => misfits === 0)
      const same = (one: Fault[]) => one.length === 1 && JSON.stringify(one[0]) === JSON.stringify(fault)
      told++
      if (explained.some(({ suspects }) => suspects.some(({ faults }) => same(faults)))) named++
      // A wiring without a fault shows none of it.
      expect([id, symptom, JSON.stringify(fault), wiringIsRight]).toEqual([id, symptom, JSON.stringify(fault), false])
    }
  expect(Object.keys(count).sort()).toEqual(['dead', 'flickers', 'staysOn', 'trips'])
  // The list is cut after six groups of eight: nearly all are in it.
  expect(named / told).toBeGreaterThan(0.9)
})

test('what contradicts itself, or says nothing of a wiring, is not held against it', () => {
  const { home, lightId } = homes[0]!
  for (const symptoms of [[], ['offline'], ['voice', 'slow'], ['dead', 'staysOn']] as Symptom[][])
    expect(rowsTold(home, lightId, symptoms)).toEqual([])
  const two = homes.find((one) => one.home.wiring.circuits.length > 1)!
  expect(rowsTold(two.home, two.lightId, ['trips'])).toEqual([])
})
