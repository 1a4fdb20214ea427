import { searchesOn } from './day-search'

test('a day is searched by as many workers as the machine has to spare, and by one where its travel is large', () => {
  expect(searchesOn(1, 5e6)).toEqual({ atOnce: 1, seeds: 1, seconds: 4 })
  expect(searchesOn(2, 5e6)).toEqual({ atOnce: 1, seeds: 1, seconds: 4 })
  expect(searchesOn(4, 5e6)).toEqual({ atOnce: 3, seeds: 1, seconds: 10 })
  expect(searchesOn(8, 5e6)).toEqual({ atOnce: 6, seeds: 2, seconds: 10 })
  expect(searchesOn(64, 5e6).atOnce).toBe(6)
  expect(searchesOn(64, 120e6)).toEqual({ atOnce: 1, seeds: 1, seconds: 4 })
})
