import { readFileSync } from 'node:fs'
import {
  anybody,
  asBooked,
  bookedTwice,
  crewsOf,
  lackingOf,
  outlookOf,
  proposalOf,
  questionOf,
  standing,
  travelOf,
  vansTwice,
  weekOf,
  type DayFile,
  type DayFileVisit,
} from '.'
import { Chance } from '../../chance'
import { isAway, workedParts } from '../away'
import { breachesOf, searchPlan } from '../plan'
import { findAddress, roadMapSchema, roadsFrom, timetableOf } from '../travel'

const roads = roadsFrom(roadMapSchema.parse(JSON.parse(readFileSync('server/stand-ins/routing/coast.geo.json', 'utf8'))))
const zone = 'America/New_York'
const on = (clock: string, date = '2026-11-27') => `${date}T${clock}:00-05:00`
const homes = ['3 Ferry Stairs', '12 Schoolhouse Lane', '5 Withy Bank', '7 Upper Lock', '3 Landing', '2 Strand'].map((address, index) => ({
  siteId: `home ${index}`,
  position: findAddress(roads.map, address),
}))
const without = { vanId: null, skills: [] }
const people: DayFile['people'] = [
  { id: 'odo', licensed: true, role: 'lead', ...without },
  { id: 'bram', licensed: true, role: 'technician', ...without },
  { id: 'pip', licensed: false, role: 'apprentice', ...without },
  { id: 'lena', licensed: false, role: 'dispatcher', ...without },
]
const visit = (index: number, personIds: string[], from: string, change: Partial<DayFileVisit> = {}): DayFileVisit => ({
  id: `visit ${index}`,
  jobId: `job ${index}`,
  siteId: `home ${index}`,
  kind: 'install',
  callbackId: null,
  status: 'planned',
  personIds,
  startsAt: on(from),
  endsAt: new Date(Date.parse(on(from)) + 5_400_000).toISOString(),
  windowFrom: new Date(Date.parse(on(from)) - 1_800_000).toISOString(),
  windowTo: new Date(Date.parse(on(from)) + 5_400_000).toISOString(),
  setOffAt: null,
  arrivedAt: null,
  finishedAt: null,
  minutes: 90,
  spread: 0.3,
  tied: null,
  needs: anybody,
  partsIn: null,
  ...change,
})
const file = (visits: DayFileVisit[], open: DayFile['open'] = []): DayFile => ({
  zone,
  date: '2026-11-27',
  shift: { from: on('07:00'), to: on('16:00'), latest: on('18:00') },
  rest: { minutes: 30, from: on('11:00'), to: on('13:30') },
  store: findAddress(roads.map, '20 Ropewalk, Port Sallow'),
  people,
  away: [],
  homes,
  visits,
  open,
})
const table = timetableOf(roads, '2026-11-27', zone)
const clock = (iso: string) => new Date(Date.parse(iso) - 5 * 3_600_000).toISOString().slice(11, 16)

describe('crews of a day', () => {
  it('whoever is named first leads; who comes along is with whom they are most; the office and idle apprentices are none', () => {
    expect(
      crewsOf(file([visit(0, ['odo', 'pip'], '08:00'), visit(1, ['bram'], '08:00')])).map(({ personIds }) => personIds.join()),
    ).toEqual(['odo,pip', 'bram'])
    const both = file([visit(0, ['odo', 'pip'], '08:00'), visit(1, ['bram', 'pip'], '11:00'), visit(2, ['bram', 'pip'], '14:00')])
    expect(crewsOf(both).map(({ personIds }) => personIds.join())).toEqual(['odo', 'bram,pip'])
    expect(crewsOf(file([])).map(({ id, people: count }) => [id, count])).toEqual([
      ['odo', 1],
      ['bram', 1],
    ])
    expect(crewsOf(file([visit(0, ['pip'], '08:00')])).find(({ id }) => id === 'pip')).toMatchObject({ people: 0, licensed: false })
  })
})

