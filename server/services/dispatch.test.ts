import { jest } from '@jest/globals'
import { database } from '../database'
import { jobCommand, makeCompany, open, openWorld, refusedWith, siteCommand, uuid } from '../testing/world'
import { testFile } from '../../core/testing/scenario'
import { at, book, times, tomorrow } from '../testing/visits'
import { acceptPlan } from './accept-plan'
import { addBranch } from './branches'
import { dispatchDay, placeHome } from './dispatch-day'
import { ApiError } from './errors'
import { changePerson, listPeople } from './people'
import { addPlace, changePlace } from './stock'
import { readState } from './streams'
import { visitsBetween } from './visits'

jest.setTimeout(180_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const date = tomorrow.toISODate()!
let homes = 0
const file = (address: string) => ({ ...testFile, site: { ...testFile.site, name: `Home ${++homes}`, address } })

async function office() {
  const { lead, add } = await makeCompany()
  const [anna, ben] = [await add('technician'), await add('technician')]
  const jobs: { jobId: string; siteId: string }[] = []
  for (const address of ['3 Ferry Stairs, Port Sallow', '5 Withy Bank, Port Sallow', '9 Nowhere Lane'])
    jobs.push(await open(lead, file(address) as never))
  const visit = (job: number, people: string[], from: number, to: number) => book(lead, jobs[job]!.jobId, people, [from, to])
  const booked = async () =>
    Object.fromEntries(
      (await visitsBetween(lead, tomorrow.toJSDate(), tomorrow.plus({ days: 1 }).toJSDate(), { branchId: lead.branchId })).map((one) => [
        one.id,
        one,
      ]),
    )
  return { lead, add, anna, ben, jobs, visit, booked }
}
const planned = (
  jobId: string,
  visitId: string,
  personIds: string[],
  from: number,
  to: number,
  was: { startsAt: string; personIds: string[] } | null,
) => ({
  jobId,
  visitId,
  makes: was ? null : { kind: 'install' as const, callbackId: null },
  was,
  personIds,
  ...times(from, to),
})
const problemsOf = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) =>
      error instanceof ApiError ? [error.code, (error.details as { problem: string }[]).map(({ problem }) => problem)] : String(error),
  )

test('visits that begin together stay in one order, however often they are asked for', async () => {
  const { add, visit, booked } = await office()
  const crew = await Promise.all([0, 1, 2, 3, 4, 5].map(() => add('technician')))
  const ids = []
  for (const [index, { personId }] of crew.entries()) ids.push(await visit(index % 3, [personId], 8, 10))
  for (let time = 0; time < 3; time++) expect(Object.keys(await booked())).toEqual([...ids].sort())
})
test('the day of a branch: visits with their work, what waits, where homes are; of another company nothing', async () => {
  const { lead, anna, jobs, visit } = await office()
  const visitId = await visit(0, [anna.personId], 8, 10)
  const day = await dispatchDay(lead, lead.branchId, date)
  expect(day.visits).toMatchObject([{ id: visitId, status: 'planned', personIds: [anna.personId], tied: null }])
  expect(day.visits[0]!.minutes).toBeGreaterThan(20)
  expect(day.visits[0]!.spread).toBeGreaterThan(0)
  expect(day.open.map(({ jobId }) => jobId)).toEqual([jobs[1]!.jobId, jobs[2]!.jobId])
  expect(day.shift).toEqual({
    from: tomorrow.plus({ hours: 7.5 }).toISO(),
    to: tomorrow.plus({ hours: 16.5 }).toISO(),
    latest: tomorrow.plus({ hours: 18 }).toISO(),
  })
  const home = (index: number) => day.homes.find(({ siteId }) => siteId === jobs[index]!.siteId)!
  expect(home(0)).toMatchObject({ shown: false, position: [expect.any(Number), expect.any(Number)] })
  expect(home(2)).toMatchObject({ shown: false, position: null })
  await placeHome(lead, jobs[2]!.siteId, [-30.01, 45.01])
  const shown = (await dispatchDay(lead, lead.branchId, date)).homes.find(({ siteId }) => siteId === jobs[2]!.siteId)
  expect(shown).toMatchObject({ shown: true, position: [-30.01, 45.01] })
  await placeHome(lead, jobs[2]!.siteId, null)
  expect((await dispatchDay(lead, lead.branchId, date)).homes.find(({ siteId }) => siteId === jobs[2]!.siteId)).toMatchObject({
    shown: false,
    position: null,
  })
  const { lead: rival } = await makeCompany()
  expect(await refusedWith(dispatchDay(rival, lead.branchId, date))).toEqual([404, 'notFound'])
  expect(await refusedWith(placeHome(rival, jobs[0]!.siteId, null))).toEqual([404, 'notFound'])
})

