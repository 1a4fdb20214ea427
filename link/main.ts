/**
 * npm run link: reaches the devices of a home from a laptop in its network, by the open home standard.
 *   --office=URL    where the company’s server is       --code=…   the one-time code from the settings, the first time
 *   --folder=DIR    what it keeps                        --name=…   what the office calls this laptop
 *   --stand-ins     a simulated home in this process, instead of the network
 */
import '@matter/main/platform'
import { join, resolve } from 'node:path'
import { Environment, Logger } from '@matter/general'
import { Link } from './link'
import { Dismissed, Office } from './office'
import { StandInHome } from './stand-ins/home'

const given = (name: string) => process.argv.find((option) => option.startsWith(`--${name}=`))?.slice(name.length + 3) ?? null
const pause = (ms: number) => new Promise((go) => setTimeout(go, ms))
const say = (words: string) => process.stdout.write(`${words}\n`)

async function main(): Promise<void> {
  const unknown = process.argv.slice(2).filter((option) => !/^--(office|code|folder|name)=.+$|^--stand-ins$/.test(option))
  if (unknown.length) throw new Error(`Unknown option: ${unknown.join(' ')}. Known: --office= --code= --folder= --name= --stand-ins`)
  const folder = resolve(given('folder') ?? '.circuitry/link')
  Logger.level = process.env.CIRCUITRY_LINK_LOG ?? 'fatal'
  Environment.default.vars.set('storage.path', join(folder, 'stand-ins'))
  const office = await Office.enter(folder, given('office') ?? 'http://127.0.0.1:4620', given('code'), given('name') ?? 'Laptop')
  const home = process.argv.includes('--stand-ins') ? await StandInHome.open(join(folder, 'stand-ins.json')) : null
  const link = new Link(folder, home)
  const ending = new AbortController()
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
    process.on(signal, () => {
      ending.abort()
      void link.close().finally(() => process.exit(0))
    })
  say(`The link is ready${home ? ', with stand-ins' : ''}.`)
  let away = false
  while (!ending.signal.aborted)
    try {
      await office.send()
      for (const task of await office.take(ending.signal)) void link.do(task).then((answer) => office.answer({ id: task.id, answer }))
      if (away) say('The office answers again.')
      away = false
    } catch (error) {
      if (error instanceof Dismissed) throw error
      if (ending.signal.aborted) return
      // What devices did meanwhile waits here.
      if (!away) say(`The office does not answer: ${error instanceof Error ? error.message : String(error)}`)
      away = true
      await pause(2_000)
    }
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`)
  process.exit(1)
})