describe('the day as it is booked', () => {
  it('shows the way before each visit, and who will be late because of the visit before', () => {
    const day = file([visit(0, ['odo', 'pip'], '08:00', { minutes: 200 }), visit(5, ['odo', 'pip'], '10:00'), visit(2, ['bram'], '08:00')])
    const question = questionOf(day, travelOf(day, roads, table), { asBooked: true, placing: false })
    const { visits, crews } = outlookOf(question, asBooked(question), 200)
    const of = (id: string) => visits.find((one) => one.id === id)!
    expect(clock(of('visit 0').startAt)).toBe('08:00')
    // 200 minutes of work from eight, half an hour’s rest in them, then some thirty kilometres of road.
    expect(clock(of('visit 5').leaveAt)).toBe('11:20')
    expect(Date.parse(of('visit 5').arriveAt) - Date.parse(of('visit 5').leaveAt)).toBeGreaterThan(20 * 60_000)
    expect(of('visit 5').late).toBeGreaterThan(0.5)
    expect(of('visit 5').shortMinutes).toBeGreaterThan(0)
    expect(of('visit 2').late).toBeLessThan(0.2)
    expect(crews.find(({ id }) => id === 'bram')!.travelMinutes).toBeGreaterThan(1)
  })
  it('the islet is reached by the ferry alone: who comes too late for it waits', () => {
    const day = file([visit(4, ['bram'], '07:05', { windowFrom: on('07:00'), windowTo: on('07:30') })])
    const question = questionOf(day, travelOf(day, roads, table), { asBooked: true, placing: false })
    const [there] = outlookOf(question, asBooked(question), 50).visits
    // Away at 07:10, nine minutes over, a little on the islet.
    expect(clock(there!.arriveAt) >= '07:19' && clock(there!.arriveAt) < '07:30').toBe(true)
  })
  it('goes on from where a crew is, when its visit is expected to end', () => {
    const day = file([
      visit(0, ['odo', 'pip'], '08:00', { status: 'onSite', arrivedAt: on('08:10') }),
      visit(1, ['odo', 'pip'], '10:00'),
      visit(2, ['bram'], '08:00', { status: 'done', arrivedAt: on('08:00'), finishedAt: on('09:30') }),
      visit(3, ['bram'], '10:00'),
    ])
    const later = (now: string) => {
      const question = questionOf(day, travelOf(day, roads, table), { asBooked: true, placing: false, now: Date.parse(on(now)) / 1000 })
      return outlookOf(question, asBooked(question), 50).visits
    }
    expect(
      later('09:00')
        .map(({ id }) => id)
        .sort(),
    ).toEqual(['visit 1', 'visit 3'])
    expect(clock(later('09:00').find(({ id }) => id === 'visit 1')!.leaveAt)).toBe('09:40')
    // It runs over: a tenth of it is still to come, at least.
    expect(clock(later('11:00').find(({ id }) => id === 'visit 1')!.leaveAt)).toBe('11:09')
  })
  it('who is booked before the shift leaves in time for it', () => {
    const day = file([visit(0, ['bram'], '05:30'), visit(5, ['odo'], '21:00')])
    const question = questionOf(day, travelOf(day, roads, table), { asBooked: true, placing: false })
    const { visits } = outlookOf(question, asBooked(question), 100)
    expect(visits.map(({ startAt }) => clock(startAt))).toEqual(expect.arrayContaining(['05:30', '21:00']))
    for (const { late } of visits) expect(late).toBe(0)
  })
  it('without a store the way to the first home counts for nothing', () => {
    const day = { ...file([visit(5, ['bram'], '08:00'), visit(0, ['bram'], '11:00')]), store: null }
    const question = questionOf(day, travelOf(day, roads, table), { asBooked: true, placing: false })
    const { visits, crews } = outlookOf(question, asBooked(question), 20)
    const [first, second] = visits
    expect(Date.parse(first!.arriveAt)).toBe(Date.parse(first!.leaveAt))
    expect(Date.parse(second!.arriveAt) - Date.parse(second!.leaveAt)).toBeGreaterThan(20 * 60_000)
    expect(crews.find(({ id }) => id === 'bram')!.homeAt).toBe(second!.endAt)
  })
  it('people of two crews who come together begin together; a home that is on no road is said', () => {
    const day = file([visit(0, ['odo'], '08:00'), visit(1, ['bram'], '07:30', { minutes: 200 }), visit(2, ['odo', 'bram'], '10:00')])
    const lost = { ...day, homes: day.homes.map((home) => (home.siteId === 'home 2' ? { ...home, position: null } : home)) }
    const question = questionOf(lost, travelOf(lost, roads, table), { asBooked: true, placing: false })
    const { visits } = outlookOf(question, asBooked(question), 20)
    const together = visits.filter(({ id }) => id === 'visit 2')
    expect(together).toHaveLength(2)
    expect(new Set(together.map(({ startAt }) => startAt)).size).toBe(1)
    expect(together.every(({ way }) => !way)).toBe(true)
    expect(question.lost).toEqual(['home 2'])
  })
})