test('a plan is taken over whole: two crews swap, a job is placed, and the same plan again changes nothing', async () => {
  const { lead, anna, ben, jobs, visit, booked } = await office()
  const first = await visit(0, [anna.personId], 8, 10)
  const second = await visit(1, [ben.personId], 8, 10)
  const before = await booked()
  const was = (id: string) => ({ startsAt: before[id]!.startsAt, personIds: before[id]!.personIds })
  const fresh = uuid()
  const plan = {
    id: uuid(),
    branchId: lead.branchId,
    visits: [
      planned(jobs[0]!.jobId, first, [ben.personId], 8, 10, was(first)),
      planned(jobs[1]!.jobId, second, [anna.personId], 8, 10, was(second)),
      planned(jobs[2]!.jobId, fresh, [anna.personId], 10, 12, null),
    ],
  }
  expect(await acceptPlan(lead, plan)).toEqual({ moved: 2, made: 1 })
  const after = await booked()
  expect([first, second, fresh].map((id) => after[id]!.personIds)).toEqual([[ben.personId], [anna.personId], [anna.personId]])
  const seq = (await readState('job', jobs[0]!.jobId)).seq
  expect(await acceptPlan(lead, plan)).toEqual({ moved: 2, made: 1 })
  expect((await readState('job', jobs[0]!.jobId)).seq).toBe(seq)
  expect(Object.keys(await booked())).toHaveLength(3)
})

