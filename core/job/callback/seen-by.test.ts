import { seenBy, seenInTime } from './seen-by'

const usual = { callbackDays: 3, workdays: [1, 2, 3, 4, 5] }
const zone = 'America/New_York'
const by = (openedAt: string, { danger = false, ...rest }: Partial<typeof usual> & { danger?: boolean } = {}, at = zone) =>
  seenBy({ openedAt, danger }, { ...usual, ...rest }, at)

// A calendar of November and December 2026: the 30th of November is a Monday.
test('so many working days after the day of the call, by the branch’s clock', () => {
  expect(by('2026-11-30T15:00:00Z')).toBe('2026-12-03')
  expect(by('2026-11-27T15:00:00Z')).toBe('2026-12-02')
  // Saturday evening there, Sunday by Greenwich.
  expect(by('2026-11-29T01:00:00Z')).toBe('2026-12-02')
  expect(by('2026-11-29T01:00:00Z', {}, 'UTC')).toBe('2026-12-02')
  expect(by('2026-12-01T03:00:00Z')).toBe('2026-12-03')
  expect(by('2026-12-01T03:00:00Z', {}, 'UTC')).toBe('2026-12-04')
})
test('over the change of clocks a day is a day', () => {
  expect(by('2026-10-30T18:00:00Z', { callbackDays: 1 })).toBe('2026-11-02')
  expect(by('2027-03-12T18:00:00Z', { callbackDays: 1 })).toBe('2027-03-15')
})
test('danger is promised for the day of the call, also where nobody works', () => {
  expect(by('2026-11-28T18:00:00Z', { danger: true })).toBe('2026-11-28')
  expect(by('2026-11-30T18:00:00Z', { callbackDays: 0 })).toBe('2026-11-30')
})
test('a branch that works on no day of the week works on every one', () => {
  expect(by('2026-11-27T15:00:00Z', { workdays: [] })).toBe('2026-11-30')
})
test('how a promise stands', () => {
  expect(seenInTime('2026-12-02', null, '2026-12-01')).toBe('kept')
  expect(seenInTime('2026-12-02', null, '2026-12-02')).toBe('today')
  expect(seenInTime('2026-12-02', null, '2026-12-03')).toBe('passed')
  expect(seenInTime('2026-12-02', '2026-12-02', '2026-12-03')).toBe('kept')
  expect(seenInTime('2026-12-02', '2026-12-03', '2026-12-01')).toBe('bookedLater')
})