describe('whom a visit takes, and in which van they go', () => {
  const some = (changes: Record<string, Partial<DayFile['people'][number]>>): DayFile['people'] =>
    people.map((person) => ({ ...person, ...changes[person.id] }))
  const open = (needs: DayFile['open'][number]['needs'], partsIn: string[] | null = null, home = 4): DayFile['open'] => [
    {
      ...{
        id: `job ${home}`,
        jobId: `job ${home}`,
        siteId: `home ${home}`,
        kind: 'install',
        callbackId: null,
        since: on('08:00', '2026-11-20'),
        by: null,
      },
      ...{ minutes: 60, spread: 0.3, lacks: null, needs, partsIn },
    },
  ]
  const plannedFor = (day: DayFile) => {
    const question = questionOf(day, travelOf(day, roads, table))
    return {
      question,
      ...proposalOf(question, asBooked(question), searchPlan(question.problem, { seed: 1, rounds: 200, warm: question.booked })),
    }
  }
  it('what they lack is told by head and by skill; an apprentice counts beside a licence only', () => {
    const [odo, , pip] = some({ odo: { skills: ['networks'] } })
    const two = { people: 2, skills: ['networks'] }
    expect(lackingOf(two, [odo!, pip!])).toBeNull()
    expect(lackingOf(two, [pip!, { ...pip!, id: 'another' }])).toEqual({ people: 2, skills: ['networks'] })
    expect(lackingOf({ people: 1, skills: ['motors'] }, [odo!])).toEqual({ people: 0, skills: ['motors'] })
    expect(lackingOf(anybody, [odo!])).toBeNull()
  })
  it('who has learnt it goes, two crews come together where one is too few, and where nobody can it is told', () => {
    const able = { ...file([], open({ people: 1, skills: ['networks'] })), people: some({ bram: { skills: ['networks'] } }) }
    expect(plannedFor(able).changes.map(({ personIds }) => personIds)).toEqual([['bram']])
    const both = plannedFor(file([], open({ people: 2, skills: [] })))
    expect(both.changes.map(({ personIds }) => [...personIds].sort())).toEqual([['bram', 'odo']])
    expect(plannedFor(file([], open({ people: 1, skills: ['networks'] }))).leftOut).toMatchObject([{ why: { why: 'skills' } }])
  })
  it('what was promised for this day at the latest costs more to leave than what has time', () => {
    const costs = (by: string | null) => {
      const day = file(
        [],
        open(anybody).map((one) => ({ ...one, by })),
      )
      return questionOf(day, travelOf(day, roads, table)).problem.visits[0]!.leftOut
    }
    const { date } = file([])
    const tomorrow = '2099-01-01'
    expect(costs(date)).toBeGreaterThan(costs(null))
    expect([costs('2020-01-01'), costs(tomorrow)]).toEqual([costs(date), costs(null)])
  })
  it('a van that is on the road with one crew is not another crew’s; who has the parts on board fetches none', () => {
    const shared = some({ odo: { vanId: 'white' }, bram: { vanId: 'white' } })
    const day = { ...file([visit(0, ['odo'], '08:00')]), people: shared }
    expect(crewsOf(day).map(({ id, vanId }) => [id, vanId])).toEqual([['odo', 'white']])
    // Both are booked: the first of them has it.
    const two = { ...file([visit(0, ['odo'], '08:00'), visit(1, ['bram'], '09:00')]), people: shared }
    expect(crewsOf(two).map(({ vanId }) => vanId)).toEqual(['white', null])
    const own = { ...file([], open(anybody, ['white'])), people: some({ odo: { vanId: 'white' }, bram: { vanId: 'blue' } }) }
    const { question } = plannedFor(own)
    expect(question.problem.visits[0]!.partsWith).toEqual([question.crews.findIndex(({ id }) => id === 'odo')])
    const booked = (from: string, to: string, index: number, who: string) => ({
      ...visit(index, [who], from),
      endsAt: new Date(on(to)).toISOString(),
    })
    const at = [booked('08:00', '10:00', 0, 'odo'), booked('09:00', '10:00', 1, 'bram'), booked('10:00', '11:00', 2, 'bram')]
    // No way to plan the day has it in two places.
    const crossed = {
      ...file(
        [visit(0, ['odo'], '08:00'), visit(1, ['bram'], '10:30'), visit(2, ['odo'], '13:00')],
        [3, 4, 5].flatMap((home) => open(anybody, null, home)),
      ),
      people: shared,
    }
    const there = questionOf(crossed, travelOf(crossed, roads, table))
    for (const seed of [1, 2, 3, 4, 5]) {
      const plan = searchPlan(there.problem, { seed, rounds: 150, warm: there.booked })
      const busy = plan.crews.flatMap(({ stops }) => stops.map(({ start, end }) => ({ start, end }))).sort((a, b) => a.start - b.start)
      busy.slice(1).forEach(({ start }, index) => expect(start).toBeGreaterThanOrEqual(busy[index]!.end - 1))
      expect(there.booked.flat().filter((index) => plan.leftOut.includes(index))).toEqual([])
    }
    expect(vansTwice(at, shared)).toEqual([{ vanId: 'white', first: 'visit 0', second: 'visit 1' }])
    // Two crews at one home, or whoever leads drives another.
    expect(vansTwice([at[0]!, { ...at[1]!, siteId: 'home 0' }], shared)).toEqual([])
    expect(
      vansTwice(
        [at[0]!, { ...at[1]!, personIds: ['pip', 'bram'] }],
        some({ odo: { vanId: 'white' }, bram: { vanId: 'white' }, pip: { vanId: 'blue' } }),
      ),
    ).toEqual([])
    expect(plannedFor({ ...own, open: open(anybody, null) }).question.problem.visits[0]!.partsWith).toBeNull()
  })
})