test('or not at all: in two places, changed meanwhile, somebody else’s job, tags left there', async () => {
  const { lead, add, anna, ben, jobs, visit, booked } = await office()
  const first = await visit(0, [anna.personId], 8, 10)
  const second = await visit(1, [ben.personId], 8, 10)
  const before = await booked()
  const was = (id: string) => ({ startsAt: before[id]!.startsAt, personIds: before[id]!.personIds })
  const give = (...visits: ReturnType<typeof planned>[]) => problemsOf(acceptPlan(lead, { id: uuid(), branchId: lead.branchId, visits }))
  const third = uuid()
  const untouched = async () => expect(await booked()).toEqual(before)

  // With a visit that is in the plan, and with one that is not.
  expect(
    await give(
      planned(jobs[0]!.jobId, first, [anna.personId], 8, 10, was(first)),
      planned(jobs[2]!.jobId, third, [anna.personId], 9, 11, null),
    ),
  ).toEqual(['planRefused', ['technician person would be in two places at once.']])
  expect(
    await give(
      planned(jobs[2]!.jobId, third, [ben.personId], 9, 11, null),
      planned(jobs[0]!.jobId, first, [anna.personId], 12, 13, was(first)),
    ),
  ).toEqual(['planRefused', [expect.stringMatching(/^technician person is at Home \d+ from /)]])
  await untouched()
  expect(await give(planned(jobs[0]!.jobId, first, [anna.personId], 12, 13, { ...was(first), startsAt: at(7) }))).toEqual([
    'planRefused',
    ['It was changed meanwhile: look at the day anew.'],
  ])
  expect(await give(planned(jobs[0]!.jobId, first, [uuid()], 12, 13, was(first)))).toEqual([
    'planRefused',
    [expect.stringMatching(/does not work in this branch/)],
  ])
  expect(
    await refusedWith(
      acceptPlan(lead, { id: uuid(), branchId: lead.branchId, visits: [planned(uuid(), first, [anna.personId], 12, 13, was(first))] }),
    ),
  ).toEqual([404, 'noSuchJob'])
  const { lead: rival } = await makeCompany()
  expect(
    await refusedWith(
      acceptPlan(rival, { id: uuid(), branchId: rival.branchId, visits: [planned(jobs[0]!.jobId, first, [rival.personId], 12, 13, null)] }),
    ),
  ).toEqual([404, 'noSuchJob'])
  await untouched()

  // Anna hangs a tag at the home: her visit is not hers to lose.
  const { siteId } = jobs[0]!
  const site = await readState('site', siteId)
  const breaker = Object.values(site.breakers)[0]!
  await jobCommand(anna, jobs[0]!.jobId, { type: 'arrive', visitId: first })
  await siteCommand(anna, siteId, { type: 'observeBreaker', breakerId: breaker.id, state: 'open', note: '' })
  expect(await siteCommand(anna, siteId, { type: 'hangTag', tagId: uuid(), breakerId: breaker.id, lock: 'red 1' })).toMatchObject({
    status: 'accepted',
  })
  expect((await dispatchDay(lead, lead.branchId, date)).visits.find(({ id }) => id === first)!.tied).toMatch(
    /^technician person has a tag on /,
  )
  // She is there: nobody else is sent in her place, tag or no tag.
  expect(await give(planned(jobs[0]!.jobId, first, [(await add('technician')).personId], 8, 10, was(first)))).toEqual([
    'planRefused',
    ['It has begun meanwhile.'],
  ])
  const moved = planned(jobs[0]!.jobId, first, [(await add('technician')).personId], 8, 10, was(first))
  expect(await give(moved, planned(jobs[1]!.jobId, second, [ben.personId], 14, 16, was(second)))).toEqual([
    'planRefused',
    ['It has begun meanwhile.'],
  ])
  expect((await booked())[second]!.startsAt).toBe(before[second]!.startsAt)
})

test('twenty plans at once from five offices: nobody is booked twice, and none that was taken is lost', async () => {
  const { lead, add, jobs, booked } = await office()
  const people = await Promise.all([1, 2, 3].map(() => add('technician')))
  const answers = await Promise.all(
    Array.from({ length: 20 }, (_, index) => {
      const visitId = uuid()
      const who = people[index % 3]!
      const hour = 7 + (index % 4) * 2
      return acceptPlan(lead, {
        id: uuid(),
        branchId: lead.branchId,
        visits: [planned(jobs[index % 3]!.jobId, visitId, [who.personId], hour, hour + 2, null)],
      }).then(
        () => visitId,
        (error: unknown) => (error instanceof ApiError && error.code === 'planRefused' ? null : Promise.reject(error)),
      )
    }),
  )
  const taken = answers.filter((id) => id !== null)
  const after = Object.values(await booked())
  expect(after.map(({ id }) => id).sort()).toEqual([...taken].sort())
  // Twelve places of three people in four slots, asked for by twenty.
  expect(taken).toHaveLength(12)
  for (const one of after)
    for (const other of after)
      if (one.id < other.id && one.personIds[0] === other.personIds[0])
        expect(Date.parse(one.endsAt) <= Date.parse(other.startsAt) || Date.parse(other.endsAt) <= Date.parse(one.startsAt)).toBe(true)
  expect(await database().models.visits.count({ where: { companyId: lead.companyId } })).toBe(12)
})

