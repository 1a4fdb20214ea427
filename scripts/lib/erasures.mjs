// The list of what was erased, outside the database: ids and times. Servers write it, and play it where a backup of before was put back.
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { stateDir } from './host.mjs'

/** Where the servers of this host keep it: beside the data, not in it. */
export const erasuresHere = () => process.env.CIRCUITRY_ERASURES ?? join(stateDir, 'erasures.jsonl')
/** Where it lies beside the backups of a folder. */
export const erasuresBeside = (folder) => join(folder, 'erasures.jsonl')

function linesOf(file) {
  if (!existsSync(file)) return []
  return readFileSync(file, 'utf8')
    .split('\n')
    .flatMap((text) => {
      try {
        const line = JSON.parse(text)
        return typeof line?.id === 'string' ? [{ id: line.id, text }] : []
      } catch {
        // Cut off while it was written.
        return []
      }
    })
}
/** Adds lines that a list lacks: it is there as before, or with all of them. @returns how many were added */
function addTo(file, lines) {
  const here = linesOf(file)
  const known = new Set(here.map(({ id }) => id))
  const fresh = lines.filter(({ id }) => !known.has(id))
  if (!fresh.length) return 0
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 })
  writeFileSync(`${file}.part`, [...here, ...fresh].map(({ text }) => `${text}\n`).join(''), { mode: 0o600 })
  renameSync(`${file}.part`, file)
  return fresh.length
}
/** What one list says the other says, too. @returns how many lines were added */
export const addList = (from, to) => addTo(to, linesOf(from))

/** Writes what a database knows to be erased beside its backups. @param connection of a driver */
export async function listBeside(connection, folder) {
  const [tables] = await connection.query("SHOW TABLES LIKE 'erasures'")
  // One that is not brought up to date yet.
  if (!tables.length) return 0
  const [rows] = await connection.query(
    "SELECT id, company_id AS companyId, kind, ref_id AS refId, job_id AS jobId, person_id AS personId, DATE_FORMAT(at, '%Y-%m-%dT%H:%i:%s.') AS second, LPAD(MICROSECOND(at) DIV 1000, 3, '0') AS ms FROM erasures ORDER BY at, id",
  )
  return addTo(
    erasuresBeside(folder),
    rows.map(({ second, ms, ...row }) => ({ id: row.id, text: JSON.stringify({ ...row, at: `${second}${ms}Z` }) })),
  )
}