describe('a proposal', () => {
  const open: DayFile['open'] = [
    {
      id: 'callback',
      jobId: 'job 3',
      siteId: 'home 3',
      kind: 'callback',
      callbackId: 'callback',
      since: on('08:00', '2026-11-25'),
      by: null,
      minutes: 60,
      spread: 0.4,
      lacks: null,
      needs: anybody,
      partsIn: null,
    },
    {
      id: 'job 4',
      jobId: 'job 4',
      siteId: 'home 4',
      kind: 'install',
      callbackId: null,
      since: on('08:00', '2026-11-20'),
      by: null,
      minutes: 600,
      spread: 0.3,
      lacks: null,
      needs: anybody,
      partsIn: null,
    },
  ]
  const day = file(
    [visit(0, ['odo', 'pip'], '08:00', { minutes: 200 }), visit(1, ['odo', 'pip'], '10:00'), visit(2, ['bram'], '08:00')],
    open,
  )
  const travel = travelOf(day, roads, table)
  const booked = questionOf(day, travel)
  const now = asBooked(booked)
  const plan = searchPlan(booked.problem, { seed: 1, rounds: 80, warm: booked.booked })
  const proposal = proposalOf(booked, now, plan)

  it('places the callback, keeps what was promised, and says why the long job does not fit', () => {
    expect(breachesOf(booked.problem, plan).filter(({ forbidden }) => forbidden)).toEqual([])
    expect(proposal.changes.find(({ id }) => id === 'callback')).toMatchObject({ was: null, callbackId: 'callback', breaksPromise: false })
    expect(proposal.leftOut.map(({ id }) => id)).toEqual(['job 4'])
    expect(['full', 'dear', 'late']).toContain(proposal.leftOut[0]!.why.why)
    expect(proposal.after).toBeLessThan(proposal.before)
    expect(proposal.late.after).toBeLessThanOrEqual(proposal.late.before)
  })
  it('nobody is sent without the parts, and that is said', () => {
    const without = { ...day, open: [{ ...open[0]!, lacks: '2 × Tide switch' }] }
    const question = questionOf(without, travel)
    const best = searchPlan(question.problem, { seed: 1, rounds: 20, warm: question.booked })
    const told = proposalOf(question, asBooked(question), best)
    expect(told.changes.map(({ id }) => id)).not.toContain('callback')
    expect(told.leftOut).toEqual([{ id: 'callback', siteId: 'home 3', why: { why: 'parts', lacks: '2 × Tide switch' } }])
  })
  it('leaves nobody booked twice: what is set to the expected hours may reach into the visit before, which is set as well', () => {
    const longer = (index: number, from: string, to: string, windowFrom: string) => ({
      ...visit(index, ['bram'], from, { minutes: 45, windowFrom: on(windowFrom), windowTo: on('15:00') }),
      endsAt: new Date(on(to)).toISOString(),
    })
    // Each is booked for longer than it takes, one close behind the other.
    const booked = [longer(0, '08:00', '10:00', '07:30'), longer(2, '10:00', '12:00', '08:00'), longer(5, '12:00', '14:00', '08:00')]
    for (const minutes of [60, 90, 120, 150]) {
      const day = { ...file(booked, [{ ...open[0]!, minutes }]), people: people.filter(({ id }) => id === 'bram') }
      const question = questionOf(day, travelOf(day, roads, table))
      const best = searchPlan(question.problem, { seed: 1, rounds: 200, warm: question.booked })
      const { changes } = proposalOf(question, asBooked(question), best)
      const after = [
        ...booked.map((one) => changes.find(({ id }) => id === one.id) ?? { ...one, startAt: one.startsAt, endAt: one.endsAt }),
        ...changes.filter(({ was }) => was === null),
      ]
      expect(after.length).toBe(4)
      expect(bookedTwice(after.map(({ id, personIds, startAt, endAt }) => ({ id, personIds, startsAt: startAt, endsAt: endAt })))).toEqual(
        [],
      )
    }
  })
  it('of a visit that stays as it is nothing is said; a new promise holds the start', () => {
    for (const { was, startAt, windowFrom, windowTo, id } of proposal.changes) {
      expect(Date.parse(startAt)).toBeGreaterThanOrEqual(Date.parse(windowFrom))
      expect(Date.parse(startAt)).toBeLessThanOrEqual(Date.parse(windowTo))
      if (was) expect(day.visits.some((one) => one.id === id)).toBe(true)
    }
  })
  it('whose tags hang there stays', () => {
    const tied = file([
      visit(0, ['odo'], '08:00', { minutes: 300, tied: 'a tag' }),
      visit(1, ['odo'], '09:00', { tied: 'a tag' }),
      visit(2, ['bram'], '15:00'),
    ])
    const question = questionOf(tied, travelOf(tied, roads, table))
    const best = searchPlan(question.problem, { seed: 1, rounds: 60, warm: question.booked })
    expect(best.routes[question.crews.findIndex(({ id }) => id === 'odo')]!.length).toBeGreaterThanOrEqual(2)
  })
  it('who has no licence keeps what was booked for them, and gets nothing that needs one', () => {
    const plain = file([visit(0, ['pip'], '08:00'), visit(1, ['bram'], '08:00', { minutes: 400 }), visit(2, ['bram'], '09:00')])
    const question = questionOf({ ...plain, people: plain.people.filter(({ id }) => id !== 'odo') }, travelOf(plain, roads, table))
    const best = searchPlan(question.problem, { seed: 1, rounds: 60, warm: question.booked })
    expect(best.routes[question.crews.findIndex(({ id }) => id === 'pip')]!.map((index) => question.what[index]!.booked!.id)).toEqual([
      'visit 0',
    ])
  })
})

