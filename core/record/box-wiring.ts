import type { BoxState, SiteState } from '../safety'
import { supplySchemes } from '../units'
import { loadWatts } from '../fit'
import { believe, terminalModel, type Findings, type FoundBox, type LightLoad, type PlannedDevice } from '../wiring'
import type { ConductorRole } from '../connect'
import { foresee, homeOf, knownCables, positionWords, proposePlan } from '../wiring'
import type { WireRole } from '../wiring/identify/roles'
import { emptyWiring, type BoxWiring, type FoundNotes, type JobState } from './state'

export const wiringOf = (job: JobState, boxId: string): BoxWiring => job.boxes[boxId]?.wiring ?? emptyWiring()

/** The most circuits a box is worked out for. */
const mostCircuits = 3
const mostCables = 5
const mostCores = 5

/** A box as the identification takes it, or why it cannot be worked out. */
export function foundBoxOf(
  site: SiteState,
  box: BoxState,
  notes: FoundNotes,
): { ok: true; found: FoundBox } | { ok: false; reason: string } {
  const circuits = box.breakerIds.flatMap((id) => site.breakers[id]?.number ?? [])
  if (!box.conductors.length) return { ok: false, reason: 'Record the conductors first.' }
  if (!circuits.length || box.unknownFeed) return { ok: false, reason: 'It is not known what feeds this box: hunt the breaker first.' }
  if (circuits.length > mostCircuits) return { ok: false, reason: `More than ${mostCircuits} circuits in one box: call the licensed lead.` }
  const cables = [...new Set(box.conductors.map((conductor) => conductor.cable || 'cable'))]
  const found: FoundBox = {
    nominalVolts: supplySchemes[site.schemeId].nominalVolts,
    circuits,
    cables: cables.map((id) => ({
      id,
      cores: box.conductors.filter((conductor) => (conductor.cable || 'cable') === id).map(({ letter, colour }) => ({ letter, colour })),
    })),
    ...notes,
  }
  if (cables.length > mostCables || found.cables.some((cable) => cable.cores.length > mostCores))
    return { ok: false, reason: 'This box has more cables or conductors than can be worked out: call the licensed lead.' }
  return { ok: true, found }
}

/** What the readings in the record say, or null while the box was not described. */
export function findingsOf(job: JobState, site: SiteState, boxId: string): Findings | null {
  const { notes, readings } = wiringOf(job, boxId)
  const box = site.boxes[boxId]
  if (!notes || !box) return null
  const found = foundBoxOf(site, box, notes)
  return found.ok ? believe(found.found, readings).findings : null
}

/** The role on the conductor's flag, for what the identification calls it. */
export const flagRole: Record<WireRole, ConductorRole> = {
  line: 'line',
  lineOn: 'line',
  neutral: 'neutral',
  neutralOn: 'neutral',
  ground: 'ground',
  load: 'load',
  traveler: 'traveler',
  farCommon: 'common',
  spare: 'spare',
}

/** Devices chosen for a box, as the wiring sees them. */
export function plannedDevices(job: JobState, boxId: string): PlannedDevice[] {
  return Object.entries(job.boxes[boxId]?.devices ?? {}).map(([gang, { model }]) => ({
    gang: Number(gang),
    name: model.name,
    model: terminalModel(model),
  }))
}
/** Loads of the points a box switches. */
export function boxLoads(job: JobState, boxId: string): LightLoad[] {
  return job.pointOrder.flatMap((id) => {
    const point = job.points[id]
    if (!point?.controls.some((control) => control.boxId === boxId)) return []
    const { technology } = point.load
    return [{ technology: technology === 'socket' ? ('filament' as const) : technology, watts: Math.max(1, loadWatts(point.load)) }]
  })
}

export interface ForetoldRow {
  position: string
  light: string
  foretold: string
  seen: string
}
/** What each light of a box should do, and what was seen, position by position. Empty while nothing was noted. */
export function foretoldAndSeen(job: JobState, site: SiteState, boxId: string): ForetoldRow[] {
  const { notes, plan, observed } = wiringOf(job, boxId)
  const box = site.boxes[boxId]
  const findings = findingsOf(job, site, boxId)
  const found = notes && box ? foundBoxOf(site, box, notes) : null
  if (!found?.ok || !findings || !observed.length) return []
  const cables = knownCables(found.found, findings)
  if (!cables) return []
  const devices = plannedDevices(job, boxId)
  const home = homeOf(found.found, cables, plan ?? proposePlan(found.found, cables, devices), devices, boxLoads(job, boxId))
  const foretold = foresee(
    home,
    [],
    observed.map((row) => row.positions),
  )
  return observed.flatMap((row, index) =>
    home.outside.lights.map((light) => ({
      position: positionWords(home, row.positions),
      light: `light on ${light.letter}`,
      foretold: foretold[index]!.lights[light.id] ?? '',
      seen: row.trips.length ? 'breaker trips' : (row.lights[light.id] ?? ''),
    })),
  )
}

/** The roles of a box by its flags, for a drawing. */
export const flagWords = (job: JobState, boxId: string): Record<string, string> =>
  Object.fromEntries(Object.entries(job.boxes[boxId]?.roles ?? {}).map(([letter, known]) => [letter, known.role]))
