import { readFileSync } from 'node:fs'
import { emptySite, siteStream, type SiteState } from '../site'
import { simulate } from '../site/testing'
import { Record as SimulatedRecord } from '../site/testing/record'
import { foldEvents, type StreamEvent } from '../stream'
import { crew, Scenario } from '../testing/scenario'
import { historyLine } from './history'
import { emptyJob } from './state'
import { jobStream } from './stream'

/** Every kind of entry that days of the simulated crew bring, with the site it was told of. */
function simulatedEntries(): { event: StreamEvent; site: SiteState }[] {
  const records = new Set<SimulatedRecord>()

  const give = SimulatedRecord.prototype.give
  SimulatedRecord.prototype.give = function (...given) {
    records.add(this)
    return give.apply(this, given)
  }
  try {
    for (const plot of [null, 'alarm', 'moment', 'guard', 'halted', 'lunch', 'measure', 'child', 'trip'])
      simulate({ seed: 20, steps: 5_000, focus: plot ? { plot } : {} })
  } finally {
    SimulatedRecord.prototype.give = give
  }
  return [...records].flatMap(({ log, state: site }) => log.map((event) => ({ event, site })))
}

/** What the simulated crew never does: the hunt, the desk, working alone, what is taken back. */
function rareEntries(): { event: StreamEvent; site: SiteState }[] {
  const scenario = new Scenario()
  const give = (...given: Parameters<Scenario['giveSite']>) => scenario.must(scenario.giveSite(...given))
  const { id: breakerId } = scenario.breaker('2')
  const { id: boxId } = scenario.box('door')
  give({ type: 'markOffLimits', breakerId, reason: 'pump of the neighbour' }, crew.lead)
  give({ type: 'markOffLimits', breakerId, reason: null }, crew.lead)
  give({ type: 'scopeHunt', boxIds: [boxId] })
  give({ type: 'observeBreaker', breakerId, state: 'open' })
  give({ type: 'observeRound', seen: { [boxId]: 'on' } })
  give({ type: 'takeBackRound', round: 1 })
  give({ type: 'observeRound', seen: { [boxId]: 'off' } })
  give({ type: 'forgetRounds', reason: 'another lamp was meant' })
  const askId = scenario.newId()
  give({ type: 'askEnergise', askId, breakerId, boxId: null, purpose: 'identify', note: '' })
  give({ type: 'confirmClear', askId }, crew.ben)
  give({ type: 'takeBackClear', askId }, crew.ben)
  give({ type: 'withdrawAsk', askId })
  give({ type: 'askOpen', askId: scenario.newId(), breakerId: scenario.breaker('3').id, boxId, note: 'for the light' })
  give({ type: 'lookIn', boxId, warnedIds: [crew.ben.personId] })
  give({ type: 'startSolo', contact: 'Lena Moss, 555 0101', everyMinutes: 30 })
  give({ type: 'checkIn' })
  give({ type: 'endSolo' })
  const sourceId = scenario.newId()
  give({ type: 'recordSource', sourceId, kind: 'solar', name: 'roof' })
  give({ type: 'ruleOutSource', sourceId, reason: 'its inverter stands off, locked' })
  const stopId = scenario.newId()
  give({ type: 'stopWork', stopId })
  give({ type: 'tellStop', stopId, what: 'fire', note: '' })
  give({ type: 'endStop', stopId, note: 'a lamp had burst' })
  return scenario.log.filter(({ stream }) => stream === 'site').map((event) => ({ event, site: scenario.site }))
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
  const { events } = JSON.parse(readFileSync('core/job/golden/0.1.0.json', 'utf8')) as { events: StreamEvent[] }
  const of = (stream: string) => events.filter((event) => event.stream === stream)
  const site = foldEvents(siteStream.reducer, emptySite('s'), of('site'))
  const job = foldEvents(jobStream.reducer, emptyJob('j'), of('job'))
  const tell = (event: StreamEvent) => historyLine(event, job, site, () => 'Ann Test')
  const proven = of('site').filter(({ type }) => type === 'proofFinished')
  expect(proven.length).toBeGreaterThan(0)
  for (const event of proven)
    expect(tell(event)).toMatchObject({ what: expect.stringMatching(/^proved .* dead; tester good again/), tone: 'good' })
  for (const event of events) expect(tell(event).what).not.toMatch(/undefined|NaN|\[object|does not know/)
  expect(tell({ ...proven[0]!, version: 99, payload: {} }).what).toBe('recorded proofFinished, which this program does not know')
})
