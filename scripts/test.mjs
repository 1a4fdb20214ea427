// npm test: everything. Lint, types, unit tests, a fresh database, the built server, the API and the browser journeys.
// Ends with the line "N passed, N failed, N skipped".   --only=unit | --only=e2e for a part; --grep=WORDS for some journeys.
import { createServer } from 'node:http'
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { stripVTControlCharacters } from 'node:util'
import { find, freePort, isOurs, needBuild, needPackages, needProgram, root, runNode, say, spawnSync, stateDir, Stop } from './lib/host.mjs'
import { startMariadb } from './lib/mariadb.mjs'
import { startStandIns } from './lib/link.mjs'
import { startServer } from './lib/server.mjs'

const only = process.argv.find((option) => option.startsWith('--only='))?.slice(7) ?? 'all'
const grep = process.argv.find((option) => option.startsWith('--grep='))?.slice(7)
const total = { passed: 0, failed: 0, skipped: 0 }
const reports = join(stateDir, 'reports')
const bin = (name) => join(root, 'node_modules', name)

const secondsSince = (started) => `${Math.round((Date.now() - started) / 1000)} s`

async function check(name, args, env = {}) {
  const started = Date.now()
  const result = await runNode(args, env)
  const good = result.status === 0
  total[good ? 'passed' : 'failed']++
  say(`${good ? 'ok  ' : 'FAIL'} ${name} (${secondsSince(started)})`)
  if (!good) say(`${result.stdout}\n${result.stderr}`)
}

async function jest(projects, env = {}) {
  const file = join(reports, `jest-${projects.join('-')}.json`)
  rmSync(file, { force: true })
  const started = Date.now()
  const args = ['--experimental-vm-modules', '--no-warnings', bin('jest/bin/jest.js'), '--selectProjects', ...projects]
  // A machine that builds and tests at once is slow, not wrong.
  const result = await runNode([...args, '--json', `--outputFile=${file}`, '--forceExit', '--testTimeout=60000'], env)
  let report = null
  try {
    report = JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    total.failed++
    say(`FAIL ${projects.join(', ')}: no report\n${result.stderr}`)
    return
  }
  total.passed += report.numPassedTests
  // A suite that could not be run at all has no failed tests to count.
  total.failed += report.numFailedTests + report.numRuntimeErrorTestSuites
  total.skipped += report.numPendingTests + report.numTodoTests
  const counts = `${report.numPassedTests} passed, ${report.numFailedTests} failed`
  say(`${report.success ? 'ok  ' : 'FAIL'} ${projects.join(', ')}: ${counts} (${secondsSince(started)})`)
  if (!report.success) say(result.stderr)
}

/** npm start and npm test load where nothing is installed yet. */
async function bareMachine() {
  const { packagesNeededAtLoad } = await import('./testing/bare-machine.mjs')
  const found = packagesNeededAtLoad()
  total[found.length ? 'failed' : 'passed']++
  say(`${found.length ? 'FAIL' : 'ok  '} scripts load before packages are installed${found.map((one) => `\n     ${one}`).join('')}`)
}

/** A second program leaves the database that one has open alone, and says who has it. */
async function openDatabaseIsLeftAlone(database) {
  const program =
    "import('./scripts/lib/mariadb.mjs').then(({ startMariadb }) => startMariadb('test')).catch(({ message }) => console.log(message))"
  const result = await runNode(['--input-type=module', '-e', program])
  const good = result.stdout.includes(`Process ${process.pid} is using`) && isOurs(database.pid, 'mariadbd')
  total[good ? 'passed' : 'failed']++
  say(`${good ? 'ok  ' : 'FAIL'} a database that is in use is left alone${good ? '' : `\n${result.stdout}${result.stderr}`}`)
}

/** What the glossary has retired is written nowhere any more. */
async function retiredWords() {
  const { bareTradeWords, retiredWordsFound } = await import('./testing/words.mjs')
  const found = [
    ...retiredWordsFound().map((one) => `retired: ${one}`),
    ...bareTradeWords().map((one) => `word of one supply, not from the table: ${one}`),
  ]
  total[found.length ? 'failed' : 'passed']++
  say(`${found.length ? 'FAIL' : 'ok  '} words of the glossary${found.map((one) => `\n     ${one}`).join('')}`)
}

