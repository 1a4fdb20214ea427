import type { StreamEvent } from '../stream'
import { namesPattern, peopleNamed, withoutNames } from './erase-names'

const entry = (type: string, payload: unknown): StreamEvent => ({
  ...{ id: 'e1', stream: 'site', streamId: 's1', seq: 1, commandId: 'c1', version: 1, type, payload },
  ...{ at: '2026-01-02T10:00:00Z', receivedAt: '2026-01-02T10:00:00Z' },
  actor: { personId: 'p1', name: 'Wren Reed', initials: 'WR', role: 'lead', licensed: true },
})
const left = (text: string, names: string[], others: string[] = []) =>
  (withoutNames(entry('roomRecorded', { name: text }), namesPattern(names, others)).payload as { name: string }).name

test.each([
  ['Wren’s room', '(erased)’s room'],
  ['WREN ALDER switched it on', '(erased) switched it on'],
  ['Mrs Alder said so', 'Mrs (erased) said so'],
  ['the alder by the door', 'the alder by the door'],
  ['Wrenfield', 'Wrenfield'],
  ['call 555 010 4477', 'call (erased)'],
  ['call 555-010-4477 or (555) 010 44 77', 'call (erased) or ((erased)'],
  ['wren@example.org', '(erased)'],
  ['key at 4 Alder Lane', 'key at (erased)'],
])('%s → %s', (text, stays) => {
  expect(left(text, ['Wren Alder'], ['555 010 4477', 'wren@example.org', '4 Alder Lane'])).toBe(stays)
})
test('who is called as things are called leaves things their names', () => {
  expect(left('hall door', ['Ivo Hall'])).toBe('hall door')
  expect(left('Hall asked for it', ['Ivo Hall'])).toBe('(erased) asked for it')
  // Short words and titles say nothing of anybody.
  expect(left('The van is late, Jo', ['The van Jo'])).toBe('The van is late, Jo')
  expect(left('a+b (c)', ['a+b (c)'])).toBe('a+b (c)'.length > 2 ? '(erased)' : '')
})
test('a name that is a word of the program spoils no entry', () => {
  const open = entry('breakerObserved', { breakerId: 'b', state: 'open', how: 'found', note: 'Open said so' })
  const named = namesPattern(['open', 'Open', 'found'], ['closed', 'did'])
  expect(withoutNames(open, named)).toMatchObject({ payload: { state: 'open', how: 'found', note: '(erased) said so' } })
  // Even where it would be found: an entry that says nothing any more is left as it was.
  const lost = entry('breakerObserved', { state: 'Open' })
  expect(withoutNames(lost, named, ({ payload }) => (payload as { state: string }).state !== '(erased)')).toBe(lost)
})
test('what names nobody stays the same entry; who worked there keeps their name', () => {
  const plain = entry('roomRecorded', { name: 'hall', boxes: [{ cable: 'A' }] })
  expect(withoutNames(plain, namesPattern(['Wren Alder'], []))).toBe(plain)
  expect(withoutNames(plain, namesPattern([], ['']))).toBe(plain)
  const told = withoutNames(entry('stopTold', { note: 'Wren fell', voids: ['x'] }), namesPattern(['Wren Alder'], []))
  expect(told).toMatchObject({ payload: { note: '(erased) fell', voids: ['x'] }, actor: { name: 'Wren Reed' } })
})
test('everybody of the household is found where entries name them', () => {
  expect(
    peopleNamed([
      entry('memberNoted', { name: 'Tam Alder', is: 'invited' }),
      entry('habitsSet', { habits: { people: [{ name: 'Wren' }, { name: 'Tam Alder' }] } }),
      entry('handoverSigned', { signer: 'W. Alder' }),
      entry('absentEnded', { household: null }),
      entry('absentEnded', { household: { name: 'Grandmother Fenn' } }),
      entry('roomRecorded', { name: 'hall' }),
      entry('memberNoted', { name: '(erased)' }),
    ]),
  ).toEqual(['Tam Alder', 'Wren', 'W. Alder', 'Grandmother Fenn'])
})
