import { storyOf, type StoryLine } from './story'

let made = 0
const line = (over: Partial<StoryLine> = {}): StoryLine => ({
  callbackId: `callback ${++made}`,
  unitId: `unit ${made}`,
  siteId: 'home',
  boxId: 'hall',
  gang: 1,
  model: 'Tern one',
  causeId: 'relayStuck',
  cause: 'The relay sticks.',
  status: 'closed',
  replaced: true,
  openedAt: '2026-11-01T09:00:00.000Z',
  ...over,
})
const own = line({ openedAt: '2026-11-20T09:00:00.000Z', replaced: false })
const story = (...others: StoryLine[]) => storyOf(own, [own, ...others])

test('alone there is no story', () => {
  expect(story()).toEqual({ says: [], place: [], home: [], model: [] })
})
test('a place that eats devices is looked at before the next goes in, however long ago', () => {
  const { says, place } = story(line({ openedAt: '2024-01-01T09:00:00.000Z' }), line({ replaced: false }), line({ gang: 2 }))
  expect(place).toHaveLength(1)
  expect(says).toEqual([expect.stringMatching(/^1 device has come out of this place before/)])
})
test('three devices of one home are no three broken devices; one that was called about thrice is one', () => {
  const other = line({ boxId: 'loft' })
  expect(story(other, line({ boxId: 'loft' })).says).toEqual([])
  expect(story(other, line({ boxId: 'stairs' })).says).toEqual([expect.stringMatching(/^3 devices of this home within a year/)])
  expect(story(other, line({ boxId: 'stairs', openedAt: '2025-01-01T09:00:00.000Z' })).says).toEqual([])
})
test('one way in which a model fails is told once it is most of them, and three', () => {
  const elsewhere = (causeId: string | null, home: string) => line({ siteId: home, causeId, cause: causeId ? `${causeId}.` : '' })
  const three = [elsewhere('relayStuck', 'a'), elsewhere('relayStuck', 'b'), elsewhere('relayStuck', 'c')]
  expect(story(...three.slice(1), elsewhere(null, 'd')).says).toEqual([])
  expect(story(...three, elsewhere(null, 'd'), elsewhere('surge', 'e')).says).toEqual([
    expect.stringMatching(/^3 of 4 callbacks of this model in other homes within a year had one cause: relayStuck\. Look/),
  ])
  expect(story(...three, ...['surge', 'wear', 'heat', 'water'].map((cause) => elsewhere(cause, cause))).says).toEqual([])
  expect(story(...three.map((one) => ({ ...one, model: 'Tern two' }))).model).toEqual([])
})