/** Each rule of core/site switched off must hurt the simulated crew; a rule whose absence nobody notices is not tested. */
async function rulesSwitchedOff({ playMutants }) {
  const results = await playMutants({ seed: 1, steps: 600_000 })
  for (const { name, caught, error } of results) {
    total[caught ? 'passed' : 'failed']++
    if (!caught) say(`FAIL without the rule nobody is hurt: ${name}${error ? ` (${error})` : ''}`)
  }
  say(
    `${results.every((result) => result.caught) ? 'ok  ' : 'FAIL'} rules switched off: ${results.length}, noticed: ${results.filter((result) => result.caught).length}`,
  )
}

/** The faults that need nothing killed; npm run test:faults plays them all. */
async function faults(urls, env) {
  const { besideFaults, inTurnFaults, loneFaults } = await import('./testing/faults/quick.mjs')
  await Promise.all([play(inTurnFaults, urls, env), play(besideFaults, urls, env)])
  await play(loneFaults, urls, env)
}
async function play(list, urls, env) {
  for (const [what, fault] of list) {
    const { wrong, skipped } = await fault(urls, env).catch((error) => ({ wrong: [error.message] }))
    if (skipped) {
      total.skipped++
      say(`SKIP ${what}: ${skipped}`)
      continue
    }
    total[wrong.length === 0 ? 'passed' : 'failed']++
    say(`${wrong.length === 0 ? 'ok  ' : 'FAIL'} ${what}`)
    for (const sentence of wrong) say(`     ${sentence}`)
  }
}

/** Where the time of the journeys goes. */
function slowest(report) {
  const files = (report.suites ?? []).map((suite) => {
    const walk = (one) => [...(one.suites ?? []).flatMap(walk), ...(one.specs ?? [])]
    const ms = walk(suite).reduce((sum, spec) => sum + spec.tests.reduce((all, test) => all + (test.results[0]?.duration ?? 0), 0), 0)
    return { file: suite.file, ms }
  })
  return files.sort((a, b) => b.ms - a.ms).map(({ file, ms }) => `     ${file} ${Math.round(ms / 1000)} s`)
}
const failures = []
/** Each failed journey with the first lines of why. */
function failuresIn(report) {
  const walk = (suite) => [...(suite.suites ?? []).flatMap(walk), ...(suite.specs ?? [])]
  return (report.suites ?? [])
    .flatMap(walk)
    .filter((spec) => !spec.ok)
    .map((spec) => {
      const errors = spec.tests.flatMap((test) => test.results.flatMap((result) => result.errors ?? []))
      const why = stripVTControlCharacters(errors[0]?.message ?? '')
        .split('\n')
        .filter(Boolean)
        .slice(0, 6)
        .join('\n     ')
      const at = errors[0]?.location ? `${errors[0].location.file.split('/').pop()}:${errors[0].location.line}` : ''
      return `FAIL ${spec.title} (${at})\n     ${why}`
    })
}

const format = () =>
  check('format', [
    bin('prettier/bin/prettier.cjs'),
    '--check',
    'core/**/*.ts',
    'server/**/*.ts',
    'link/**/*.ts',
    'app/**/*.{ts,vue,css}',
    'e2e/**/*.ts',
    'scripts/**/*.mjs',
    '*.{ts,mjs}',
  ])
const typescript = [bin('typescript/bin/tsc')]
const typesOfCore = () => check('types of core and link, and of their tests', [...typescript, '-p', 'tsconfig.core.json'])
const typesOfServer = () => check('types of the server', [...typescript, '--noEmit', '-p', '.nuxt/tsconfig.server.json'])
async function staticChecks() {
  await check('types for the editor and the linter', [bin('nuxt/bin/nuxt.mjs'), 'prepare', '--logLevel=silent'])
  await check('lint, with the layer rule', [bin('eslint/bin/eslint.js'), '.', '--max-warnings=0'])
  await check('imports: no circle, no arrow back up', [
    bin('dependency-cruiser/bin/dependency-cruise.mjs'),
    ...['core', 'app', 'server', 'link', 'e2e', '--config', '.dependency-cruiser.cjs'],
  ])
  await typesOfServer()
  await check('types of the pages', [bin('vue-tsc/bin/vue-tsc.js'), '--noEmit', '-p', '.nuxt/tsconfig.app.json'])
  for (const part of ['node', 'shared'])
    await check(`types of the build: ${part}`, [...typescript, '--noEmit', '-p', `.nuxt/tsconfig.${part}.json`])
}
async function unitTests(env) {
  await jest(['core'])
  await jest(['server'], env)
}

