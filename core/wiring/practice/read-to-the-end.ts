import type { AsFoundBox, WireReading } from '../identify/found-box'
import { identify, type Findings } from '../identify/identify'
import { nextTest } from '../identify/next-test'
import type { BoxMeter } from '../simulated-meter'
import { practiceMeter, type PracticeBox } from './boxes'

export interface ReadBox {
  readings: WireReading[]
  findings: Findings
  found: boolean
}
/** Makes every test that is proposed at a box, as somebody would who trusts the proposals. */
export function readBox(box: AsFoundBox, meter: BoxMeter): ReadBox {
  const readings: WireReading[] = []
  let energised = false
  for (;;) {
    const advice = nextTest(box, readings, energised)
    if (advice.done) return { readings, findings: identify(box, readings), found: advice.found }
    energised = advice.next.energised
    for (const test of advice.next.tests) readings.push(meter.read(test))
  }
}
/** The same at a practice box, with its simulated meter. */
export const readToTheEnd = (box: PracticeBox, seed: number): ReadBox => readBox(box.found, practiceMeter(box, seed))
