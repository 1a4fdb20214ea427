// npm run bench:link: how long devices of the open home standard take to join and to answer, and what the link takes for sixty.
// Ratios are against a baseline in the same run; everything is simulated in this process, devices included.
import { randomBytes } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { needPackages, root, say } from '../lib/host.mjs'
import { baseline } from './timed.mjs'

needPackages()
const { build } = await import('esbuild')
const file = join(root, '.circuitry', 'bench-link.mjs')
const contents = `import '@matter/main/platform'
  export { Environment, Logger } from '@matter/general'
  export { squareCode } from './core/testing/square-code'
  export { Link } from './link/link'
  export { StandInHome } from './link/stand-ins/home'`
await build({
  stdin: { contents, resolveDir: root, loader: 'ts' },
  bundle: true,
  format: 'esm',
  platform: 'node',
  packages: 'external',
  outfile: file,
})
const before = process.memoryUsage().rss
const { Environment, Logger, squareCode, Link, StandInHome } = await import(file)
rmSync(file)
Logger.level = 'fatal'
const folder = mkdtempSync(join(tmpdir(), 'circuitry-bench-'))
Environment.default.vars.set('storage.path', join(folder, 'stand-ins'))
const home = await StandInHome.open(null)
const link = new Link(folder, home)
const seal = randomBytes(32).toString('base64')
const card = (number) => squareCode(100 + number, 30_000_000 + number * 7919)
const kinds = ['switch', 'dimmer', 'fan', 'twoChannel', 'meteringRelay']
const around = (number) => ({
  ...{ powered: true, windowOpen: true, narrowBand: false, reset: false, kind: kinds[number % kinds.length] },
  ...{ serial: `B-${number}`, watts: [9] },
})
let tasks = 0
const ask = async (number, work) => {
  const started = performance.now()
  const answer = await link.do({ id: String(++tasks), jobId: 'bench', unitId: `u${number}`, seal, around: around(number), work })
  if (!answer.ok) throw new Error(`${work.do} of ${number}: ${answer.fault} ${answer.note}`)
  return { answer, ms: performance.now() - started }
}
const tell = (what, value, wanted, unit) =>
  say(
    `${value < wanted ? 'ok  ' : 'MISS'} ${what}: ${value.toFixed(unit === 's' ? 2 : 0)} ${unit} (wanted ${wanted}${unit === 'ms' ? `; ${(value / baseline).toFixed(2)} × the baseline of ${baseline.toFixed(0)} ms` : ''})`,
  )

await ask(0, { do: 'join', code: card(0) })
setFlagsFromString('--expose-gc')
const collect = runInNewContext('gc')
/** What is held, once nothing is left to be thrown away, bytes. */
const held = () => {
  collect()
  collect()
  const { heapUsed, external } = process.memoryUsage()
  return heapUsed + external
}
/** In the field there are devices in the walls, and none in this process. */
let byStandIns = 0
// The device is there already, as it is in a wall: only joining is measured.
const place = async (numbers) => {
  const without = held()
  await Promise.all(numbers.map((number) => home.surround(around(number), card(number))))
  byStandIns += held() - without
}
await place([1])
tell('one device joins, warm', (await ask(1, { do: 'join', code: card(1) })).ms / 1000, 3, 's')
await place([2, 3, 4, 5, 6])
let started = performance.now()
await Promise.all([2, 3, 4, 5, 6].map((number) => ask(number, { do: 'join', code: card(number) })))
tell('five join at once by their square codes', (performance.now() - started) / 1000, 8, 's')
for (let number = 7; number < 60; number += 4) {
  const some = [0, 1, 2, 3].map((more) => number + more).filter((one) => one < 60)
  await place(some)
  await Promise.all(some.map((one) => ask(one, { do: 'join', code: card(one) })))
}
const times = []
for (let round = 0; round < 4; round++)
  for (let number = 0; number < 60; number++) {
    const step = { checkId: 'on', endpoint: 1, on: round % 2 === 0, level: null, hears: false }
    const { answer } = await ask(number, { do: 'check', steps: [step] })
    times.push(answer.results[0].ms)
  }
times.sort((a, b) => a - b)
tell('sixty devices: control and read-back, 95 of 100 within', times[Math.floor(times.length * 0.95)], 100, 'ms')
held()
const whole = process.memoryUsage().rss
tell('sixty devices on one job: this process, without its stand-ins', (whole - byStandIns) / 2 ** 20, 450, 'MB')
say(`     with them ${(whole / 2 ** 20).toFixed(0)} MB; placing them took ${(byStandIns / 2 ** 20).toFixed(0)} MB, before they joined`)
say(`     before the library was loaded ${(before / 2 ** 20).toFixed(0)} MB`)
await Promise.race([link.close(), new Promise((resolve) => setTimeout(resolve, 5_000))])
rmSync(folder, { recursive: true, force: true })
process.exit(0)
