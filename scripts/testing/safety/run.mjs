// npm run test:safety: the simulated crew for a million steps and more, with every kind of story on purpose, then every
// rule switched off.   --steps=N   --seed=N (default: a fresh one)
import { needPackages, say } from '../../lib/host.mjs'

needPackages()
const { loadSimulator } = await import('./bundle.mjs')
const { mutants } = await import('./mutants.mjs')
const { playMutants } = await import('./check.mjs')
const option = (name, usual) => Number(process.argv.find((word) => word.startsWith(`--${name}=`))?.split('=')[1] ?? usual)
const steps = option('steps', 1_000_000)
const seed = option('seed', Date.now() % 1_000_000)

const started = Date.now()
const { simulate } = await loadSimulator(null)
const foci = [...new Map(mutants.map(({ focus = {} }) => [JSON.stringify(focus), focus])).values()]
const counted = ['touches', 'offlineTouches', 'granted', 'moments', 'commands', 'proofs', 'inVain']
const total = { steps: 0, hands: 0, harms: 0, deadlocks: 0, ...Object.fromEntries(counted.map((name) => [name, 0])) }
/** Plays one kind of world and says what came of it; harms and deadlocks count in any case. */
function play(where, focus, share) {
  const report = simulate({ seed, steps: share, focus })
  total.deadlocks += report.deadlocks.length
  for (const [what, { count, seed: at }] of Object.entries(report.harms)) {
    total.harms += count
    if (what.startsWith('HAND')) total.hands += count
    say(`HARM ${what}: ${count} (${where}, episode seed ${at})`)
  }
  for (const { seed: at, what } of report.deadlocks) say(`STUCK (${where}, episode seed ${at}): ${what}`)
  const { touches = 0, granted = 0, moments = 0, proofs = 0, inVain = 0 } = report.counts
  say(`${where}: ${touches} hands in, ${granted} closed, ${moments} moments, ${proofs} proofs, ${inVain} ended in vain`)
  return report
}
for (const focus of foci) {
  const share = Math.ceil(Object.keys(focus).length === 0 ? steps / 2 : steps / 2 / (foci.length - 1))
  const report = play(`focus ${JSON.stringify(focus)}`, focus, share)
  total.steps += report.steps
  for (const name of counted) total[name] += report.counts[name] ?? 0
}
// Floating grounds, timers, a shifted neutral, batteries, narrow meters, the office and licences came with the second edition.
const first = {
  odd: { groundFloats: 0, timer: 0, shift: 0, battery: 0, everyPair: 0, narrowMeter: 0 },
  events: { office: 0, licence: 0, timer: 0, battery: 0 },
}
const plainSteps = Math.min(steps, 600_000)
play(`plain worlds, ${plainSteps} steps`, first, plainSteps)
say(`seed ${seed}, ${((Date.now() - started) / 1000).toFixed(0)} s`)
say(`steps                              ${total.steps}`)
say(`hands on energised conductors      ${total.hands}`)
say(`other harms                        ${total.harms - total.hands}`)
say(`deadlocks                          ${total.deadlocks}`)
say(`hands in boxes                     ${total.touches}, ${total.offlineTouches} of them without network`)
say(`breakers closed with a permit         ${total.granted}, ${total.moments} of them for a moment`)
say(`proofs of a box                    ${total.proofs}`)
say(`ended with nothing live behind     ${total.inVain} (${((100 * total.inVain) / Math.max(1, total.proofs)).toFixed(1)} %)`)
say(`commands                           ${total.commands}`)

const results = await playMutants({ seed: 1, steps: 600_000 })
for (const { name, caught, steps: after, error } of results)
  say(`${caught ? 'caught ' : 'ESCAPED'} ${name}: ${error ?? caught ?? '–'} (${after} steps)`)
const escaped = results.filter((result) => !result.caught).length
say(`rules switched off                 ${results.length}, caught ${results.length - escaped}`)
process.exit(total.harms + total.deadlocks + escaped > 0 ? 1 : 0)
