import { createHash, randomBytes } from 'node:crypto'
import { appendFileSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { jest } from '@jest/globals'
import Papa from 'papaparse'
import { QueryTypes } from 'sequelize'
import sharp from 'sharp'
import { database } from '../database'
import { homeWithDevice } from '../testing/one-device'
import { jobCommand, makeCompany, openWorld, refusedWith, siteCommand, uuid } from '../testing/world'
import { setupCodeOf } from './codes'
import { execute } from './commands'
import {
  closeHere,
  companiesHere,
  companyCalled,
  companyTables,
  goingOnAt,
  needHere,
  ofTheMoment,
  ofThePlace,
  openHere,
  removeCompany,
} from './companies'
import { readCompany, readSheet, writeCompany } from './company-files'
import { deviceKeyFor, readInstallation } from './installation'
import { linkKey } from './links'
import { addPerson } from './people'
import { viewerOf } from './access'
import { hashPassword, unseal } from './secrets'
import { logIn } from './sessions'
import { addCompany } from './setup'
import { forgetStates, readState } from './streams'
import { tablesHere } from '../database/tables-here'
import { readCalendar } from './calendar'

jest.setTimeout(180_000)
let close: () => Promise<void>
const folder = mkdtempSync(join(tmpdir(), 'circuitry-company-'))
const firstKey = process.env.CIRCUITRY_SECRET_KEY
beforeAll(async () => {
  close = await openWorld()
  await readInstallation()
})
afterAll(async () => {
  await close()
  rmSync(folder, { recursive: true, force: true })
  process.env.CIRCUITRY_SECRET_KEY = firstKey
  delete process.env.CIRCUITRY_OTHER_SECRET_KEYS
})

type Rows = Record<string, Record<string, unknown>[]>
/** Every row of a company as it stands, or of all but it. */
async function rowsOf(companyId: string, but: boolean): Promise<Rows> {
  const found: Rows = {}
  for (const { name, key, where } of await companyTables())
    found[name] = await database().sequelize.query(
      `SELECT * FROM \`${name}\` WHERE ${but ? 'NOT' : ''} (${where}) ORDER BY ${key.map((one) => `\`${one}\``).join()}`,
      { replacements: [companyId], type: QueryTypes.SELECT },
    )
  return found
}
const sealed = /v2:[\w-]{8}:[\w-]+:[\w-]+:[\w-]*/g
/** Sealed values are others each time, and what is bound to the place is another place's. */
const comparable = (rows: Rows) =>
  Object.fromEntries(
    Object.entries(rows)
      .filter(([name]) => !ofTheMoment.includes(name))
      .map(([name, list]) => [
        name,
        list.map((row) => {
          const text = JSON.stringify(row).replace(sealed, 'sealed')
          const { fingerprint: _f, small: _s, moved_to: _m, session_epoch: _e, ...rest } = JSON.parse(text) as Record<string, unknown>
          return name === 'feeds' ? { company_id: rest.company_id } : rest
        }),
      ]),
  )

async function given() {
  const home = await homeWithDevice()
  const { companyId } = home.lead
  const { models } = database()
  const bytes = await sharp({ create: { width: 8, height: 8, channels: 3, background: '#246' } })
    .jpeg()
    .toBuffer()
  const photo = { companyId, branchId: home.lead.branchId, jobId: home.jobId, uploadedBy: home.anna.personId, uploadedAt: new Date() }
  await models.photos.create({ ...photo, id: uuid(), mime: 'image/jpeg', bytes, small: bytes })
  await models.customers.update({ name: '=Zoë “Z” Ünal; o’Hara', phone: '+1 5' }, { where: { companyId } })
  await models.people.update({ passwordHash: await hashPassword('the tide is low') }, { where: { id: home.anna.personId } })
  await models.calendarLinks.upsert({ personId: home.anna.personId, epoch: 3 })
  const { name } = (await models.companies.findByPk(companyId, { raw: true }))!
  return { ...home, companyId, name, bytes }
}
const out = async (name: string, to = join(folder, uuid())) => ({ to, ...(await writeCompany(await companyCalled(name), to)) })
/** At a place with another key. */
async function there<T>(key: string, folderKey: string, work: () => Promise<T>): Promise<T> {
  Object.assign(process.env, { CIRCUITRY_SECRET_KEY: key, CIRCUITRY_OTHER_SECRET_KEYS: folderKey })
  try {
    return await work()
  } finally {
    Object.assign(process.env, { CIRCUITRY_SECRET_KEY: firstKey, CIRCUITRY_OTHER_SECRET_KEYS: '' })
  }
}
const enter = (login: string, password: string) => logIn({ login, password }, { address: uuid(), knows: () => null })

test('whose the rows of a table are is said of every table', async () => {
  const said = new Set([...(await companyTables()).map(({ name }) => name), ...ofThePlace])
  expect((await tablesHere()).map(({ name }) => name).filter((name) => !said.has(name))).toEqual([])
})

test('a company comes back with every row, picture and code, under another key; another company hears nothing of it', async () => {
  const other = await given()
  const { companyId, name, anna, lead, jobId, siteId, code, bytes } = await given()
  const command = { type: 'tickHandover', itemId: 'wall', done: true, rests: 'seen', photoId: null, note: '' } as const
  const envelope = {
    ...{ id: uuid(), stream: 'job' as const, streamId: jobId, at: new Date().toISOString() },
    ...{ basedOnSeq: 0, heldMs: 0, jobSeq: null, command },
  }
  const outcome = await execute(envelope, anna)
  const [before, unsent, state] = [await rowsOf(companyId, false), await deviceKeyFor(anna.personId), await readState('job', jobId)]
  const { to, sheet, keys } = await out(name)
  // Whoever has the folder alone reads no code, no password and no key.
  const login = (before.people ?? []).find(({ id }) => id === anna.personId)!
  for (const file of readdirSync(to, { recursive: true, withFileTypes: true }).filter((one) => one.isFile())) {
    const path = join(file.parentPath, file.name)
    expect(statSync(path).mode & 0o077).toBe(0)
    const text = readFileSync(path, 'latin1')
    for (const secret of [code, firstKey!, keys.key, String(login.password_hash), unsent]) expect(text).not.toContain(secret)
  }
  expect(readFileSync(join(to, 'pictures', readdirSync(join(to, 'pictures'))[0]!))).toEqual(bytes)
  const customers = Papa.parse<Record<string, string>>(readFileSync(join(to, 'csv', 'customers.csv'), 'utf8').replace('\ufeff', ''), {
    header: true,
  })
  // No spreadsheet takes it for a formula.
  expect(customers.data[0]).toMatchObject({ name: "'=Zoë “Z” Ünal; o’Hara" })
  expect(sheet.tables).toMatchObject({ events: { rows: before.events!.length }, photos: { rows: 1 } })

  const others = await rowsOf(companyId, true)
  await expect(readCompany(to, keys.devices)).rejects.toThrow('is here already')
  expect(await removeCompany(companyId)).toBeGreaterThan(20)
  expect(Object.values(await rowsOf(companyId, false)).flat()).toEqual([])
  expect(await rowsOf(companyId, true)).toEqual(others)
  // The order of keys of the place: its own first.
  await there(firstKey!, keys.key, () => readCompany(to, keys.devices))
  forgetStates()
  expect(comparable(await rowsOf(companyId, false))).toEqual(comparable(before))
  expect(await rowsOf(companyId, true)).toEqual(others)
  expect(await readState('job', jobId)).toEqual({ ...state, units: expect.anything() as unknown })
  const unitId = Object.keys(state.units)[0]!
  expect(await setupCodeOf(lead, jobId, unitId, 'Looking')).toEqual({ code })
  // A phone sends once more what it had sent; work goes on; whoever had a password has it.
  expect(await execute(envelope, anna)).toEqual(outcome)
  expect(await jobCommand(anna, jobId, { ...command, done: false })).toMatchObject({ status: 'accepted' })
  expect((await enter(String(login.login), 'the tide is low')).id).toBe(anna.personId)
  expect(await deviceKeyFor(anna.personId)).toBe(unsent)
  expect((await readState('site', other.siteId)).seq).toBeGreaterThan(0)
  expect((await readState('site', siteId)).seq).toBe(before.streams!.find(({ id }) => id === siteId)!.seq)
})

test('under another key nothing is sealed with the one of before', async () => {
  const { companyId, name, jobId } = await given()
  const { to, keys } = await out(name)
  const unitId = Object.keys((await readState('job', jobId)).units)[0]!
  await removeCompany(companyId)
  const key = randomBytes(32).toString('base64')
  await there(key, keys.key, () => readCompany(to, keys.devices))
  forgetStates()
  const stored = (await readState('job', jobId)).units[unitId]!.code.sealed!
  expect(await there(key, '', () => Promise.resolve(unseal(stored)))).toMatch(/.{5,}/)
  await removeCompany(companyId)
})

test('what is not whole, not as it was written, or of another version changes nothing', async () => {
  const { companyId, name } = await given()
  const { to, keys } = await out(name)
  await removeCompany(companyId)
  const sheet = readFileSync(join(to, 'company.json'), 'utf8')
  const refused = async (words: string) => {
    await expect(there(firstKey!, keys.key, () => readCompany(to, keys.devices))).rejects.toThrow(words)
    expect((await companiesHere()).some(({ id }) => id === companyId)).toBe(false)
  }
  const events = join(to, 'tables', 'events.ndjson')
  const kept = readFileSync(events)
  appendFileSync(events, '{}\n')
  await refused('events.ndjson is not as it was written')
  writeFileSync(events, kept)
  writeFileSync(join(to, 'company.json'), sheet.replace(/"migration": "[^"]+"/, '"migration": "9999-tomorrow"'))
  await refused('another version of the program')
  writeFileSync(join(to, 'company.json'), '{"format":"something"}')
  await refused('not one of this program')
  rmSync(join(to, 'company.json'))
  await refused('no company.json')
  writeFileSync(join(to, 'company.json'), sheet)
  const picture = join(to, 'pictures', readdirSync(join(to, 'pictures'))[0]!)
  const image = readFileSync(picture)
  writeFileSync(picture, 'not it')
  await refused('is not as it was written')
  // Cut off in the middle: begun anew it is whole.
  writeFileSync(picture, image)
  expect(Object.values(await rowsOf(companyId, false)).flat().length).toBeGreaterThan(0)
  await there(firstKey!, keys.key, () => readCompany(to, keys.devices))
  expect((await rowsOf(companyId, false)).people).toHaveLength(2)
  await expect(readSheet(folder)).rejects.toThrow('no company.json')
})

test('a row of another company in the folder is taken for none of this one', async () => {
  const other = await makeCompany()
  const { companyId, name } = await given()
  const { to, keys } = await out(name)
  await removeCompany(companyId)
  const file = join(to, 'tables', 'people.ndjson')
  const row = JSON.parse(readFileSync(file, 'utf8').split('\n')[0]!) as object
  const more = `${readFileSync(file, 'utf8')}${JSON.stringify({ ...row, id: uuid(), company_id: other.lead.companyId })}\n`
  writeFileSync(file, more)
  const sheet = JSON.parse(readFileSync(join(to, 'company.json'), 'utf8')) as { tables: Record<string, { sha256: string; rows: number }> }
  sheet.tables.people = { sha256: createHash('sha256').update(more).digest('hex'), rows: 3 }
  writeFileSync(join(to, 'company.json'), JSON.stringify(sheet))
  await expect(there(firstKey!, keys.key, () => readCompany(to, keys.devices))).rejects.toThrow('another company’s')
  await removeCompany(companyId)
})

test('a company that was closed takes nobody in, and its links write nothing; opened again it goes on', async () => {
  const { companyId, name, anna } = await given()
  const { models } = database()
  const { login } = (await models.people.findByPk(anna.personId, { raw: true }))!
  const link = linkKey('calendar', anna.personId, 3)
  expect(await readCalendar(link)).toContain('BEGIN:VCALENDAR')
  await closeHere(companyId, '')
  const { to, sheet, keys } = await out(name)
  expect(sheet.closed).toBe(true)
  expect(await refusedWith(enter(login, 'the tide is low'))).toEqual([403, 'companyMoved'])
  expect(await refusedWith(enter(login, 'the tide is high'))).toEqual([401, 'wrongLogin'])
  expect(await refusedWith(readCalendar(link))).toEqual([403, 'companyMoved'])
  await closeHere(companyId, 'https://circuitry.example')
  await expect(needHere(companyId)).rejects.toThrow('Open https://circuitry.example')
  await expect(needHere(companyId, 'customer')).rejects.toThrow('Ask the company')
  await openHere(companyId)
  expect((await enter(login, 'the tide is low')).id).toBe(anna.personId)
  // Where it comes to it is not closed.
  await removeCompany(companyId)
  await there(firstKey!, keys.key, () => readCompany(to, keys.devices))
  expect((await companyCalled(name)).movedTo).toBeNull()
})

test('what goes on at panels is told before a company is closed', async () => {
  const { anna, siteId, companyId } = await given()
  expect(await goingOnAt(companyId)).toEqual([])
  const breaker = Object.values((await readState('site', siteId)).breakers).find(({ role }) => role === 'branch')!
  const hang = { type: 'hangTag' as const, tagId: uuid(), breakerId: breaker.id, lock: 'red', measure: '' }
  await siteCommand(anna, siteId, { type: 'observeBreaker', breakerId: breaker.id, state: 'open', how: 'did', note: '' })
  expect((await siteCommand(anna, siteId, hang)).status).toBe('accepted')
  expect(await goingOnAt(companyId)).toEqual([expect.stringContaining(`a tag of TE hangs at ${breaker.number}.`)])
})
test('what comes in while a closed company is written is noticed', async () => {
  const { companyId, name, anna, jobId } = await given()
  await closeHere(companyId, '')
  const command = { type: 'tickHandover', itemId: 'wall', done: true, rests: 'seen', photoId: null, note: '' } as const
  const asked = new Promise<unknown>((resolve) => {
    const wait = setInterval(() => {
      if (!statSync(join(folder, 'late', 'tables', 'access_record.ndjson'), { throwIfNoEntry: false })) return
      clearInterval(wait)
      resolve(jobCommand(anna, jobId, command))
    }, 1)
  })
  await expect(Promise.all([out(name, join(folder, 'late')), asked])).rejects.toThrow('came in while it was written')
  expect(readdirSync(join(folder, 'late'))).not.toContain('company.json')
})

test('two companies have the same login, and neither hears of it', async () => {
  const setup = (company: string, password: string) => ({
    ...{ company, branch: 'One', schemeId: 'na120' as const, timezone: 'UTC' },
    person: { name: 'Ann Marsh', initials: 'AM', login: 'ann', password, licensed: true },
  })
  const [first, second] = [
    await addCompany(setup('Fen Lights', 'gulls over the weir')),
    await addCompany(setup('Weir Lights', 'fog on the long pier')),
  ]
  expect(await refusedWith(addCompany(setup('Fen Lights', 'gulls over the weir')))).toEqual([409, 'companyThere'])
  expect((await enter('ann', 'gulls over the weir')).id).toBe(first.id)
  expect((await enter('ann', 'fog on the long pier')).id).toBe(second.id)
  expect(await refusedWith(enter('ann', 'neither of the two'))).toEqual([401, 'wrongLogin'])
  const viewer = await viewerOf(first)
  const person = {
    branchId: first.branchId,
    name: 'Bo Lee',
    initials: 'BL',
    login: 'bo',
    role: 'technician' as const,
    licensed: true,
    vanId: null,
    skills: [],
  }
  await addPerson(viewer, { ...person, password: 'reeds by the old dam' })
  expect(await refusedWith(addPerson(viewer, { ...person, initials: 'BX', password: 'reeds by the old dam' }))).toEqual([409, 'loginTaken'])
  await addPerson(await viewerOf(second), { ...person, branchId: second.branchId, password: 'reeds by the old dam' })
  // The one case in which nobody can tell them apart.
  expect(await refusedWith(enter('bo', 'reeds by the old dam'))).toEqual([409, 'sameLogin'])
  // A device that knows one of them means that one.
  const mine = (await database().models.people.findOne({ where: { login: 'bo', companyId: first.companyId } }))!
  const caller = { address: uuid(), knows: (id: string) => (id === mine.id ? 'their telephone' : null) }
  expect((await logIn({ login: 'bo', password: 'reeds by the old dam' }, caller)).id).toBe(mine.id)
})
