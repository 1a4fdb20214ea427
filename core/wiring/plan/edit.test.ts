import { placeConductor, takeOff } from './edit'
import { emptyPlan } from './plan'
import type { WiringPlan } from './plan-schema'

const plan: WiringPlan = {
  ...emptyPlan,
  devices: [{ gang: 1, terminals: { line: ['A'], load: ['D'], neutral: ['B'] } }],
  splices: [{ letters: ['B', 'E'], holds: 4 }],
  capped: ['F'],
}
const onTerminal = (key: string) => ({ kind: 'terminal' as const, part: 'gang1', key })

test('a conductor is in one place: laid elsewhere, it leaves where it was', () => {
  const moved = placeConductor(plan, 'A', onTerminal('load'))
  expect(moved.devices[0]!.terminals).toEqual({ line: [], load: ['D', 'A'], neutral: ['B'] })
  expect(plan.devices[0]!.terminals.line).toEqual(['A'])
})
test('one that is spliced feeds a terminal by a pigtail and stays in its splice', () => {
  const fed = placeConductor(plan, 'E', onTerminal('line'))
  expect(fed.splices[0]!.letters).toEqual(['B', 'E'])
  expect(fed.devices[0]!.terminals.line).toEqual(['A', 'E'])
})
test('laid on the same terminal again it comes off; a cap takes it everywhere else off', () => {
  expect(placeConductor(plan, 'A', onTerminal('line')).devices[0]!.terminals.line).toEqual([])
  const capped = placeConductor(plan, 'A', { kind: 'cap' })
  expect(capped.capped).toEqual(['F', 'A'])
  expect(capped.devices[0]!.terminals.line).toEqual([])
})
test('two conductors make a splice; a splice of one is none', () => {
  const made = placeConductor(plan, 'D', { kind: 'letter', letter: 'F' })
  expect(made.splices).toContainEqual({ letters: ['F', 'D'], holds: null })
  expect(made.capped).toEqual([])
  expect(placeConductor(plan, 'A', { kind: 'splice', index: 0 }).splices[0]!.letters).toEqual(['B', 'E', 'A'])
  expect(takeOff(plan, 'E').splices).toEqual([])
})
test('a target that is not there changes nothing', () => {
  expect(placeConductor(plan, 'A', { kind: 'splice', index: 7 })).toBe(plan)
  expect(placeConductor(plan, 'A', { kind: 'terminal', part: 'gang5', key: 'line' })).toBe(plan)
  expect(placeConductor(plan, 'A', { kind: 'letter', letter: 'A' })).toBe(plan)
})
test('what had pigtails to two terminals is on one once its splice is gone', () => {
  const twice = placeConductor(placeConductor(plan, 'B', onTerminal('load')), 'E', { kind: 'letter', letter: 'F' })
  expect(twice.splices.map(({ letters }) => letters)).toEqual([['F', 'E']])
  expect(Object.values(twice.devices[0]!.terminals).filter((letters) => letters?.includes('B'))).toHaveLength(1)
})
