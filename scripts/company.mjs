// npm run company: the companies of this place, for whoever keeps the host. Works while the server runs.
//   (nothing)                          lists them
//   new     --name="…" --branch="…" --supply=na120|iec230 --timezone=Area/City --lead="…" --initials=XX --login=… [--licensed]
//   export  --company="…" --to=FOLDER  everything of one, as open files; --close: nobody works on here from now on, for a move
//                                     (--anyway: though somebody is at a panel)
//   import  --from=FOLDER              brings one here
//   moved   --company="…" --to=URL     says to its people where it works now
//   reopen  --company="…"              it works here after all
//   remove  --company="…" --really="…" removes every row of one, for good
import { randomBytes } from 'node:crypto'
import { existsSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { createJiti } from 'jiti'
import { needPackages, run, say, sleep, Stop } from './lib/host.mjs'

const [doing = 'list', ...options] = process.argv.slice(2)
const option = (name) => options.find((word) => word.startsWith(`--${name}=`))?.slice(name.length + 3) ?? ''
const place = option('place') || null
/** What each takes, and what it cannot do without. */
const takes = {
  list: [[], []],
  new: [['name', 'branch', 'supply', 'timezone', 'lead', 'initials', 'login'], ['licensed']],
  export: [
    ['company', 'to'],
    ['close', 'anyway'],
  ],
  import: [['from'], []],
  moved: [['company', 'to'], []],
  reopen: [['company'], []],
  remove: [['company', 'really'], []],
}
/** What was asked before the company was closed is answered within so long, ms. */
const answeredWithin = 15_000

function check() {
  const [needed, flags] = takes[doing] ?? []
  if (!needed) throw new Stop(`npm run company -- ${Object.keys(takes).join(' | ')}`)
  const missing = needed.filter((name) => !option(name))
  const unknown = options.filter((word) => {
    const name = /^--([a-z]+)(?:=.*)?$/s.exec(word)?.[1]
    return !name || !(name === 'place' || (word.includes('=') ? needed.includes(name) : flags.includes(name)))
  })
  if (unknown.length) throw new Stop(`Unknown option: ${unknown.join(' ')}.`)
  if (missing.length) throw new Stop(`Say ${missing.map((name) => `--${name}=…`).join(' ')}`)
}
/** Loaded once the packages are there. */
const askPassphrase = async () => (await import('./lib/passphrase.mjs')).askPassphrase('CIRCUITRY_COMPANY_PASSPHRASE', 'the folder')
const drawn = async () => (await import('./lib/passphrase.mjs')).newPassphrase((bytes) => randomBytes(bytes.length))
const counted = (count, one, many) => `${count} ${count === 1 ? one : many}`

/** Nobody works there any more, and there is a copy. */
function closedOne(company) {
  if (company.movedTo !== null) return company
  throw new Stop(`People work at ${company.name}. Take it out first, with  export --close. Nothing was changed.`)
}

const does = {
  async list({ companies }) {
    const all = await companies.companiesHere()
    const line = ({ id, name, people, homes, jobs, movedTo }) =>
      `  ${name}\n    ${counted(people, 'person', 'people')}, ${counted(homes, 'home', 'homes')}, ${counted(jobs, 'job', 'jobs')}   ${id}${movedTo === null ? '' : `\n    closed here${movedTo ? `, works at ${movedTo}` : ''}`}`
    say(all.length ? all.map(line).join('\n') : 'There is no company here yet.')
  },
  async new({ setup, contract }) {
    const password = await drawn()
    const asked = contract.setUp.body.omit({ code: true }).safeParse({
      ...{ company: option('name'), branch: option('branch'), schemeId: option('supply'), timezone: option('timezone') },
      person: {
        name: option('lead'),
        initials: option('initials'),
        login: option('login'),
        password,
        licensed: options.includes('--licensed'),
      },
    })
    if (!asked.success)
      throw new Stop(
        asked.error.issues.map(({ path, message }) => `${path.at(-1) ?? ''}: ${message}`.replace('schemeId', 'supply')).join('\n'),
      )
    await setup.addCompany(asked.data)
    say(
      `${asked.data.company} is here. Its lead ${asked.data.person.name} logs in as ${asked.data.person.login} with the password\n\n  ${password}\n\nShown once. Another one is set under Logins and password; people and branches are added under Settings.`,
    )
  },
  async export({ companies, files }) {
    const folder = resolve(option('to'))
    if (existsSync(folder)) throw new Stop(`${folder} is there already. Nothing is written over it.`)
    const company = await companies.companyCalled(option('company'))
    const closing = options.includes('--close') && company.movedTo === null
    if (closing) {
      const going = await companies.goingOnAt(company.id)
      if (going.length && !options.includes('--anyway'))
        throw new Stop(
          `Somebody is at work, and would see no tag on a screen until it is at the new place:\n\n${going.map((one) => `  ${one}`).join('\n')}\n\nWait until that has ended. Nothing was changed. --anyway: everybody there knows, and has looked at the panel.`,
        )
      await companies.closeHere(company.id, '')
      company.movedTo = ''
      say('Nobody works there from now on. Waiting for what was asked before …')
      await sleep(answeredWithin)
    }
    const write = async () => {
      const { sheet, keys } = await files.writeCompany(company, folder)
      const passphrase = await drawn()
      const { sealKeys } = await import('./lib/backup.mjs')
      writeFileSync(join(folder, 'keys.json'), `${JSON.stringify(sealKeys(keys, passphrase), null, 2)}\n`, { mode: 0o600, flag: 'wx' })
      return { sheet, passphrase }
    }
    const { sheet, passphrase } = await write().catch(async (error) => {
      if (closing) await companies.openHere(company.id)
      say(`${folder} is not whole: remove it.${closing ? ' The company works here again.' : ''}`)
      throw error
    })
    const rows = Object.values(sheet.tables).reduce((sum, table) => sum + table.rows, 0)
    say(
      `${company.name}: ${rows} rows and ${counted(sheet.pictures, 'picture', 'pictures')} in ${folder}\n\n  Its codes and passwords open with the passphrase  ${passphrase}\n\n  Write it down now: it is shown once. Names, addresses, notes and pictures can be read without it: keep the folder\n  as you keep a backup.${sheet.closed ? '' : '\n\n  People go on working here. For a move: --close.'}`,
    )
  },
  async import({ files, installation }) {
    const folder = resolve(option('from'))
    const { openKeys } = await import('./lib/backup.mjs')
    const { key, devices } = openKeys(join(folder, 'keys.json'), await askPassphrase())
    await installation.readInstallation()
    process.env.CIRCUITRY_OTHER_SECRET_KEYS = [process.env.CIRCUITRY_OTHER_SECRET_KEYS, key].filter(Boolean).join()
    const sheet = await files.readCompany(folder, devices)
    say(
      `${sheet.company.name} is here: its people log in with the logins and passwords that they have.\n\n  Links to visits, homes and calendars that were given out open nothing here: send them again. Offers open as before,\n  at this place’s address. A link to devices is paired again, unless this place has the address of the one before.${sheet.closed ? '' : '\n\n  It was written while people worked: what they recorded after it is not here.'}`,
    )
  },
  async moved({ companies }) {
    const to = option('to')
    if (!/^https?:\/\/[^\s/]+\/?$/.test(to) || to.length > 200)
      throw new Stop('Say with --to the address that people open, such as https://circuitry.example')
    const company = closedOne(await companies.companyCalled(option('company')))
    await companies.closeHere(company.id, to)
    say(`Whoever of ${company.name} comes here is told to open ${to}.`)
  },
  async reopen({ companies }) {
    const company = await companies.companyCalled(option('company'))
    if (company.movedTo === null) throw new Stop(`${company.name} works here.`)
    await companies.openHere(company.id)
    say(`${company.name} works here again. What was recorded elsewhere meanwhile is not here.`)
  },
  async remove({ companies }) {
    const company = closedOne(await companies.companyCalled(option('company')))
    if (option('really') !== company.name) throw new Stop(`Write its name once more: --really="${company.name}"`)
    const rows = await companies.removeCompany(company.id)
    say(`${company.name} is gone: ${rows} rows. Backups of before still have it.`)
  },
}

run(async () => {
  check()
  needPackages()
  const { databaseHere } = await import('./lib/mariadb.mjs')
  const database = await databaseHere(place)
  if (!database) throw new Stop('There is no database here yet: npm start makes one.')
  try {
    Object.assign(process.env, database.env)
    const jiti = createJiti(import.meta.url)
    const { closeDatabase, database: opened, needMigrated } = await jiti.import('../server/database/index.ts')
    try {
      await needMigrated(opened().sequelize)
      const of = (name) => jiti.import(`../server/services/${name}.ts`)
      await does[doing]({
        ...{ companies: await of('companies'), files: await of('company-files'), installation: await of('installation') },
        ...{ setup: await of('setup'), contract: await jiti.import('../core/protocol/company.ts') },
      })
    } finally {
      await closeDatabase()
    }
  } finally {
    await database.stop()
  }
})