/** A day as offices make them: hours booked by guess, somebody away for a while, one van for two, people who run late. */
function anyDay(seed: number): { day: DayFile; now: number } {
  const chance = new Chance(seed)
  const minute = (least: number, most: number) => 5 * Math.round((least + chance.int(most - least)) / 5)
  const at = (minutes: number) => new Date(Date.parse(on('07:00')) + minutes * 60_000).toISOString()
  const visits: DayFileVisit[] = []
  const who = ['odo', 'bram', 'pip', 'kit']
  for (const [index, lead] of ['odo', 'bram', 'kit'].entries()) {
    let clock = minute(0, 90)
    for (let number = 0; number < 2 + chance.int(2); number++) {
      const [booked, takes] = [minute(40, 150), minute(20, 200)]
      const personIds = chance.is(0.3) && lead !== 'kit' ? [lead, 'pip'] : [lead]
      const id = visits.length
      const from = at(clock)
      visits.push({
        ...visit(id % homes.length, personIds, '08:00', { minutes: takes }),
        ...{ id: `visit ${id}`, siteId: `home ${(id + index) % homes.length}`, startsAt: from, endsAt: at(clock + booked) },
        ...{ windowFrom: at(clock - minute(0, 60)), windowTo: at(clock + minute(30, 120)) },
      })
      clock += booked + (chance.is(0.5) ? 0 : minute(0, 60))
    }
  }
  const gone = minute(0, 400)
  const away = chance.is(0.6)
    ? [{ personId: chance.pick(who), from: at(gone), to: at(gone + minute(30, chance.pick([60, 150, 500]))) }]
    : []
  const now = chance.is(0.4) ? Date.parse(at(minute(30, 300))) / 1000 : 0
  const kit = { id: 'kit', licensed: true, role: 'technician', vanId: chance.is(0.4) ? 'white' : null, skills: [] }
  const team = [...people, kit].map((one) => (one.id === 'odo' && chance.is(0.5) ? { ...one, vanId: 'white' } : one))
  const waits = (index: number): DayFile['open'][number] => ({
    ...{ id: `open ${index}`, jobId: `job ${index}`, siteId: `home ${index}`, kind: 'install', callbackId: null },
    ...{ since: on('08:00', '2026-11-20'), by: null, minutes: minute(20, 160), spread: 0.3, lacks: null, needs: anybody, partsIn: null },
  })
  const day = { ...file(visits, [waits(1), waits(3), waits(5)]), people: team, away }
  // One is being worked on.
  const running = now ? visits.find(({ startsAt }) => Date.parse(startsAt) / 1000 < now) : undefined
  if (running) Object.assign(running, { status: 'onSite', arrivedAt: running.startsAt })
  return { day, now }
}
test('whatever day it is, a plan books nobody and no van twice, sends nobody while they are away, and lets what was done stand', () => {
  const travel = travelOf(file([]), roads, table)
  let needed = 0
  for (let seed = 1; seed <= 250; seed++) {
    const { day, now } = anyDay(seed)
    const question = questionOf(day, travel, { now })
    const best = searchPlan(question.problem, { seed, rounds: 40, warm: question.booked })
    const { changes, leftOut } = proposalOf(question, asBooked(question), best)
    const bookings = (list: DayFileVisit[]) =>
      list.flatMap(({ id, siteId, personIds, startsAt, endsAt, status }) =>
        status === 'done' ? [] : [{ id, siteId, personIds, startsAt, endsAt }],
      )
    const before = bookings(day.visits)
    /** As the day is with these: nobody and no van of them is in two places. */
    const fits = (taken: typeof changes) => {
      const after = [
        ...before.filter(({ id }) => !taken.some((change) => change.id === id)),
        ...taken.map(({ id, siteId, personIds, startAt, endAt }) => ({ id, siteId, personIds, startsAt: startAt, endsAt: endAt })),
      ]
      const touched = (pair: { first: string; second: string }) => taken.some(({ id }) => id === pair.first || id === pair.second)
      // Longer visits hide behind one another: what taking over looks at is asked of each pair.
      const pairs = after.flatMap((one, index) => after.slice(index + 1).map((other) => [one, other]))
      expect({ seed, twice: pairs.flatMap((pair) => bookedTwice(pair)).filter(touched) }).toEqual({ seed, twice: [] })
      expect({ seed, vans: pairs.flatMap((pair) => vansTwice(pair, day.people)).filter(touched) }).toEqual({ seed, vans: [] })
    }
    fits(changes)
    for (const { id, personIds, startAt, endAt } of changes)
      expect({ seed, id, gone: personIds.filter((one) => isAway(day.away, one, startAt, endAt)) }).toEqual({ seed, id, gone: [] })
    // Taken over in part: what is left stands by itself, and whatever needs nothing of the rest stays in it.
    const off = changes.filter(({ quiet }) => !quiet).filter((_, index) => (seed + index) % 3 === 0)
    const wanted = changes.filter((one) => !off.includes(one))
    const kept = standing(day, wanted)
    fits(kept)
    expect(standing(day, changes)).toEqual(changes)
    needed += wanted.length - kept.length
    // Whoever has people as it is booked does not lose them.
    const had = new Set(asBooked(question).crews.flatMap(({ stops }) => stops.map(({ visit }) => question.what[visit]!.booked!.id)))
    expect({ seed, lost: leftOut.filter(({ id }) => had.has(id)) }).toEqual({ seed, lost: [] })
    expect(changes.filter(({ id, quiet }) => !quiet && day.visits.find((one) => one.id === id)?.status === 'onSite')).toEqual([])
  }
  // Some of them did need what was taken off.
  expect(needed).toBeGreaterThan(20)
})