/** What one worker of the journeys has for itself: a server with the demo, and one that begins empty. */
async function serversOf(set, database, servers) {
  const name = (what) => (set ? `${what}_${set + 1}` : what)
  const named = (databaseName) => ({ ...database.env, CIRCUITRY_DB_NAME: databaseName })
  const [full, empty] = set ? [named(name('circuitry_demo')), named(name('circuitry_empty'))] : [database.env, named('circuitry_empty')]
  for (const { CIRCUITRY_DB_NAME } of [full, empty])
    spawnSync(needProgram('mariadb', ['mariadb-client']), [
      '--no-defaults',
      '-h127.0.0.1',
      `-P${database.port}`,
      `-u${database.env.CIRCUITRY_DB_USER}`,
      `-p${database.env.CIRCUITRY_DB_PASSWORD}`,
      '-e',
      `CREATE DATABASE IF NOT EXISTS ${CIRCUITRY_DB_NAME} CHARACTER SET utf8mb4`,
    ])
  const code = `journeys ${set} ${process.pid}`
  const port = await freePort()
  const erasures = join(stateDir, `test-erasures-${set}.jsonl`)
  rmSync(erasures, { force: true })
  const start = () =>
    startServer({ port, env: { ...full, CIRCUITRY_ERASURES: erasures, CIRCUITRY_SEED: 'demo', CIRCUITRY_LINK_CODE: code }, quiet: true })
  const demo = await start()
  servers.push(demo)
  // The same place in the list: whatever runs there is stopped with the rest.
  const again = async () => {
    await demo.stop()
    Object.assign(demo, await start())
  }
  const folder = join(stateDir, 'test-link', String(set))
  rmSync(folder, { recursive: true, force: true })
  servers.push(await startStandIns({ office: demo.url, folder, code }))
  const bare = await startServer({
    port: await freePort(),
    env: { ...empty, CIRCUITRY_SEED: '', CIRCUITRY_SETUP_CODE: 'Kelp-7' },
    quiet: true,
  })
  servers.push(bare)
  return { demo, again, bare, database: full }
}

/** A door for journeys: POST /0 restarts the server of the first worker. */
function restarts(sets) {
  const door = createServer((request, response) => {
    const set = request.method === 'POST' && sets[Number(request.url?.slice(1))]
    const answer = (status, words) => response.writeHead(status).end(words)
    if (set)
      set.again().then(
        () => answer(200, ''),
        (error) => answer(500, String(error)),
      )
    else answer(404, 'no such server')
  })
  return new Promise((resolve) =>
    door.listen(0, '127.0.0.1', () => resolve({ url: `http://127.0.0.1:${door.address().port}`, close: () => door.close() })),
  )
}

async function playwright(env) {
  const file = join(reports, 'playwright.json')
  rmSync(file, { force: true })
  const result = await runNode([bin('@playwright/test/cli.js'), 'test', ...(grep ? ['--grep', grep] : [])], {
    ...env,
    PLAYWRIGHT_JSON_OUTPUT_NAME: file,
  })
  try {
    const { stats } = JSON.parse(readFileSync(file, 'utf8'))
    total.passed += stats.expected
    total.failed += stats.unexpected + stats.flaky
    total.skipped += stats.skipped
    say(`${result.status === 0 ? 'ok  ' : 'FAIL'} journeys: ${stats.expected} passed, ${stats.unexpected + stats.flaky} failed`)
    if (result.status !== 0) say(result.stdout)
    for (const line of new Set(result.stderr.split('\n').filter((one) => one.startsWith('no frame for')))) say(line)
    for (const line of slowest(JSON.parse(readFileSync(file, 'utf8')))) say(line)
    // The reasons once more, short, where nobody has to look for them.
    for (const line of failuresIn(JSON.parse(readFileSync(file, 'utf8')))) failures.push(line)
  } catch {
    total.failed++
    say(`FAIL journeys: no report\n${result.stdout}\n${result.stderr}`)
  }
}

