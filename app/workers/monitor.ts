import {
  baselineOf,
  chooseMonitor,
  driftOf,
  readTrace,
  watch,
  type Alert,
  type Baseline,
  type ChosenMonitor,
  type Drift,
  type PowerTrace,
  type Rests,
} from '../../core/automation/monitor'
import { answers } from './answers'

/** What a motor takes, read from a table: its normal, and the lines at which somebody is told. */
export interface MonitorTalk {
  question: { text: string; falls: number; normal: Baseline | null }
  answer:
    | { problem: string }
    | {
        problem: null
        trace: PowerTrace
        left: number
        baseline: Baseline
        rests: Rests
        chosen: ChosenMonitor
        /** What would have been said during this very trace, had it been meant to be on. */
        alerts: Alert[]
        /** What it takes otherwise than what is on record as its normal. */
        drift: Drift | null
      }
}
/** Which healthy year the lines are chosen by: always the same, so that a trace gives the same lines everywhere. */
const seed = 1

answers<MonitorTalk>(({ text, falls, normal }) => {
  const read = readTrace(text)
  if (typeof read === 'string') return { problem: read }
  const found = baselineOf(read.trace)
  if (typeof found === 'string') return { problem: found }
  const { rests } = found
  const chosen = chooseMonitor(found.baseline, falls, seed, rests.byItself ? rests.longest : 0)
  if (typeof chosen === 'string') return { problem: chosen }
  const { at, watts } = read.trace
  const alerts = watch(
    at.map((one, index) => ({ at: one, watts: watts[index]!, on: true })),
    chosen.monitor,
  )
  return { problem: null, ...read, baseline: found.baseline, rests, chosen, alerts, drift: normal && driftOf(read.trace, normal) }
})
