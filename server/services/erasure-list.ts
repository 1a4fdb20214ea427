import { appendFile, readFile } from 'node:fs/promises'
import { z } from 'zod'
import { erasureKinds } from '../../core/protocol/erasures'
import { database, type ErasureRow } from '../database'

/** A line of the list that stands outside the database: ids and a time, no word of anybody. */
const lineSchema = z.object({
  ...{ id: z.uuid(), companyId: z.uuid(), kind: z.enum(erasureKinds), refId: z.uuid(), jobId: z.uuid().nullable(), personId: z.uuid() },
  at: z.iso.datetime(),
})
const listFile = () => process.env.CIRCUITRY_ERASURES ?? ''

/** What the list says. What is cut off at its end was being written when the power went, and is in the database. */
async function listed(): Promise<ErasureRow[]> {
  const text = await readFile(listFile(), 'utf8').catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return ''
    throw error
  })
  return text.split('\n').flatMap((line) => {
    try {
      const read = lineSchema.parse(JSON.parse(line))
      return [{ ...read, at: new Date(read.at) }]
    } catch {
      return []
    }
  })
}
const lineOf = ({ id, companyId, kind, refId, jobId, personId, at }: ErasureRow) =>
  `${JSON.stringify({ id, companyId, kind, refId, jobId, personId, at: at.toISOString() })}\n`

let failed = false
/** Whether the list could be written when it was last tried. */
export const listIsKept = async (): Promise<boolean> => listFile() !== '' && !failed

/** Writes into the list what the database knows and it does not: of one company, or of all. */
export async function listErasures(companyId?: string): Promise<void> {
  if (!listFile()) return
  try {
    const known = new Set((await listed()).map(({ id }) => id))
    const rows = await database().models.erasures.findAll({ where: companyId ? { companyId } : {}, order: [['at', 'ASC']], raw: true })
    const fresh = rows.filter(({ id }) => !known.has(id))
    // A line that was cut off ends here; nothing is joined to it.
    if (fresh.length) await appendFile(listFile(), `\n${fresh.map(lineOf).join('')}`, { mode: 0o600 })
    failed = false
  } catch (error) {
    failed = true
    console.error(`${new Date().toISOString()} the list of what was erased could not be written: ${(error as Error).message}`)
  }
}

/** What the list names and this database does not know to be erased: it was put back from a backup of before. */
export async function erasedBefore(): Promise<ErasureRow[]> {
  if (!listFile()) return []
  const known = new Set((await database().models.erasures.findAll({ attributes: ['refId'], raw: true })).map(({ refId }) => refId))
  return (await listed()).filter(({ refId }) => !known.has(refId))
}