describe('somebody is away', () => {
  const away = (personId: string, from: string, to: string) => ({ personId, from: on(from), to: on(to) })
  const plan = (day: DayFile, options = {}) => {
    const question = questionOf(day, travelOf(day, roads, table), options)
    const before = asBooked(question)
    const best = searchPlan(question.problem, { seed: 1, rounds: 400, warm: question.booked })
    return { question, before, proposal: proposalOf(question, before, best) }
  }
  it('for the whole day: they are no crew, and what they were to do goes to others within its promise', () => {
    const day = { ...file([visit(0, ['bram'], '08:00'), visit(2, ['odo', 'pip'], '10:30')]), away: [away('bram', '00:00', '23:59')] }
    const { question, before, proposal } = plan(day)
    expect(question.crews.map(({ personIds }) => personIds.join())).toEqual(['odo,pip'])
    expect(before.leftOut).toEqual([0])
    const change = proposal.changes.find(({ id }) => id === 'visit 0')!
    expect(change).toMatchObject({ personIds: ['odo', 'pip'], was: { personIds: ['bram'], startAt: on('08:00') }, breaksPromise: false })
    expect(Date.parse(change.startAt)).toBeLessThanOrEqual(Date.parse(day.visits[0]!.windowTo))
    expect(change.windowTo).toBe(day.visits[0]!.windowTo)
  })
  it('in the afternoon: what lies there is done by others or sooner, what lies before stays', () => {
    const day = { ...file([visit(0, ['bram'], '08:00'), visit(2, ['bram'], '14:00')]), away: [away('bram', '13:00', '18:00')] }
    const { question, proposal } = plan(day)
    const bram = question.crews.findIndex(({ id }) => id === 'bram')
    expect(clock(new Date((question.begin + question.problem.crews[bram]!.latest) * 1000).toISOString())).toBe('13:00')
    expect(proposal.changes.map(({ id, personIds }) => [id, personIds.join()])).toEqual([['visit 2', 'odo']])
  })
  it('nobody who has people loses them for it: what does not fit stays without anybody, and that is said', () => {
    // Odo has work until the evening, and Bram’s visits are as long as his day.
    const full = [visit(0, ['odo', 'pip'], '08:00', { minutes: 230 }), visit(2, ['odo', 'pip'], '12:30', { minutes: 230 })]
    const lost = [visit(3, ['bram'], '08:00', { minutes: 200 }), visit(4, ['bram'], '12:00', { minutes: 200 })]
    const day = { ...file([...full, ...lost]), away: [away('bram', '00:00', '23:59')] }
    const { proposal, question } = plan(day)
    expect(proposal.leftOut.map(({ id }) => id).sort()).toEqual(['visit 3', 'visit 4'])
    const kept = question.what.filter(({ booked }) => booked?.personIds.includes('odo')).map(({ booked }) => booked!.id)
    expect(proposal.leftOut.filter(({ id }) => kept.includes(id))).toEqual([])
    for (const { startAt, endAt } of proposal.changes) expect(Date.parse(endAt)).toBeGreaterThan(Date.parse(startAt))
  })
  it('the mate alone: the visit stays with who leads it', () => {
    const day = { ...file([visit(0, ['odo', 'pip'], '08:00')]), away: [away('pip', '07:00', '16:00')] }
    expect(questionOf(day, travelOf(day, roads, table)).crews.map(({ personIds }) => personIds.join())).toEqual(['odo', 'bram'])
  })
  it('both parts of a day with a hole count; of an hour before the shift none is lost', () => {
    const shift = { from: Date.parse(on('07:00')) / 1000, to: Date.parse(on('16:00')) / 1000 }
    const parts = (...list: ReturnType<typeof away>[]) =>
      workedParts(list, 'bram', shift).map((part) =>
        [part.from, part.to].map((time) => clock(new Date(time * 1000).toISOString())).join(' to '),
      )
    expect(parts(away('bram', '10:00', '11:00'))).toEqual(['07:00 to 10:00', '11:00 to 16:00'])
    expect(parts(away('bram', '05:00', '06:00'))).toEqual(['07:00 to 16:00'])
    expect(parts(away('odo', '07:00', '16:00'))).toEqual(['07:00 to 16:00'])
    expect(parts(away('bram', '06:00', '12:00'), away('bram', '11:00', '17:00'))).toEqual([])
  })
  it('for an hour in between: there is work before it and after it, and none in it', () => {
    const waits = (index: number, minutes: number): DayFile['open'][number] => ({
      ...{ id: `open ${index}`, jobId: `job ${index}`, siteId: `home ${index}`, kind: 'install', callbackId: null },
      ...{ since: on('08:00', '2026-11-20'), by: null, minutes, spread: 0.3, lacks: null, needs: anybody, partsIn: null },
    })
    const alone = people.filter(({ id }) => id === 'bram')
    const day = { ...file([], [waits(0, 120), waits(2, 150)]), people: alone, away: [away('bram', '10:00', '11:30')] }
    const { question, proposal } = plan(day)
    expect(proposal.leftOut).toEqual([])
    expect(
      breachesOf(question.problem, searchPlan(question.problem, { seed: 1, rounds: 400 })).filter(({ forbidden }) => forbidden),
    ).toEqual([])
    for (const { startAt, endAt } of proposal.changes)
      expect(Date.parse(endAt) <= Date.parse(on('10:00')) || Date.parse(startAt) >= Date.parse(on('11:30'))).toBe(true)
    // Both are too long for one part of it.
    expect(new Set(proposal.changes.map(({ startAt }) => Date.parse(startAt) < Date.parse(on('10:00')))).size).toBe(2)
  })
})

