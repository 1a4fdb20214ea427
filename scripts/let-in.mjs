// npm run let-in -- --login=NAME: a new password for a lead who has forgotten theirs, drawn here and shown once.
// For whoever keeps this host, when no other lead is left to do it under Settings. Works while the server runs.
import { randomBytes } from 'node:crypto'
import { createJiti } from 'jiti'
import { needPackages, run, say, Stop } from './lib/host.mjs'

const options = process.argv.slice(2)
const login = options.find((word) => word.startsWith('--login='))?.slice(8)
const company = options.find((word) => word.startsWith('--company='))?.slice(10) ?? null
const place = options.find((word) => word.startsWith('--place='))?.slice(8) ?? null
run(async () => {
  const unknown = options.filter((word) => !/^--(login|company|place)=/.test(word))
  if (unknown.length) throw new Stop(`Unknown option: ${unknown.join(' ')}. Known: --login=NAME --company=NAME`)
  needPackages()
  const { databaseHere } = await import('./lib/mariadb.mjs')
  const { newPassphrase } = await import('./lib/passphrase.mjs')
  const database = await databaseHere(place)
  if (!database) throw new Stop('There is no database here yet: nobody has a login.')
  try {
    Object.assign(process.env, database.env)
    const jiti = createJiti(import.meta.url)
    const { leadsHere, letLeadIn } = await jiti.import('../server/services/let-in.ts')
    const { closeDatabase } = await jiti.import('../server/database/index.ts')
    try {
      const password = newPassphrase((bytes) => randomBytes(bytes.length))
      const name = login ? await letLeadIn(login.toLowerCase(), password, company) : null
      if (!name) {
        const leads = (await leadsHere()).map((lead) => `  ${lead.login}  ${lead.name}, ${lead.company}`).join('\n')
        throw new Stop(`${login ? `No lead has the login “${login}”.` : 'Say whose: --login=NAME.'} Leads here:\n\n${leads || '  none'}\n`)
      }
      say(
        `${name} logs in as ${login.toLowerCase()} with the password\n\n  ${password}\n\nShown once. Another one is set under Logins and password. Every other login of theirs has ended.`,
      )
    } finally {
      await closeDatabase()
    }
  } finally {
    await database.stop()
  }
})
