import { pointsOfUnit, wiringOf, type JobState, type Unit } from '../job'
import { homeOnRecord, lacksDevice, plannedDevices } from '../job/box-bench'
import type { SiteState } from '../site'
import { countPositions, diagnose, everyPosition, predictSeen, type Light, type Observation, type PlannedHome } from '../wiring'
import type { Symptom } from './causes'

/** What explains what somebody tells of a light, if it is in its wiring, its lamp or its device: as it was laid, and as it would be seen. */
export interface ToldWiring {
  /** Of the box. */
  name: string
  /** Faults that would all look so, the likeliest first. */
  faults: string[]
  /** What tells the first two apart, for who is there: with the power off. Null: no meter at this box does. */
  check: string | null
}

/** So many positions are played for somebody who waits on the telephone. */
const mostPositions = 64

/**
 * What somebody tells of one light, as it would be seen at its box. Nobody says where the switches stood when it was so: it is taken
 * as so in every position in which it would be wrong.
 * @param lightId of the home
 * @returns no rows where the wiring has nothing to say of it
 */
export function rowsTold(home: PlannedHome, lightId: string, symptoms: readonly Symptom[]): Observation[] {
  const told = (symptom: Symptom) => symptoms.includes(symptom)
  const all = [...everyPosition(home)]
  const seen = (light: Light, where = all) => where.map((positions) => ({ positions, lights: { [lightId]: light }, trips: [] }))
  const lit = () => predictSeen(home, [], all).flatMap(({ positions, lights }) => (lights[lightId] === 'on' ? [positions] : []))
  const [circuit, ...others] = home.wiring.circuits
  // Which of two breakers it is nobody on the telephone says.
  if (told('trips')) return circuit && !others.length ? lit().map((positions) => ({ positions, lights: {}, trips: [circuit.id] })) : []
  if (told('dead')) return told('staysOn') ? [] : seen('off')
  if (told('staysOn')) return seen('on')
  // A joint that is bad and not open. (A glow while it is off is the device’s, seldom a fault’s.)
  return told('flickers') ? seen('dim', lit()) : []
}

/**
 * The faults that would look as it is told, by the wiring that is on record.
 * @returns null where the box’s wiring was not laid on the bench, the device moves more than one light, or the wiring explains nothing of it
 */
export function wiringTold(job: JobState, site: SiteState, unit: Unit, symptoms: readonly Symptom[]): ToldWiring | null {
  const { plan } = wiringOf(job, unit.boxId)
  const record = plan && !lacksDevice(plan, plannedDevices(job, unit.boxId)) ? homeOnRecord(job, site, unit.boxId) : null
  if (!plan || !record) return null
  const { home } = record
  const ids = pointsOfUnit(job, unit).map(({ id }) => id)
  const letters = plan.feeds.flatMap(({ pointId, letter }) => (ids.includes(pointId) ? [letter] : []))
  const lights = home.outside.lights.filter(({ letter }) => (letters.length ? letters.includes(letter) : true))
  if (lights.length !== 1 || countPositions(home) > mostPositions) return null
  const rows = rowsTold(home, lights[0]!.id, symptoms)
  if (!rows.length) return null
  const { groups } = diagnose(home, rows)
  const explained = groups.filter(({ misfits, suspects }) => misfits === 0 && suspects.every(({ faults }) => faults.length > 0))
  if (!explained.length) return null
  return {
    name: site.boxes[unit.boxId]!.name,
    faults: explained.flatMap(({ suspects }) => suspects.map(({ words }) => words)),
    check: explained[0]!.within,
  }
}
