import { closeEverything, continuityMeter } from '../home'
import { outcomeOf, outcomeWords, readingWord } from '../identify/found-box'
import type { Fault } from '../model'
import { endOfJumper } from './connection-list'
import { deviceId, planPoint, type PlannedHome } from './plan'
import { tripWords } from './seen'

/** What the instruments show between two ends of the new wiring, in one row of the table. */
export interface Probed {
  words: string
  /** Null: it does not settle, so no reading is to be relied on. */
  shown: {
    /** Which breakers trip, in words; empty: none. */
    trips: string
    /** What a meter shows after that depends on which was quicker, or nothing is left that could feed it. */
    mute: boolean
    /** Volts of a low-impedance meter, and of a high-impedance one. */
    low: number
    high: number
    /** A non-contact tester at the first end. */
    lit: boolean
    /** Every breaker open, direct current; Infinity: open. */
    ohms: number
  } | null
}

/** The ends one can hold a probe to: conductors in this box, terminals of the devices, ground. */
export function probeEnds(home: PlannedHome): { value: string; label: string }[] {
  return [
    ...home.wiring.cables.flatMap((cable) => cable.cores.map((core) => ({ value: core.id, label: `${core.id} ${core.colour}` }))),
    ...home.devices.flatMap((device) =>
      device.model.terminals.map((name) => ({
        value: `${deviceId(device.gang)}:${name}`,
        label: endOfJumper(`${deviceId(device.gang)}:${name}`, home.devices.length),
      })),
    ),
    { value: 'REF', label: '{ground}' },
  ]
}

/**
 * Holds the probes to two ends in every row of the table, as planned or with faults.
 * @param a conductor, `part:terminal`, or REF for ground; the non-contact tester is held here
 */
export function probe(
  home: PlannedHome,
  rows: { positions: Record<string, number>; words: string }[],
  [a, b]: [string, string],
  faults: Fault[] = [],
): Probed[] {
  const wiring = { ...home.wiring, faults }
  const point = (end: string) => (end === 'REF' ? 'earth' : planPoint(end))
  const [first, second] = [point(a), point(b)]
  return rows.map(({ positions, words }) => {
    const ends = closeEverything(wiring, positions)
    const stands = ends[0]!.home
    if (!stands) return { words, shown: null }
    return {
      words,
      shown: {
        trips: tripWords(ends),
        mute: ends.length > 1 || stands.setting.closed.length === 0,
        low: stands.metered(first, second, 'low'),
        high: stands.metered(first, second, 'high'),
        lit: stands.contactless(first),
        ohms: continuityMeter(wiring, positions)(first, second),
      },
    }
  })
}

/** Would somebody with these instruments take both rows for the same? */
export function probedAlike(one: Probed, other: Probed, nominalVolts: number): boolean {
  const told = ({ shown }: Probed) =>
    shown && [
      shown.trips,
      shown.lit,
      outcomeOf('voltage', shown.low, nominalVolts),
      outcomeOf('voltageHigh', shown.high, nominalVolts),
      outcomeOf('continuity', shown.ohms, nominalVolts),
    ]
  return JSON.stringify(told(one)) === JSON.stringify(told(other))
}

/** One row in words: live, and dead. */
export function probedWords({ shown }: Probed, nominalVolts: number): { live: string; dead: string } {
  if (!shown) return { live: 'it does not settle: do not rely on any reading', dead: 'not predictable' }
  const dead = outcomeWords.continuity[outcomeOf('continuity', shown.ohms, nominalVolts)]!
  if (shown.mute) return { live: shown.trips, dead }
  const ghost = shown.high - shown.low > 0.1 * nominalVolts
  const volts = readingWord({ kind: 'voltage', value: shown.low })
  const meters = `${volts}${ghost ? ` (a high-impedance meter may show ${readingWord({ kind: 'voltage', value: shown.high })}, a ghost)` : ''}, non-contact tester ${shown.lit ? 'lit' : 'dark'}`
  return { live: [shown.trips, meters].filter(Boolean).join(', then '), dead }
}
