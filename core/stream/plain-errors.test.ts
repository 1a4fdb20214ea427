import { z } from 'zod'
import { plainProblem } from './index'

const schema = z.strictObject({
  name: z.string().min(1).max(5),
  code: z.string().min(3),
  email: z.email(),
  at: z.iso.datetime(),
  id: z.uuid(),
  lamps: z.int().min(1).max(9),
  watts: z.number().positive().lt(500),
  kind: z.enum(['fan', 'motor']),
  places: z.array(z.string()).min(1).max(2),
  note: z.string().regex(/^x/, 'A note begins with x.'),
  either: z.union([z.literal('a'), z.object({ b: z.string() })]),
})
const right = {
  name: 'a',
  code: 'abc',
  email: 'a@b.cd',
  at: '2026-03-02T08:00:00Z',
  id: '01890000-0000-7000-8000-000000000001',
  lamps: 1,
  watts: 9,
  kind: 'fan',
  places: ['here'],
  note: 'x',
  either: 'a',
}

test('what is right has nothing said of it', () => expect(schema.safeParse(right).success).toBe(true))
test.each([
  ['name', '', 'This is empty.'],
  ['name', 'abcdef', 'At most 5 characters.'],
  ['name', undefined, 'This is missing.'],
  ['name', 4, 'Enter text here.'],
  ['code', 'a', 'At least 3 characters.'],
  ['email', 'post', 'This is no e-mail address.'],
  ['at', 'noon', 'This is no date.'],
  ['id', 'seven', 'This is no id.'],
  ['lamps', 'four', 'Enter a number here.'],
  ['lamps', 1.5, 'Enter a whole number here.'],
  ['lamps', 0, 'At least 1.'],
  ['lamps', 12, 'At most 9.'],
  ['watts', 0, 'More than 0.'],
  ['watts', 500, 'Less than 500.'],
  ['kind', 'lamp', 'One of: fan, motor.'],
  ['places', [], 'At least one is needed.'],
  ['places', ['a', 'b', 'c'], 'At most 2 entries.'],
  ['places', 'here', 'Enter a list here.'],
  // What a schema says itself stands.
  ['note', 'y', 'A note begins with x.'],
  ['either', 'c', 'This is not allowed here.'],
  ['colour', 'red', 'Unknown here: colour.'],
])('%s: %p', (key, value, said) => {
  const { error } = schema.safeParse({ ...right, [key]: value }, { error: plainProblem })
  expect(error?.issues[0]?.message).toBe(said)
})