test('a week: shifts less rests and time off against what is booked; apprentices and the office do not count', () => {
  const day = (date: string, worked = true) => ({
    ...{ date, worked, restMinutes: 30, from: `${date}T00:00:00Z`, to: `${date}T24:00:00Z` },
    shift: { from: `${date}T07:00:00Z`, to: `${date}T16:00:00Z` },
  })
  const booked = (date: string, personIds: string[], from: string, to: string) => ({
    ...{ personIds, startsAt: `${date}T${from}:00Z`, endsAt: `${date}T${to}:00Z` },
  })
  const week = weekOf(
    [day('2026-11-27'), day('2026-11-28', false), day('2026-11-30')],
    people,
    [{ personId: 'bram', from: '2026-11-30T12:00:00Z', to: '2026-12-02T00:00:00Z' }],
    [
      booked('2026-11-27', ['odo', 'pip'], '08:00', '10:00'),
      booked('2026-11-28', ['bram'], '09:00', '10:00'),
      booked('2026-11-27', ['odo', 'bram'], '23:30', '23:45'),
    ],
  )
  // Two people of nine hours less half an hour each; the apprentice beside one adds nothing.
  expect(week[0]).toEqual({ date: '2026-11-27', worked: true, capacity: 2 * 510, booked: 120 + 2 * 15, visits: 2, away: [] })
  expect(week[1]).toMatchObject({ capacity: 0, booked: 60, visits: 1 })
  // Bram works until noon.
  expect(week[2]).toEqual({ date: '2026-11-30', worked: true, capacity: 510 + 270, booked: 0, visits: 0, away: ['bram'] })
})
