import fc from 'fast-check'
import { placeConductor } from '../wiring'
import { asFoundPlan, notesOfPlan, oldTerminalsOf, unsaidIn, type OldContacts } from './as-found'

const letters = ['A', 'B', 'C', 'D', 'E', 'F', 'G']
const kinds: OldContacts[] = ['single', 'threeWay', 'fourWay', 'other']
/** Taps on a drawing: which conductor, and on what. */
const taps = fc.array(
  fc.record({
    letter: fc.constantFrom(...letters),
    target: fc.oneof(
      fc.record({ kind: fc.constant('letter' as const), letter: fc.constantFrom(...letters) }),
      fc.record({ kind: fc.constant('cap' as const) }),
      fc.record({ kind: fc.constant('splice' as const), index: fc.nat(2) }),
      fc.record({ kind: fc.constant('terminal' as const), gang: fc.nat(1), at: fc.nat(3) }),
    ),
  }),
  { maxLength: 30 },
)
type Tap = typeof taps extends fc.Arbitrary<(infer T)[]> ? T : never
const drawn = (contacts: OldContacts[], said: Tap[]) =>
  said.reduce(
    (plan, { letter, target }) => {
      if (target.kind !== 'terminal') return placeConductor(plan, letter, target)
      const names = oldTerminalsOf(contacts[target.gang]!)
      return placeConductor(plan, letter, { kind: 'terminal', part: `old${target.gang + 1}`, key: names[target.at % names.length]! })
    },
    asFoundPlan({ splices: [], oldSwitches: [] }, contacts.length, []),
  )

test('whatever is tapped, the notes say what the drawing shows, and the drawing of the notes shows what they say', () => {
  fc.assert(
    fc.property(fc.tuple(fc.constantFrom(...kinds), fc.constantFrom(...kinds)), taps, (contacts, said) => {
      const plan = drawn(contacts, said)
      const notes = notesOfPlan(plan, contacts)
      for (const splice of notes.splices) expect(splice.length).toBeGreaterThan(1)
      // Nobody is in two places, but for a pigtail from a splice.
      const spliced = notes.splices.flat()
      expect(new Set(spliced).size).toBe(spliced.length)
      const whole = contacts.every((kind) => kind !== 'other')
      if (!whole) return
      const onScrews = notes.oldSwitches.flatMap(({ terminals }) => Object.values(terminals).flat())
      const alone = onScrews.filter((letter) => !spliced.includes(letter))
      expect(new Set(alone).size).toBe(alone.length)
      const again = asFoundPlan(notes, contacts.length, plan.capped)
      expect(notesOfPlan(again, contacts)).toEqual(notes)
      expect(unsaidIn(again, letters)).toEqual(unsaidIn(plan, letters))
    }),
  )
})

test('two gangs fed by pigtails from one splice', () => {
  const contacts: OldContacts[] = ['single', 'single']
  let plan = asFoundPlan({ splices: [], oldSwitches: [] }, 2, [])
  plan = placeConductor(plan, 'D', { kind: 'letter', letter: 'A' })
  plan = placeConductor(plan, 'A', { kind: 'terminal', part: 'old1', key: 'a' })
  plan = placeConductor(plan, 'A', { kind: 'terminal', part: 'old2', key: 'a' })
  plan = placeConductor(plan, 'B', { kind: 'terminal', part: 'old1', key: 'b' })
  plan = placeConductor(plan, 'C', { kind: 'terminal', part: 'old2', key: 'b' })
  plan = placeConductor(plan, 'E', { kind: 'cap' })
  expect(notesOfPlan(plan, contacts)).toEqual({
    splices: [['A', 'D']],
    oldSwitches: [
      { contacts: 'single', terminals: { a: ['A'], b: ['B'] } },
      { contacts: 'single', terminals: { a: ['A'], b: ['C'] } },
    ],
  })
  expect(unsaidIn(plan, ['A', 'B', 'C', 'D', 'E', 'F'])).toEqual(['F'])
})
