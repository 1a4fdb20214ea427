import { emptySite, siteStream } from '../site'
import { foldEvents, type StreamEvent } from '../stream'
import { goldenStreams, type GoldenStream } from '../testing/golden'
import { rareDay } from '../testing/rare-day'
import { Scenario } from '../testing/scenario'
import { simulatedDays } from '../testing/simulated-days'
import { historyLine } from './history'
import { emptyJob } from './state'
import { jobStream } from './stream'

/** Every kind of entry that days of the simulated crew bring, with the site it was told of. */
const simulatedEntries = () => simulatedDays().flatMap(({ log, state: site }) => log.map((event) => ({ event, site })))

const rareEntries = () => {
  const { log, site } = rareDay()
  return log.filter(({ stream }) => stream === 'site').map((event) => ({ event, site }))
}
/** Told of in the stories of core/site and core/job only. */
const elsewhere = ['alarmShown', 'tagOverridden', 'absenceWithdrawn', 'boxReopened', 'readingMoved', 'instrumentFailed', 'grantOverridden']

test('whatever is done at a site, the history tells in words', () => {
  const { job } = new Scenario()
  const told = new Map<string, string>()
  const wrong = new Set<string>()
  for (const { event, site } of [...simulatedEntries(), ...rareEntries()]) {
    // The simulated locks have ids for names.
    const what = historyLine(event, job, site, () => 'Ann Test').what.replace(/lock lock \S+/, 'lock red')
    told.set(event.type, what)
    const broken = /undefined|null|NaN|\[object|[0-9a-f]{8}-[0-9a-f]{4}|, ,|\s\s| \.|\.\./.test(what)
    // A name of the program is no word of the trade.
    if (broken || !/^[a-z“]/.test(what) || what.includes(event.type)) wrong.add(`${event.type}: ${what}`)
  }
  expect([...wrong].slice(0, 10)).toEqual([])
  expect([...siteStream.events.keys()].filter((type) => !told.has(type)).sort()).toEqual(elsewhere.sort())
})

test('entries of the first release are told as what they were, and one of a later program is not told in words of this one', () => {
  const [{ events: siteEvents }, { events: jobEvents }] = goldenStreams('0.1.0.json') as [GoldenStream, GoldenStream]
  const site = foldEvents(siteStream.reducer, emptySite('s'), siteEvents)
  const job = foldEvents(jobStream.reducer, emptyJob('j'), jobEvents)
  const tell = (event: StreamEvent) => historyLine(event, job, site, () => 'Ann Test')
  const proven = siteEvents.filter(({ type }) => type === 'proofFinished')
  expect(proven).not.toEqual([])
  for (const event of proven)
    expect(tell(event)).toMatchObject({ what: expect.stringMatching(/^proved .* dead; tester good again/), tone: 'good' })
  for (const event of [...siteEvents, ...jobEvents]) expect(tell(event).what).not.toMatch(/undefined|NaN|\[object|does not know/)
  expect(tell({ ...proven[0]!, version: 99, payload: {} }).what).toBe('recorded proofFinished, which this program does not know')
})