test('a van is at one home at a time: by hand, in a plan, and in two that are booked at once; two crews may come to one home in it', async () => {
  const { lead, add, anna, ben, jobs, visit, booked } = await office()
  const { id: vanId } = await addPlace(lead, { branchId: lead.branchId, name: 'White van', kind: 'van' })
  for (const { personId } of [anna, ben]) await changePerson(lead, personId, { vanId })
  const cara = await add('technician')
  const first = await visit(0, [anna.personId], 8, 10)
  const schedule = (job: number, people: string[], from: number, to: number, alsoBooked = false) =>
    jobCommand(lead, jobs[job]!.jobId, {
      ...{ type: 'scheduleVisit', visitId: uuid(), kind: 'install', callbackId: null, personIds: people, alsoBooked },
      ...times(from, to),
    })
  expect(await schedule(1, [ben.personId], 9, 11)).toMatchObject({
    status: 'refused',
    refusal: { code: 'doubleBooked', reasons: [expect.stringMatching(/^White van is at Home \d+ from .* 8:00 AM to .* 10:00 AM\.$/)] },
  })
  // After them, to the same home, beside somebody who leads, or said a second time.
  expect(await schedule(1, [ben.personId], 10, 11)).toMatchObject({ status: 'accepted' })
  expect(await schedule(0, [ben.personId], 8, 9)).toMatchObject({ status: 'accepted' })
  expect(await schedule(1, [cara.personId], 8, 10)).toMatchObject({ status: 'accepted' })
  expect(await schedule(2, [ben.personId], 9, 10, true)).toMatchObject({ status: 'accepted' })
  // A plan that would send it to two homes.
  const before = await booked()
  const plan = {
    id: uuid(),
    branchId: lead.branchId,
    visits: [
      planned(jobs[0]!.jobId, first, [anna.personId], 13, 15, { startsAt: before[first]!.startsAt, personIds: [anna.personId] }),
      planned(jobs[1]!.jobId, uuid(), [ben.personId], 14, 16, null),
    ],
  }
  expect(await problemsOf(acceptPlan(lead, plan))).toEqual(['planRefused', ['White van would be in two places at once.']])
  expect((await booked())[first]!.startsAt).toBe(before[first]!.startsAt)
  // From two offices in one moment.
  const both = await Promise.all([schedule(0, [anna.personId], 16, 17), schedule(1, [ben.personId], 16, 17)])
  expect(both.map(({ status }) => status).sort()).toEqual(['accepted', 'refused'])
  // The van is sold: nobody drives it, and nothing of it stands in the way.
  await changePlace(lead, vanId, { active: false })
  expect((await listPeople(lead)).flatMap((person) => person.vanId ?? [])).toEqual([])
  expect(await schedule(1, [ben.personId], 13, 14)).toMatchObject({ status: 'accepted' })
})

test('whom a job takes, what people can do, and vans with its parts are in the file of the day', async () => {
  const { lead, anna, ben, jobs, visit } = await office()
  const { id: vanId } = await addPlace(lead, { branchId: lead.branchId, name: 'White van', kind: 'van' })
  await changePerson(lead, anna.personId, { vanId, skills: ['networks'] })
  expect(await refusedWith(changePerson(lead, ben.personId, { vanId: uuid() }))).toEqual([422, 'noSuchVan'])
  const { lead: rival } = await makeCompany()
  expect(await refusedWith(changePerson(rival, rival.personId, { vanId }))).toEqual([422, 'noSuchVan'])
  const visitId = await visit(0, [anna.personId], 8, 10)
  const needs = { type: 'setNeeds' as const, people: 2, skills: ['networks', 'networks'] }
  expect(await jobCommand(anna, jobs[0]!.jobId, needs)).toMatchObject({ status: 'accepted' })
  const day = await dispatchDay(lead, lead.branchId, date)
  expect(day.people.find(({ id }) => id === anna.personId)).toMatchObject({ vanId, skills: ['networks'] })
  expect(day.visits.find(({ id }) => id === visitId)).toMatchObject({ needs: { people: 2, skills: ['networks'] }, partsIn: null })
  expect(day.open.map(({ needs }) => needs)).toEqual([
    { people: 1, skills: [] },
    { people: 1, skills: [] },
  ])
  // A person who goes to another branch leaves the van here.
  const { id: branchId } = await addBranch(lead, { name: 'Two', schemeId: 'iec230', timezone: 'UTC' })
  await changePerson(lead, anna.personId, { branchId })
  expect((await listPeople(lead)).find(({ id }) => id === anna.personId)).toMatchObject({ vanId: null, skills: ['networks'] })
})
