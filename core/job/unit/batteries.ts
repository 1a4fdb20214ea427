import { batteryDue, runsOnBattery } from '../../fit/battery'
import { currentUnits, placeInGroup, pointsOfUnit } from '../progress'
import type { JobState, Unit } from '../state'

/** A battery in a home: what it is, since when, and by when it is changed. */
export interface Battery {
  unit: Unit
  /** What goes in, as far as anybody said; empty: nobody did. */
  battery: string
  /** The day somebody put it in; null: it came with the device. */
  fittedOn: string | null
  /** A day. The one that came with the device counts from the day it was recorded. */
  dueOn: string
  /** The device that does what this one is told; null: it stands alone. */
  partner: Unit | null
  /** With the battery empty, the partner is still switched at a place of its own; else by the app alone. */
  partnerOnWall: boolean
}

export const batteryOf = (job: JobState, unit: Unit): Battery | null => {
  if (!runsOnBattery(unit.model)) return null
  const group = placeInGroup(job, unit)
  const partner = group?.is === 'secondary' ? group.primary : null
  const controls = partner ? pointsOfUnit(job, partner).flatMap((point) => point.controls) : []
  return {
    unit,
    battery: unit.battery?.battery || unit.model.battery,
    fittedOn: unit.battery?.on ?? null,
    dueOn: batteryDue(unit.battery?.on ?? unit.installedAt, unit.model),
    partner,
    partnerOnWall: controls.some(({ boxId, gang }) => boxId === partner!.boxId && gang === partner!.gang),
  }
}
/** Every battery of a home, the one that is due first first. */
export const batteriesIn = (job: JobState): Battery[] =>
  currentUnits(job)
    .flatMap((unit) => batteryOf(job, unit) ?? [])
    .sort((a, b) => a.dueOn.localeCompare(b.dueOn))

/** It has a battery and a home: out of the wall it still speaks. */
export const stillSpeaks = ({ model, pairing }: Unit): boolean => runsOnBattery(model) && pairing?.result === 'joined'
