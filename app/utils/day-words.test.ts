import type { Proposal } from '../../core/dispatch'
import { leftOutWords, minutesWords, wayWords } from './day-words'

// The app imports these by itself; here they have to be put where it finds them.
Object.assign(globalThis, { counted: (count: number, one: string) => `${count} ${one}${count === 1 ? '' : 's'}` })

const change = (id: string, given: object = {}) => ({ id, was: null, quiet: false, breaksPromise: false, ...given })
const proposal = (given: object): Proposal =>
  ({
    changes: [],
    leftOut: [],
    before: 0,
    after: 0,
    travel: { before: 0, after: 0 },
    late: { before: 0, after: 0 },
    promisesBroken: 0,
    ...given,
  }) as unknown as Proposal

test('a way in a sentence: what it places and moves, what that saves, whom it asks to be telephoned', () => {
  expect(wayWords(proposal({}))).toBe('Changes nothing.')
  expect(wayWords(proposal({ changes: [change('a', { quiet: true, was: {} })] }))).toBe('Changes nothing.')
  expect(wayWords(proposal({ changes: [change('a'), change('b')], leftOut: [{}], travel: { before: 60, after: 100 } }))).toBe(
    'Places 2 of 3: 40 min more on the road. Every promise that held before holds.',
  )
  expect(
    wayWords(
      proposal({
        changes: [change('a', { was: {} })],
        promisesBroken: 1,
        travel: { before: 200, after: 80 },
        late: { before: 30, after: 0 },
      }),
    ),
  ).toBe('Moves 1 visit: 2 h less on the road, 30 min less late. One promise would have to be made anew by telephone.')
})

test('why nobody goes names who comes nearest', () => {
  const name = (crew: number) => `crew ${crew}`
  expect(leftOutWords({ why: 'late', crew: 2, seconds: 1500 }, name)).toBe('The first who could come is crew 2, 25 min after the window.')
  expect(leftOutWords({ why: 'dear', crew: 1, points: 400 }, name)).toContain('crew 1 could go')
  for (const why of ['licence', 'skills', 'people', 'pinned', 'full'] as const) expect(leftOutWords({ why }, name)).toMatch(/^[A-Z].*\.$/)
  expect([0.2, 45, 89, 90, 200].map(minutesWords)).toEqual(['1 min', '45 min', '89 min', '1.5 h', '3.3 h'])
})
