// npm run test:wiring: the identification of conductors on 10,000 generated boxes, read with noise and mistakes, some of them
// wired as nobody would.   --boxes=N   --seed=N (default: a fresh one)
import { needPackages, say, Stop } from '../lib/host.mjs'

needPackages()
const { loadCore } = await import('./bundle.mjs')
const { median, runTrials } = await loadCore('core/wiring/trials/run-trials.ts')
const option = (name, usual) => Number(process.argv.find((word) => word.startsWith(`--${name}=`))?.split('=')[1] ?? usual)
const boxes = option('boxes', 10_000)
const seed = option('seed', Date.now() % 1_000_000)
const started = Date.now()
const tally = runTrials(seed, boxes)
const share = (part, whole) => `${part} of ${whole}, ${((100 * part) / Math.max(1, whole)).toFixed(2)} %`
say(`seed ${seed}, ${((Date.now() - started) / 1000).toFixed(0)} s`)
say(`boxes                                          ${tally.boxes}, ${tally.outside} of them wired as nobody would`)
say(`wrong line or neutral called established       ${tally.wrong} (boxes with at most one wrong reading)`)
say(`  the same in boxes with more wrong readings   ${tally.wrongWithMore} (${tally.withMore} such boxes)`)
say(`stopped where nothing of the list fits         ${share(tally.stopped, tally.outside)}`)
say(`every role told that a meter can tell          ${share(tally.insideDone, tally.inside)} boxes`)
say(`stopped although it is of the list             ${share(tally.insideStopped, tally.inside)}`)
say(`energised periods                              median ${median(tally.periods)}, most ${Math.max(...tally.periods)}`)
say(`readings                                       median ${median(tally.readings)}, most ${Math.max(...tally.readings)}`)
for (const note of tally.notes.slice(0, 20)) say(`  ${note}`)
const good =
  tally.wrong === 0 && tally.stopped >= 0.99 * tally.outside && tally.insideDone >= 0.95 * tally.inside && median(tally.periods) <= 1
if (!good) throw new Stop('The identification is not as good as it has to be.')
