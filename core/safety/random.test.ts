import fc from 'fast-check'
import { crew, Scenario } from '../testing/scenario'
import { canTouch } from './permissions'
import type { Actor } from '../stream'

/**
 * A small world that knows nothing of the record: levers that people really move, and hands that go into a box only
 * when the app says so. It checks one thing: no hand is ever on a conductor that the levers energise.
 */
class World {
  private readonly closed = new Map([
    ['main', true],
    ['1', true],
    ['2', true],
    ['3', true],
  ])
  private readonly feeds: Record<string, string[]> = { door: ['1'], stair: ['1', '2'], attic: ['3'] }
  set(number: string, closed: boolean) {
    this.closed.set(number, closed)
  }
  isClosed(number: string) {
    return this.closed.get(number)!
  }
  energised(box: string) {
    return this.closed.get('main')! && this.feeds[box]!.some((number) => this.closed.get(number)!)
  }
}

const people = [crew.ann, crew.ben, crew.ida]
const boxes = ['door', 'stair', 'attic']
const levers = ['main', '1', '2', '3']
const step = fc.record({
  kind: fc.constantFrom(
    'prepare',
    'prepare',
    'open',
    'tag',
    'prove',
    'witness',
    'hands',
    'hands',
    'away',
    'close',
    'untag',
    'shut',
    'found',
    'answer',
  ),
  who: fc.constantFrom(...people),
  box: fc.constantFrom(...boxes),
  lever: fc.constantFrom(...levers),
})

test('everyone obeys the app: no hand on an energised conductor (fixed seed)', () => {
  let touched = 0
  fc.assert(
    fc.property(fc.array(step, { minLength: 30, maxLength: 90 }), (steps) => {
      const scenario = new Scenario()
      const world = new World()
      const hands = new Map<string, Set<Actor>>(boxes.map((box) => [box, new Set()]))
      const grants = new Map<string, { id: string; lever: string }>()
      const may = (box: string, who: Actor) =>
        canTouch(scenario.site, scenario.box(box).id, who, { now: new Date(scenario.now).toISOString(), proofLimitMinutes: 120 }).yes
      for (const box of boxes) scenario.conductors(box, 'AB')
      const openLever = (number: string, who: Actor) => {
        world.set(number, false)
        scenario.giveSite({ type: 'observeBreaker', breakerId: scenario.breaker(number).id, state: 'open', note: '' }, who)
      }
      const prove = (box: string, who: Actor) => {
        const proofId = scenario.newId()
        if (
          !scenario.giveSite(
            {
              type: 'startProof',
              proofId,
              boxId: scenario.box(box).id,
              instrumentId: 'good',
              source: { kind: 'provingUnit', name: 'u' },
              volts: 240,
            },
            who,
          ).ok
        )
          return
        scenario.giveSite({ type: 'seeReference', proofId, reference: 'wanderLead', against: 's', volts: 120, letter: null }, who)
        // The meter shows what the levers make of it.
        for (const [a, b] of [
          ['A', 'REF'],
          ['B', 'REF'],
          ['A', 'B'],
        ] as const)
          scenario.giveSite(
            { type: 'takeReading', proofId, a, b, position: '', impedance: 'low', volts: world.energised(box) ? 120 : 0 },
            who,
          )
        scenario.giveSite({ type: 'finishProof', proofId, volts: 240 }, who)
      }
      for (const { kind, who, box, lever } of steps) {
        const breakerId = scenario.breaker(lever).id
        if (kind === 'prepare') {
          for (const number of box === 'attic' ? ['main'] : box === 'stair' ? ['1', '2'] : ['1']) {
            openLever(number, who)
            scenario.giveSite(
              { type: 'hangTag', tagId: scenario.newId(), breakerId: scenario.breaker(number).id, lock: 'x', measure: '' },
              who,
            )
          }
          prove(box, who)
          if (may(box, who)) {
            hands.get(box)!.add(who)
            touched++
          }
        } else if (kind === 'open') openLever(lever, who)
        else if (kind === 'found' && world.isClosed(lever))
          scenario.giveSite({ type: 'observeBreaker', breakerId, state: 'closed', note: '' }, who)
        else if (kind === 'tag') scenario.giveSite({ type: 'hangTag', tagId: scenario.newId(), breakerId, lock: 'x', measure: '' }, who)
        else if (kind === 'prove') prove(box, who)
        else if (kind === 'witness') {
          const proofId = scenario.box(box).proofId
          if (proofId) scenario.giveSite({ type: 'witnessProof', proofId }, who)
        } else if (kind === 'hands' && may(box, who)) {
          hands.get(box)!.add(who)
          touched++
        } else if (kind === 'away') hands.get(box)!.delete(who)
        else if (kind === 'shut' && hands.get(box)!.has(who) && hands.get(box)!.size === 1) {
          if (scenario.giveSite({ type: 'closeBox', boxId: scenario.box(box).id }, who).ok) hands.get(box)!.delete(who)
        } else if (kind === 'untag') {
          // One takes one's tag off with one's hands out of everything.
          for (const set of hands.values()) set.delete(who)
          scenario.takeTagsOff(who)
        } else if (kind === 'close') {
          const id = scenario.newId()
          if (scenario.giveSite({ type: 'requestClose', grantId: id, breakerId }, who).ok) grants.set(who.personId, { id, lever })
        } else if (kind === 'answer') {
          const grant = grants.get(who.personId)
          if (!grant) continue
          world.set(grant.lever, true)
          scenario.giveSite({ type: 'answerGrant', grantId: grant.id, answer: 'closed' }, who)
          grants.delete(who.personId)
        }
        for (const name of boxes) {
          // A person whose app takes the yes back steps away: that is what the alarm is for.
          for (const person of [...hands.get(name)!]) {
            if (world.energised(name)) expect(`${person.initials} in ${name}`).toBe('nobody')
            if (!may(name, person)) hands.get(name)!.delete(person)
          }
        }
      }
    }),
    { seed: 70_000, numRuns: 400 },
  )
  expect(touched).toBeGreaterThan(1000)
})
