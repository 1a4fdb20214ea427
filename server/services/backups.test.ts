import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { backupFor } from './backups'

const lead = { role: 'lead' as const }
const at = (text: string) => new Date(text)
const folders: string[] = []
const folderWith = (files: Record<string, string>) => {
  const folder = mkdtempSync(join(tmpdir(), 'circuitry-backups-'))
  folders.push(folder)
  for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text)
  process.env.CIRCUITRY_BACKUP = folder
}
afterEach(() => delete process.env.CIRCUITRY_BACKUP)
afterAll(() => folders.forEach((folder) => rmSync(folder, { recursive: true, force: true })))
const made = (madeAt: string) => JSON.stringify({ madeAt })

test('a lead is told of the newest whole one, and when one is missing; nobody else is told', async () => {
  folderWith({
    'circuitry-20261128-021500.json': made('2026-11-28T02:15:00.000Z'),
    'circuitry-20261129-021500.json': made('2026-11-29T02:15:00.000Z'),
    'circuitry-20261130-021500.sql.gz.part': 'half of one',
    'notes.json': made('2030-01-01T00:00:00.000Z'),
  })
  const newest = { daily: true, madeAt: '2026-11-29T02:15:00.000Z' }
  expect(await backupFor(lead, at('2026-11-30T02:16:00Z'))).toEqual({ ...newest, late: false })
  expect(await backupFor(lead, at('2026-11-30T09:00:00Z'))).toEqual({ ...newest, late: true })
  for (const role of ['dispatcher', 'technician', 'apprentice'] as const) expect(await backupFor({ role })).toBeNull()
})
test('a sheet that cannot be read is none; without a folder nothing is made by itself', async () => {
  folderWith({
    'circuitry-20261129-021500.json': made('2026-11-29T02:15:00.000Z'),
    'circuitry-20261130-021500.json': '{"madeAt',
    'circuitry-20261130-031500.json': 'null',
  })
  expect((await backupFor(lead, at('2026-11-29T10:00:00Z')))!.madeAt).toBe('2026-11-29T02:15:00.000Z')
  process.env.CIRCUITRY_BACKUP = '/nowhere/at/all'
  expect(await backupFor(lead, at('2026-11-30T10:00:00Z'))).toEqual({ daily: true, madeAt: null, late: false })
  delete process.env.CIRCUITRY_BACKUP
  expect(await backupFor(lead)).toEqual({ daily: false, madeAt: null, late: false })
})