/** How much of the code is tests: what tests use and nothing else does, too. */
function share() {
  const lines = (file) => readFileSync(join(root, file), 'utf8').split('\n').length
  const isTest = (file) => /(^|\/)(testing|e2e)\/|\.test\.ts$/.test(file)
  const count = { tests: 0, all: 0 }
  for (const folder of ['core', 'server', 'app', 'link', 'scripts', 'e2e'])
    for (const name of readdirSync(join(root, folder), { recursive: true })) {
      const file = `${folder}/${name}`
      if (!/\.(ts|vue|mjs)$/.test(file)) continue
      const size = lines(file)
      count.all += size
      if (isTest(file)) count.tests += size
    }
  say(`tests are ${((100 * count.tests) / count.all).toFixed(1)} % of ${count.all} lines`)
}

async function main() {
  mkdirSync(reports, { recursive: true })
  needPackages()
  let database = null
  const servers = []
  const stopAll = async () => {
    for (const server of servers.splice(0).reverse()) await server.stop()
    await database?.stop()
  }
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void stopAll().then(() => process.exit(130)))
  try {
    if (only !== 'e2e') {
      await retiredWords()
      await bareMachine()
      share()
    }
    database = await startMariadb('test', { fresh: true, fast: true })
    await openDatabaseIsLeftAlone(database)
    // Every answer that a journey or an API test gets is held to its contract.
    database.env.CIRCUITRY_CHECK_ANSWERS = '1'
    // Hundreds of logins: what a password costs is tried by its own tests.
    database.env.CIRCUITRY_SCRYPT = 'ln=14,r=8,p=1'
    // Two cores: what reads the sources on one, what runs them on the other, and the rest by whoever is done first.
    const rest = only === 'e2e' ? [] : [async () => rulesSwitchedOff(await import('./testing/safety/check.mjs')), format, typesOfCore]
    const takeFromRest = async () => {
      for (let next = rest.shift(); next; next = rest.shift()) await next()
    }
    const read = async () => {
      if (only !== 'e2e') await staticChecks()
      process.env.CIRCUITRY_QUICK_BUILD ??= '1'
      if (only !== 'unit') await needBuild()
      if (only !== 'e2e') await jest(['app'])
      await takeFromRest()
    }
    // The link’s tests wait for devices for the most part: beside either.
    const link = async () => {
      if (only !== 'e2e') await jest(['link'])
    }
    const run = async () => {
      if (only === 'e2e') return
      await unitTests(database.env)
      await takeFromRest()
    }
    await Promise.all([read(), run(), link()])
    if (only !== 'unit') {
      const sets = await Promise.all(Array.from({ length: grep ? 1 : 2 }, (_, set) => serversOf(set, database, servers)))
      const [{ demo, database: env }] = sets
      // A second server on the same data: what one commits the other's clients must see.
      const twin = await startServer({ port: await freePort(), env, quiet: true })
      servers.push(twin)
      if (!grep) await faults([demo.url, twin.url], env)
      if (!grep) await jest(['api'], { ...env, CIRCUITRY_TEST_URL: demo.url, CIRCUITRY_SECOND_URL: twin.url })
      const door = await restarts(sets)
      await playwright({
        CIRCUITRY_TEST_RESTART: door.url,
        CIRCUITRY_TEST_URLS: sets.map((set) => set.demo.url).join(),
        CIRCUITRY_EMPTY_URLS: sets.map((set) => set.bare.url).join(),
        // The same browser without its windows: less to draw, where Debian has it.
        CIRCUITRY_CHROMIUM: find('chromium-headless-shell') ?? needProgram('chromium', ['chromium']),
      })
      door.close()
    }
  } finally {
    await stopAll()
  }
}

main()
  .catch((error) => {
    total.failed++
    process.stderr.write(`\n${error instanceof Stop ? error.message : error.stack}\n`)
  })
  .finally(() => {
    writeFileSync(join(reports, 'total.json'), JSON.stringify(total))
    for (const failure of failures) say(failure)
    say(`\n${total.passed} passed, ${total.failed} failed, ${total.skipped} skipped`)
    process.exit(total.failed > 0 ? 1 : 0)
  })
