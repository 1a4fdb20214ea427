import { outcomeOf, testKey, type WireReading } from './found-box'

export interface Weighed {
  test: WireReading
  outcome: number
  /** How often it was read, less the times it was read otherwise. */
  count: number
}
/**
 * Readings that count. What was read twice counts twice; a test that was read one way and then another says nothing until a
 * third reading decides: the newest may be the wrong one.
 */
export function weighReadings(readings: WireReading[], nominalVolts: number): { weighed: Weighed[]; undecided: WireReading[] } {
  const byKey = new Map<string, { test: WireReading; outcomes: Map<number, number> }>()
  for (const reading of readings) {
    const key = testKey(reading)
    const known = byKey.get(key) ?? { test: reading, outcomes: new Map<number, number>() }
    byKey.set(key, known)
    const outcome = outcomeOf(reading.kind, reading.value, nominalVolts)
    known.outcomes.set(outcome, (known.outcomes.get(outcome) ?? 0) + 1)
    if ([...known.outcomes].every(([other, count]) => other === outcome || count < known.outcomes.get(outcome)!)) known.test = reading
  }
  const weighed: Weighed[] = []
  const undecided: WireReading[] = []
  for (const { test, outcomes } of byKey.values()) {
    const [first, second] = [...outcomes].sort((a, b) => b[1] - a[1])
    const count = first![1] - (second?.[1] ?? 0)
    if (count > 0) weighed.push({ test, outcome: first![0], count })
    else undecided.push(test)
  }
  return { weighed, undecided }
}
