import type { WireReading } from '../identify/found-box'
import { identify, type Findings } from '../identify/identify'
import { nextTest } from '../identify/next-test'
import { practiceMeter, type PracticeBox } from './boxes'

/** Makes every test that is proposed at a practice box, with the simulated meter, as somebody would who trusts the proposals. */
export function readToTheEnd(box: PracticeBox, seed: number): { readings: WireReading[]; findings: Findings; found: boolean } {
  const meter = practiceMeter(box, seed)
  const readings: WireReading[] = []
  let energised = false
  for (;;) {
    const advice = nextTest(box.found, readings, energised)
    if (advice.done) return { readings, findings: identify(box.found, readings), found: advice.found }
    energised = advice.next.energised
    for (const test of advice.next.tests) readings.push(meter.read(test))
  }
}
