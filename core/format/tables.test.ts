import { z } from 'zod'
import { mostRows, readRows, text } from './cells'
import type { FileProblem } from './job-file'
import { keysFor } from './keys'
import { csvColumns, readPointsCsv, type CsvHead } from './points-csv'

const columns = { room: text(10).min(1, 'is empty'), amps: z.string().regex(/^\d+$/, 'expects a whole number') }
const read = (source: string) => {
  const problems: FileProblem[] = []
  return { rows: readRows(columns, 'rooms.csv', source, problems), problems }
}

describe('a file of faults', () => {
  test('is said in part, with the line from which on nothing was read', () => {
    const { rows, problems } = read(`room,amps\n${'hall,many\n'.repeat(3_000)}`)
    expect(rows).toEqual([])
    expect(problems).toHaveLength(201)
    expect(problems[0]).toEqual({ where: 'rooms.csv, line 2', problem: 'amps expects a whole number.' })
    expect(problems.at(-1)).toEqual({
      where: 'rooms.csv, line 202',
      problem: 'So much is wrong that it was not read from here on. Mend what is said first.',
    })
  })
  test('with too few fields in each line', () => {
    const head = { site: { scheme: 'na120' } } as CsvHead
    const reading = readPointsCsv(`${csvColumns.join(',')}\n${'a,b,c\n'.repeat(4_000)}`, head)
    if (reading.ok) throw new Error('read')
    expect(reading.problems).toHaveLength(201)
    expect(reading.problems[0]!.problem).toBe('Too few fields.')
  })
  test('of more rows than a home has is refused as a whole', () => {
    const { rows, problems } = read(`room,amps\n${'hall,15\n'.repeat(mostRows + 1)}`)
    expect([rows, problems]).toEqual([
      [],
      [{ where: 'rooms.csv', problem: `This table has more than ${mostRows} rows. Give it in parts.` }],
    ])
    expect(read(`room,amps\n${'hall,15\n'.repeat(mostRows)}`).rows).toHaveLength(mostRows)
    // A first line that is no list of columns.
    expect(read('a,'.repeat(700_000))).toEqual({
      rows: [],
      problems: [{ where: 'rooms.csv, line 1', problem: 'Missing columns: room, amps.' }],
    })
  })
})
test('forty thousand things of one name get keys of their own, in the time that forty thousand take', () => {
  const keys = [...keysFor(Array.from({ length: 40_000 }, (_, index) => ({ id: String(index), name: 'hall' }))).values()]
  expect([keys[0], keys[1], keys.at(-1)]).toEqual(['hall', 'hall-2', 'hall-40000'])
  expect(new Set(keys).size).toBe(40_000)
  // What is called like a twin already is none of them.
  const named = ['hall', 'hall 2', 'hall', 'hall'].map((name, index) => ({ id: String(index), name }))
  expect([...keysFor(named).values()]).toEqual(['hall', 'hall-2', 'hall-3', 'hall-4'])
})
