import type { ConductorRole } from '../connect'
import type { BoxState, SiteState } from '../site'
import { supplySchemes } from '../units'
import type { AsFoundBox } from '../wiring'
import type { WireRole } from '../wiring/identify/roles'
import { emptyWiring, type BoxWiring, type FoundNotes, type JobState } from './state'

export const wiringOf = (job: JobState, boxId: string): BoxWiring => job.boxes[boxId]?.wiring ?? emptyWiring()

/** The most circuits a box is worked out for. */
const mostCircuits = 3
const mostCables = 5
const mostCores = 5

/** A box as the identification takes it, or why it cannot be worked out. */
export function asFoundBoxOf(
  site: SiteState,
  box: BoxState,
  notes: FoundNotes,
): { ok: true; found: AsFoundBox } | { ok: false; reason: string } {
  const breakers = box.breakerIds.flatMap((id) => site.breakers[id] ?? [])
  const circuits = breakers.map((breaker) => breaker.number)
  if (!box.conductors.length) return { ok: false, reason: 'Record the conductors first.' }
  if (!circuits.length || box.unknownFeed) return { ok: false, reason: 'It is not known what feeds this box. Trace the {breaker} first.' }
  const twice = circuits.find((number, index) => circuits.indexOf(number) !== index)
  if (twice)
    return {
      ok: false,
      reason: `Two {breakers} ${twice}, of two {panels}, feed this box, and the bench could not tell them apart. Call the licensed lead.`,
    }
  if (circuits.length > mostCircuits) return { ok: false, reason: `More than ${mostCircuits} circuits in one box: call the licensed lead.` }
  const cables = [...new Set(box.conductors.map((conductor) => conductor.cable || 'cable'))]
  const found: AsFoundBox = {
    nominalVolts: supplySchemes[site.schemeId].nominalVolts,
    circuits,
    amps: Object.fromEntries(breakers.flatMap(({ number, amps }) => (amps ? [[number, amps]] : []))),
    cables: cables.map((id) => ({
      id,
      cores: box.conductors.filter((conductor) => (conductor.cable || 'cable') === id).map(({ letter, colour }) => ({ letter, colour })),
    })),
    ...notes,
  }
  if (cables.length > mostCables || found.cables.some((cable) => cable.cores.length > mostCores))
    return { ok: false, reason: 'This box has more cables or conductors than can be worked out. Call the licensed lead.' }
  return { ok: true, found }
}

/** The role on the conductor's flag, for what the identification calls it. */
export const flagRole: Record<WireRole, ConductorRole> = {
  line: 'line',
  lineOn: 'line',
  neutral: 'neutral',
  sharedNeutral: 'neutral',
  neutralOn: 'neutral',
  ground: 'ground',
  load: 'load',
  traveler: 'traveler',
  farCommon: 'common',
  loadOn: 'load',
  spare: 'spare',
}

/** The roles of a box by its flags, for a drawing. */
export const flagWords = (job: JobState, boxId: string): Record<string, string> =>
  Object.fromEntries(Object.entries(job.boxes[boxId]?.roles ?? {}).map(([letter, known]) => [letter, known.role]))

/**
 * What was noted at other boxes of the job and is true of the circuit or the home, not of the box: nobody looks it up twice.
 * The newest word counts.
 */
export function notedAtOtherBoxes(job: JobState, site: SiteState, boxId: string): Pick<FoundNotes, 'guards' | 'wiredYear'> {
  const here = site.boxes[boxId]?.breakerIds ?? []
  const known: Pick<FoundNotes, 'guards' | 'wiredYear'> = { guards: {}, wiredYear: null }
  for (const id of Object.keys(job.boxes)) {
    const notes = id === boxId ? null : job.boxes[id]?.wiring?.notes
    if (!notes) continue
    // By the breaker itself: a home of two panels has two breakers of one number.
    for (const breakerId of here.filter((one) => site.boxes[id]?.breakerIds.includes(one))) {
      const circuit = site.breakers[breakerId]?.number ?? ''
      const guard = notes.guards?.[circuit]
      if (guard) known.guards = { ...known.guards, [circuit]: guard }
    }
    known.wiredYear = notes.wiredYear ?? known.wiredYear
  }
  return known
}
