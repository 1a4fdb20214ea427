import type { CircuitReadings } from './circuit.schema'
import type { curves, LoopShare } from './words'

/** Volts from line to earth, and the share of the limit that a cold circuit may show. */
export interface LoopRule {
  volts: number
  /** Conductors are warmer in use than when they are measured: 2/3 by the annex of IEC 60364-6, 0.8 by a common rule of thumb. */
  share: number
}
const shares: Record<LoopShare, number> = { annex: 2 / 3, fourFifths: 0.8 }
export const loopRuleOf = (share: LoopShare): LoopRule => ({ volts: 230, share: shares[share] })
/** The annex of IEC 60364-6: the safer of the two. */
export const annexRule = loopRuleOf('annex')

/** A circuit breaker trips at once at so many times its rating at the latest (IEC 60898-1, table 7: B 3 to 5, C 5 to 10, D 10 to 20). */
const tripsAt: Record<(typeof curves)[number], number> = { B: 5, C: 10, D: 20 }
/** IEC 60364-6, table 6A: circuits of up to 500 V, MΩ. */
export const insulationLeast = 1
/** IEC 61008-1 and IEC 61009-1, table 1, milliseconds: at the rated current, and at five times. */
const residualLimits = { general: { atOne: [0, 300], atFive: [0, 40] }, delayed: { atOne: [130, 500], atFive: [50, 150] } } as const
/** A residual device needs no more than this to trip at once (IEC 60364-4-41, 411.4.4: five times its rated current). */
const residualTimes = 5
/** An earth of more than this may not stay what it was on the day it was measured (BS 7671, note to table 41.5; from memory). */
const steadyOhms = 200
/** More is no copper: line and protective conductor of 1 mm² have 5 Ω at 140 m. */
const wireOhms = 5

export interface VerificationLine {
  id: 'continuity' | 'insulation' | 'polarity' | 'loop' | 'atOne' | 'atFive' | 'button' | 'plausible'
  text: string
  /** As it was read; empty: not measured. */
  read: string
  limit: string
  result: 'pass' | 'fail' | 'missing'
  /** It may stay unmeasured. */
  optional?: true
  /** What it rests on, or what to do. */
  why: string
}
const said = (value: number) => String(Number(value.toPrecision(value < 10 ? 3 : 4)))
const ohms = (value: number) => `${said(value)} Ω`

/** The largest loop impedance a circuit may show when it is measured, ohms; null: its device has to be looked up. */
export function loopLimit(
  { curve, amps, lookedUp }: Pick<CircuitReadings, 'curve' | 'amps' | 'lookedUp'>,
  { volts, share }: LoopRule,
): number | null {
  const trips = curve ? tripsAt[curve] * amps : lookedUp
  return trips === null ? null : (share * volts) / trips
}

/**
 * Judges the readings of one circuit: continuity, insulation, polarity, loop and residual device, in the order in which they are
 * measured. Local rules and the licensed person decide.
 */
export function judgeCircuit(readings: CircuitReadings, rule: LoopRule): VerificationLine[] {
  const { curve, amps, continuity, insulation, insulationVolts, devicesIn, polarity, loop, residual } = readings
  const byBreaker = loopLimit(readings, rule)
  const byResidual = residual ? Math.min(steadyOhms, (rule.share * rule.volts) / ((residualTimes * residual.milliamps) / 1000)) : null
  const lines: VerificationLine[] = []
  const add = (
    id: VerificationLine['id'],
    text: string,
    read: string,
    limit: string,
    good: boolean | null,
    why: string,
    optional = false,
  ) =>
    lines.push({
      id,
      text,
      read,
      limit,
      result: good === null ? 'missing' : good ? 'pass' : 'fail',
      why,
      ...(optional ? { optional } : {}),
    })

  const most = residual ? Math.max(byBreaker ?? 0, wireOhms) : byBreaker
  add(
    'continuity',
    'Continuity of the protective conductor',
    continuity === null ? '' : ohms(continuity),
    most === null ? '' : `≤ ${ohms(most)}`,
    continuity === null ? null : most === null || continuity <= most,
    residual ? 'Dead. A conductor of a home has a few ohms at most.' : 'Dead. Not more than the whole loop may have.',
  )
  add(
    'insulation',
    `Insulation at ${insulationVolts} V`,
    insulation === null ? '' : `${said(insulation)} MΩ`,
    `≥ ${insulationLeast} MΩ`,
    insulation === null ? null : insulation >= insulationLeast && !(devicesIn && insulationVolts === 500),
    devicesIn && insulationVolts === 500
      ? 'Devices stayed on it: 500 V may have hurt them. Test with 250 V, or take them off.'
      : devicesIn
        ? 'Dead, live conductors joined, 250 V because devices stayed on it.'
        : 'Dead, devices off it, live conductors to the protective conductor.',
  )
  add(
    'polarity',
    'Polarity',
    polarity ?? '',
    'right',
    polarity === null ? null : polarity === 'right',
    'Every switch and {breaker} in the line.',
  )
  const breakerTrips = loop !== null && byBreaker !== null && loop <= byBreaker
  const residualTrips = loop !== null && byResidual !== null && loop <= byResidual
  add(
    'loop',
    'Loop impedance, line to earth',
    loop === null ? '' : ohms(loop),
    byBreaker !== null ? `≤ ${ohms(byBreaker)}` : byResidual !== null ? `≤ ${ohms(byResidual)}` : 'look it up',
    loop === null ? null : breakerTrips || residualTrips,
    breakerTrips || loop === null
      ? curve
        ? `Live. ${curve} ${said(amps)} A trips at once at ${said(tripsAt[curve] * amps)} A.`
        : `Live. ${readings.lookedUp === null ? 'The current that trips it in time is in its maker’s table: write it down.' : `Trips in time at ${said(readings.lookedUp)} A, by its maker.`}`
      : residualTrips
        ? 'The {breaker} alone would be too slow; the residual device trips.'
        : 'Nothing trips in time at a fault to earth: it is not switched on.',
  )
  if (residual) {
    const limits = residualLimits[residual.kind]
    for (const id of ['atOne', 'atFive'] as const) {
      const [least, longest] = limits[id]
      const read = residual[id]
      add(
        id,
        `Trips at ${id === 'atOne' ? residual.milliamps : 5 * residual.milliamps} mA`,
        read === null ? '' : `${said(read)} ms`,
        least ? `${least} to ${longest} ms` : `≤ ${longest} ms`,
        read === null ? null : read >= least && read <= longest && read > 0,
        id === 'atOne'
          ? 'Live. The others on it are off meanwhile: say so before.'
          : 'Live, where local rules ask for it. Up to 30 mA, 250 mA may be used instead.',
        id === 'atFive',
      )
    }
    add(
      'button',
      'Its test button',
      residual.button === null ? '' : residual.button ? 'trips' : 'does nothing',
      'trips',
      residual.button,
      'Last, with power on it.',
    )
  }
  if (loop === 0)
    add(
      'plausible',
      'The loop',
      ohms(0),
      'more than nothing',
      false,
      'No circuit has none: the tester was not on it, or on the wrong range.',
    )
  else if (continuity !== null && loop !== null && continuity > loop * 1.2 + 0.1)
    add(
      'plausible',
      'Both readings together',
      `${ohms(continuity)} > ${ohms(loop)}`,
      'the loop is the larger',
      false,
      'A part cannot have more than the whole: one of the two was read elsewhere, or with a loose lead.',
    )
  return lines
}

export const circuitPasses = (lines: readonly VerificationLine[]): boolean =>
  lines.every(({ result, optional }) => result === 'pass' || (result === 'missing' && optional))
