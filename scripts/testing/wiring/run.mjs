// npm run test:wiring: the identification of conductors on 10,000 generated boxes, read with noise and mistakes, more than a fifth
// of them wired as nobody would; then plans, as proposed and as somebody spoiled them, carried out in the truly wired homes.
// --boxes=N   --plans=N   --seed=N (default: a fresh one)   --usual (the dozen usual ways only)
import { needPackages, say, Stop } from '../../lib/host.mjs'

needPackages()
const { loadCore } = await import('./bundle.mjs')
const { median, quantile, runTrials, makeTrialBox, makeWiderBox, runPlanTrials } = await loadCore('core/wiring/testing/index.ts')
const option = (name, usual) => Number(process.argv.find((word) => word.startsWith(`--${name}=`))?.split('=')[1] ?? usual)
const usual = process.argv.includes('--usual')
const seed = option('seed', Date.now() % 1_000_000)
const started = Date.now()
const seconds = () => `${((Date.now() - started) / 1000).toFixed(0)} s`
const tally = runTrials(seed, option('boxes', 10_000), usual ? 0.12 : 0.22, usual ? makeTrialBox : makeWiderBox)
const share = (part, whole) => `${part} of ${whole}, ${((100 * part) / Math.max(1, whole)).toFixed(2)} %`
say(`seed ${seed}, ${seconds()}`)
say(`boxes                                          ${tally.boxes}, ${tally.outside} of them wired as nobody would`)
say(`wrong line or neutral called established       ${tally.wrong} (boxes with at most one wrong reading)`)
say(`  the same in boxes with more wrong readings   ${tally.wrongWithMore} (${tally.withMore} such boxes)`)
say(`other conductors called what they are not      ${tally.wrongOther}`)
say(`stopped where nothing of the list fits         ${share(tally.stopped, tally.outside)}`)
say(`every role told that a meter can tell          ${share(tally.insideDone, tally.inside)} boxes`)
say(`stopped although it is of the list             ${share(tally.insideStopped, tally.inside)}`)
say(`energised periods                              median ${median(tally.periods)}, most ${Math.max(...tally.periods)}`)
say(
  `readings                                       median ${median(tally.readings)}, nine of ten ${quantile(tally.readings, 0.9)}, most ${Math.max(...tally.readings)}`,
)
say(`readings above 1.5 for each conductor          median ${median(tally.readingsOver)}`)
for (const note of tally.notes.slice(0, 20)) say(`  ${note}`)

const plans = runPlanTrials(seed, option('plans', 1_000))
say(`\nplans judged                                   ${plans.plans} in ${plans.boxes} homes, ${seconds()} in all`)
say(`nothing said against, and wrong in the home    ${plans.wrong.length} of ${plans.passed}`)
say(`proposals that nothing is said against         ${share(plans.proposalsPassed, plans.boxes)}`)
say(`refused although it would have done            ${share(plans.refused.length, plans.plans)}`)
for (const note of plans.wrong.slice(0, 20)) say(`  ${note}`)

const good =
  tally.wrong === 0 &&
  tally.stopped === tally.outside &&
  tally.insideDone >= 0.97 * tally.inside &&
  median(tally.periods) <= 1 &&
  median(tally.readingsOver) <= 4 &&
  plans.wrong.length === 0
if (!good) throw new Stop('The bench is not as good as it has to be.')
