import { jest } from '@jest/globals'
import { isNearMiss, nearMissSaid } from '../../core/insight/near-misses'
import { database } from '../database'
import { homeWithDevice } from '../testing/one-device'
import { makeCompany, open, openWorld, refusedWith, siteCommand, uuid } from '../testing/world'
import { readState } from './streams'
import { readWork } from './work-insight'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const now = new Date('2026-11-30T12:00:00Z')
const before = (hours: number) => new Date(now.getTime() - hours * 3_600_000)

test('minutes booked and taken add up by hand; the longest first; another company, an older year and a visit nobody ended count nothing', async () => {
  const { lead } = await makeCompany()
  const { lead: rival } = await makeCompany()
  const { jobId, siteId } = await open(lead)
  const base = { companyId: lead.companyId, branchId: lead.branchId, jobId, siteId, callbackId: null, expectedAt: null }
  /** Booked for two hours; so many minutes on the way and in the home. */
  const visit = (startsHoursAgo: number, wayMinutes: number | null, minutes: number, kind: 'install' | 'callback' = 'install') => {
    const startsAt = before(startsHoursAgo)
    const after = (some: number) => new Date(startsAt.getTime() + some * 60_000)
    return {
      ...{ ...base, id: uuid(), kind, status: 'done', startsAt, endsAt: after(120), windowFrom: startsAt, windowTo: after(60) },
      ...{ setOffAt: wayMinutes === null ? null : after(-wayMinutes), arrivedAt: startsAt, finishedAt: after(minutes) },
    }
  }
  await database().models.visits.bulkCreate([
    visit(100, 30, 120),
    visit(90, null, 150),
    visit(80, 60, 90),
    visit(70, null, 134, 'callback'),
    visit(50 + 24 * 366, 10, 600),
    // Nobody ended it that day.
    visit(60, 10, 15 * 60),
  ])
  const { kinds, longest, nearMisses } = await readWork(lead, lead.branchId, now)
  expect(kinds).toEqual([
    { kind: 'install', visits: 3, bookedHours: 6, takenHours: 6, over: 1, wayHours: 1.5, ways: 2 },
    { kind: 'callback', visits: 1, bookedHours: 2, takenHours: 134 / 60, over: 0, wayHours: 0, ways: 0 },
  ])
  expect(longest).toEqual([expect.objectContaining({ jobId, kind: 'install', bookedMinutes: 120, takenMinutes: 150 })])
  expect(nearMisses).toEqual([])
  expect((await readWork(rival, undefined, now)).kinds).toEqual([])
  expect(await refusedWith(readWork(rival, lead.branchId, now))).toEqual([404, 'notFound'])
})

test('a refusal that saved somebody is kept with its home and without a name, once a day; a slip of order is not', async () => {
  const { anna, lead, siteId } = await homeWithDevice()
  const site = await readState('site', siteId)
  const breakerId = Object.values(site.breakers).find(({ role }) => role === 'branch')!.id
  const give = (command: Parameters<typeof siteCommand>[2]) => siteCommand(anna, siteId, command)
  const opened = { type: 'observeBreaker' as const, breakerId, state: 'open' as const, how: 'did' as const, note: '' }
  expect(await give(opened)).toMatchObject({ status: 'accepted' })
  expect(await give({ type: 'hangTag', tagId: uuid(), breakerId, lock: 'A 1', measure: '', company: false, notice: '' })).toMatchObject({
    status: 'accepted',
  })
  const closing = { type: 'requestClose' as const, breakerId, clearanceId: null }
  const refused = await siteCommand(lead, siteId, { ...closing, grantId: uuid() })
  expect(refused).toMatchObject({ status: 'refused', refusal: { code: 'mayNotClose' } })
  await siteCommand(lead, siteId, { ...closing, grantId: uuid() })
  // The same command once more is the same answer, and no other row.
  const [id, grantId] = [uuid(), uuid()]
  const twice = [await siteCommand(lead, siteId, { ...closing, grantId }, id), await siteCommand(lead, siteId, { ...closing, grantId }, id)]
  expect(twice[1]).toEqual(twice[0])
  expect(isNearMiss('noSuchBreaker')).toBe(false)
  expect(await give({ type: 'removeTag', tagId: uuid() })).toMatchObject({ status: 'refused' })
  const { nearMisses } = await readWork(lead, undefined, new Date())
  expect(nearMisses).toEqual([
    {
      kind: 'refused',
      code: 'mayNotClose',
      days: 1,
      homes: [{ siteName: 'Test house', jobId: expect.any(String), at: expect.any(String) }],
    },
  ])
  expect(nearMissSaid('refused', 'mayNotClose')).toContain('closed onto somebody’s work')
  expect(JSON.stringify(nearMisses)).not.toContain(anna.name)
  expect(await database().models.nearMisses.count({ where: { siteId } })).toBe(3)
})
