import { jest } from '@jest/globals'
import { database } from '../database'
import { makeCompany, openWorld, refusedWith } from '../testing/world'
import { changesOf, leaveLine, listAccessRecord } from './access-record'
import { addBranch, changeBranch } from './branches'
import { addPerson, changePerson } from './people'
import { viewerOfSession } from './access'
import { leadsHere, letLeadIn } from './let-in'
import { logIn, openSession } from './sessions'

jest.setTimeout(120_000)
let close: () => Promise<void>
beforeAll(async () => {
  close = await openWorld()
})
afterAll(() => close())

const lines = async (lead: Parameters<typeof listAccessRecord>[0], query: Parameters<typeof listAccessRecord>[1] = {}) =>
  (await listAccessRecord(lead, query)).lines

test('rights that are given and taken stand there with who, what and the values, and no password', async () => {
  const { lead } = await makeCompany()
  const person = {
    ...{ login: `rec.${Date.now().toString(36)}`, name: 'Una Reef', initials: 'UNA', role: 'technician' as const, licensed: false },
    ...{ branchId: lead.branchId, password: 'anchor-below-the-quay', skills: [] },
  }
  const { id } = await addPerson(lead, person)
  await changePerson(lead, id, { ...person, role: 'lead', licensed: true, password: 'kelp-under-the-ferry' })
  await changePerson(lead, id, { active: false })
  // What changes nothing leaves nothing.
  await changePerson(lead, id, { name: 'Una Reef' })
  const found = await lines(lead, { deed: 'person' })
  expect(found.map(({ what, about, who }) => [who === '' ? '' : 'lead', what, about])).toEqual([
    ['lead', 'changed', 'Una Reef'],
    ['lead', 'changed', 'Una Reef'],
    ['lead', 'added', 'Una Reef'],
  ])
  expect(found[0]!.changes).toEqual([{ field: 'active', from: 'yes', to: 'no' }])
  expect(found[1]!.changes).toEqual([
    { field: 'role', from: 'technician', to: 'lead' },
    { field: 'licensed', from: 'no', to: 'yes' },
    { field: 'password', from: '', to: 'another one' },
  ])
  expect(JSON.stringify(await database().models.accessRecord.findAll({ where: { companyId: lead.companyId }, raw: true }))).not.toMatch(
    /anchor|kelp|scrypt/,
  )
})
test('a lead who forgot theirs is let in on the host: by that password alone, every login ends, and it stands there', async () => {
  const { lead, add } = await makeCompany()
  const technician = await add('technician')
  const { people } = database().models
  const [row, other] = [(await people.findByPk(lead.personId))!, (await people.findByPk(technician.personId))!]
  const sessionId = await openSession(row, '')
  expect(await letLeadIn(other.login, 'drawn-for-nobody-here')).toBeNull()
  expect(await letLeadIn(row.login, 'drawn-for-the-lead')).toBe(row.name)
  expect((await leadsHere()).map(({ login }) => login)).toContain(row.login)
  const stranger = { address: row.id, knows: () => null }
  expect((await logIn({ login: row.login, password: 'drawn-for-the-lead' }, stranger)).id).toBe(row.id)
  expect(await viewerOfSession({ personId: row.id, epoch: row.sessionEpoch, sessionId })).toBeNull()
  expect((await lines(lead))[0]).toMatchObject({ deed: 'person', changes: [{ field: 'password', to: 'another one, on the host' }] })
})
test('what is refused leaves nothing: it stands or falls with the change', async () => {
  const { lead } = await makeCompany()
  const before = (await lines(lead)).length
  expect(await refusedWith(changePerson(lead, lead.personId, { active: false }))).toEqual([409, 'ownAccount'])
  expect(await lines(lead)).toHaveLength(before)
})
test('settings by name, a branch that was opened, and logins by device; of one company only, page by page', async () => {
  const { lead } = await makeCompany()
  const other = await makeCompany()
  await addBranch(lead, { name: 'Tern Holm', schemeId: 'iec230', timezone: 'UTC' })
  await changeBranch(lead, lead.branchId, { name: 'Port Sallow East' })
  await openSession((await database().models.people.findByPk(lead.personId))!, '')
  const found = await lines(lead)
  expect(found.slice(0, 3).map(({ deed, what, about }) => [deed, what, about])).toEqual([
    ['login', 'unknown device', ''],
    ['branch', 'changed', 'Port Sallow East'],
    ['branch', 'added', 'Tern Holm'],
  ])
  expect(found[1]!.changes).toEqual([{ field: 'name', from: expect.any(String), to: 'Port Sallow East' }])
  expect((await lines(other.lead)).some(({ about }) => about === 'Tern Holm')).toBe(false)
  // A person of another company is not named by a line that was made up.
  await leaveLine(other.lead, { deed: 'person', what: 'changed', refId: lead.personId })
  expect((await lines(other.lead))[0]).toMatchObject({ about: '', what: 'changed' })
  for (let count = 0; count < 105; count++) await leaveLine(lead, { deed: 'file', what: `file ${count}` })
  const first = await listAccessRecord(lead, { deed: 'file' })
  expect([first.lines.length, first.more]).toEqual([100, true])
  const rest = await listAccessRecord(lead, { deed: 'file', before: first.lines.at(-1)!.id })
  expect([rest.lines.length, rest.more]).toEqual([5, false])
})
test('changes are said by their words; what is larger than a word is only named', () => {
  const before = { name: 'a', count: 1, list: [1], left: null as string | null }
  const after = { name: 'b', count: 1, list: [1, 2], left: 'x' }
  expect(changesOf(before, after, ['name', 'count', 'list', 'left'])).toEqual([
    { field: 'name', from: 'a', to: 'b' },
    { field: 'list', from: '…', to: '…' },
    { field: 'left', from: '–', to: 'x' },
  ])
})
