// npm run test:diagnosis: the diagnosis on generated homes with one generated fault each, 2 % of the looks wrong.
// --boxes=N   --seed=N (default: a fresh one)
import { needPackages, say, Stop } from '../../lib/host.mjs'

needPackages()
const { loadCore } = await import('./bundle.mjs')
const { runDiagnosis } = await loadCore('core/wiring/testing/run-diagnosis.ts')
const option = (name, usual) => Number(process.argv.find((word) => word.startsWith(`--${name}=`))?.split('=')[1] ?? usual)
const seed = option('seed', Date.now() % 1_000_000)
const started = Date.now()
const tally = runDiagnosis(seed, option('boxes', 1000))
const share = (part) => `${part} of ${tally.faults}, ${((100 * part) / Math.max(1, tally.faults)).toFixed(1)} %`
say(`seed ${seed}, ${((Date.now() - started) / 1000).toFixed(0)} s: ${tally.boxes} homes, ${tally.faults} with a fault that shows`)
for (const times of [1, 3]) {
  say(`looked at ${times === 1 ? 'once ' : 'three times'}: first        ${share(tally.first[times])}`)
  say(`                    first three  ${share(tally.third[times])}`)
}
for (const note of tally.notes.slice(0, 20)) say(`  ${note}`)
if (tally.first[3] < 0.9 * tally.faults || tally.third[3] < 0.98 * tally.faults)
  throw new Stop('The diagnosis is not as good as it has to be.')
