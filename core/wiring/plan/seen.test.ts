import { practiceBoxes } from '../practice'
import { readToTheEnd } from '../practice/read-to-the-end'
import { diagnose } from './diagnose'
import { homeOf, knownCables, proposePlan } from './plan'
import { endsOf, predictSeen, lightWords, tripWords } from './seen'

function homeNamed(id: string) {
  const box = practiceBoxes.find((one) => one.id === id)!
  const cables = knownCables(box.found, readToTheEnd(box, 3).findings)!
  return homeOf(box.found, cables, proposePlan(box.found, cables, box.devices, box), box.devices, box.loads)
}
/** Two gangs, each on a circuit of its own. */
const home = homeNamed('sail-room')
const bothOn = { gang1: 1, gang2: 1 }
const seen = (part: string) => predictSeen(home, [{ kind: 'contact', a: `${part}:load`, b: 'earth' }], [bothOn])[0]!

test('a load on ground trips its own breaker; the other circuit stays lit (each breaker guards its own line; common practice, no source)', () => {
  const [one, two] = [seen('gang1'), seen('gang2')]
  expect([...one.trips, ...two.trips].sort()).toEqual(['2', '4'])
  for (const row of [one, two]) expect(Object.values(row.lights).sort()).toEqual(['off', 'on'])
  expect(one.lights).not.toEqual(two.lights)
})
test('both at once: everything is dark, and both are named', () => {
  const faults = ['gang1', 'gang2'].map((part) => ({ kind: 'contact' as const, a: `${part}:load`, b: 'earth' }))
  const row = predictSeen(home, faults, [bothOn])[0]!
  expect(new Set(Object.values(row.lights))).toEqual(new Set(['off']))
  expect(tripWords(endsOf(row))).toBe('{breakers} 2 and 4 trip')
})
test('which breaker tripped tells two faults apart that leave the same lights unlooked at', () => {
  for (const part of ['gang1', 'gang2']) {
    const { groups } = diagnose(home, [{ ...seen(part), lights: {} }])
    expect(groups[0]!.suspects.every((suspect) => suspect.words.includes(part === 'gang1' ? 'gang 1' : 'gang 2'))).toBe(true)
  }
})
test('a lamp seen dim once is taken at its word: a bad joint, not a mistaken look', () => {
  const rows = [{ gang1: 0, gang2: 0 }, bothOn, { gang1: 1, gang2: 0 }]
  const feed = predictSeen(home, [{ kind: 'highResistance', coreId: 'D', ohms: 300 }], rows)
  expect(feed.some((row) => Object.values(row.lights).includes('dim'))).toBe(true)
  const { groups, wiringIsRight } = diagnose(home, [predictSeen(home, [], rows)[0]!, feed[1]!])
  expect(wiringIsRight).toBe(false)
  expect(groups[0]!.suspects[0]!.words).toContain('bad joint')
})

test('a borrowed neutral: both residual-current breakers see it (Kirchhoff); that of the borrower may be quicker and save the other, not the other way round', () => {
  const borrowed = homeNamed('mud-room')
  const row = predictSeen(borrowed, [], [bothOn])[0]!
  expect(tripWords(endsOf(row))).toBe('{breaker} 9 trips, or 8 and 9')
  const [boots, coats] = borrowed.outside.lights
  // With 9 open the other circuit goes on; with 8 open the current of 9 still comes home by the neutral of 8.
  expect(lightWords(endsOf(row), boots!.id)).toBe('off or on')
  expect(lightWords(endsOf(row), coats!.id)).toBe('off')
  const seen = row.orElse.find(({ trips }) => trips.join() === '9')!
  expect(diagnose(borrowed, [{ positions: bothOn, ...seen }]).wiringIsRight).toBe(true)
})
