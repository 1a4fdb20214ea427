import { jest } from '@jest/globals'
import Papa from 'papaparse'
import { testFile } from '../../core/testing/scenario'
import { database } from '../database'
import { jobCommand, makeCompany, open, openWorld, refusedWith, uuid } from '../testing/world'
import { book, tomorrow } from '../testing/visits'
import { daySheet, hoursTable, readVisitsTable, visitsTable } from './day-files'
import { readState } from './streams'

jest.setTimeout(180_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const day = tomorrow.toISODate()!
async function office() {
  const { lead, add } = await makeCompany()
  const anna = await add('technician')
  const { jobId } = await open(lead, { ...testFile, site: { ...testFile.site, name: '=HYPERLINK("x")' } } as never)
  const visit = (from: number, to: number) => book(lead, jobId, [anna.personId], [from, to])
  const number = (await database().models.jobs.findByPk(jobId))!.number
  const days = { branchId: lead.branchId, from: day, to: day }
  const table = async () => Papa.parse<Record<string, string>>(await visitsTable(lead, days), { header: true, skipEmptyLines: true }).data
  const give = (rows: Record<string, string>[], over: object = {}) =>
    readVisitsTable(lead, { id: uuid(), branchId: lead.branchId, text: Papa.unparse(rows), checkOnly: false, ...over })
  return { lead, add, anna, jobId, visit, number, days, table, give }
}

test('visits go out as a table and come back: the same is the same, one moves, one is made, all or nothing', async () => {
  const { lead, anna, jobId, visit, number, table, give } = await office()
  const first = await visit(8, 10)
  const second = await visit(12, 14)
  const rows = await table()
  expect(rows.map((row) => [row.visit, row.from, row.to, row.people])).toEqual([
    [first, '08:00', '10:00', anna.initials],
    [second, '12:00', '14:00', anna.initials],
  ])
  // A spreadsheet takes no cell for a formula.
  expect(rows[0]!.home).toBe('\'=HYPERLINK("x")')
  expect(await give(rows)).toEqual({ moved: 0, made: 0, same: 2 })
  const changed = [rows[0]!, { ...rows[1]!, from: '11:00', to: '12:30', promised_from: '10:30', promised_to: '12:30' }]
  const fresh = { ...rows[0]!, visit: '', from: '15:00', to: '16:00', promised_from: '15:00', promised_to: '16:30' }
  expect(await give([...changed, fresh], { checkOnly: true })).toEqual({ moved: 1, made: 1, same: 1 })
  expect((await table()).length).toBe(2)
  const id = uuid()
  expect(await give([...changed, fresh], { id })).toEqual({ moved: 1, made: 1, same: 1 })
  // The answer was lost: read again under its id it makes nothing twice.
  await give([...changed, fresh], { id }).catch(() => undefined)
  expect((await table()).map((row) => row.from)).toEqual(['08:00', '11:00', '15:00'])
  // Two places at once: nothing of it.
  const clash = await table()
  clash[1]!.from = '09:00'
  clash[2]!.from = '14:30'
  expect(await refusedWith(give(clash))).toEqual([409, 'planRefused'])
  expect((await table()).map((row) => row.from)).toEqual(['08:00', '11:00', '15:00'])
  expect(Object.keys((await readState('job', jobId)).visits)).toHaveLength(3)
  const { lead: rival } = await makeCompany()
  expect(await refusedWith(readVisitsTable(rival, { id: uuid(), branchId: lead.branchId, text: '', checkOnly: true }))).toEqual([
    404,
    'notFound',
  ])
  void number
})

test('what is not right is said by its line, and nothing is taken over', async () => {
  const { visit, table, give } = await office()
  await visit(8, 10)
  const [row] = await table()
  const said = (over: Record<string, string>) =>
    give([{ ...row!, ...over }]).then(
      () => 'taken',
      (error: { details: { where: string; problem: string }[] }) =>
        error.details.map(({ where, problem }) => `${where}: ${problem}`).join(' '),
    )
  expect(await said({ job: '999' })).toBe('line 2: There is no job 999 in this branch.')
  expect(await said({ people: 'ZZ' })).toBe('line 2: Nobody of this branch is ZZ.')
  expect(await said({ people: '' })).toBe('line 2: people expects initials.')
  expect(await said({ from: '25:00' })).toBe('line 2: from expects a time such as 08:30.')
  expect(await said({ day: '2026-02-30' })).toBe('line 2: day expects a day such as 2026-11-28.')
  expect(await said({ visit: uuid() })).toMatch(/There is no such visit of job \d+\./)
  expect(await said({ kind: 'party' })).toMatch(/kind expects one of/)
  expect(await refusedWith(give([row!, row!]))).toEqual([422, 'badTable'])
  expect(await refusedWith(give([], { text: 'nothing' }))).toEqual([422, 'badTable'])
})

test('hours by person and visit; a day on paper, one’s own or everybody’s', async () => {
  const { lead, add, anna, jobId, visit, days } = await office()
  const visitId = await visit(8, 10)
  await jobCommand(anna, jobId, { type: 'setOff', visitId, expectedAt: null })
  await jobCommand(anna, jobId, { type: 'arrive', visitId })
  await jobCommand(anna, jobId, { type: 'finishVisit', visitId })
  const { models } = database()
  const at = (time: string) => new Date(`${day}T${time}:00.000Z`)
  await models.visits.update({ setOffAt: at('07:40'), arrivedAt: at('08:01'), finishedAt: at('10:16') }, { where: { id: visitId } })
  const [line] = Papa.parse<Record<string, string>>(await hoursTable(lead, days), { header: true, skipEmptyLines: true }).data
  expect(line).toMatchObject({
    person: anna.name,
    day,
    arrived: `${day} 08:01`,
    ended: `${day} 10:16`,
    road_hours: '0.35',
    site_hours: '2.25',
  })
  const mine = await daySheet(anna, { branchId: lead.branchId, date: day })
  expect(mine.subarray(0, 5).toString()).toBe('%PDF-')
  const other = await add('technician')
  expect(await refusedWith(daySheet(other, { branchId: lead.branchId, date: day }))).toEqual([409, 'noVisits'])
  const { lead: rival } = await makeCompany()
  expect(await refusedWith(hoursTable(rival, days))).toEqual([404, 'notFound'])
  expect(await refusedWith(daySheet(rival, { branchId: lead.branchId, date: day }))).toEqual([404, 'notFound'])
})
