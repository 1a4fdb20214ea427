import type { NecEdition } from '../fit/box-fill'
import { fillOfBox } from '../fit/box-report'
import { depthFit } from '../fit/depth'
import { freeLengthRemark } from '../fit/free-length'
import type { DeviceModel } from '../fit/device-schema'
import type { JobState } from '../job/state'
import type { BoxState, SiteState } from '../site'
import { roundTo } from '../units'
import { conductorsOf } from './cables'
import { counted } from '../units/counted'
import { neutralPrior, type HomeKnown } from './neutral-prior'

/** fits: as far as it was looked at · likely: nothing speaks against it, something was not looked at · no: it does not. */
export type VerdictKind = 'fits' | 'likely' | 'open' | 'no'
export interface SurveyVerdict {
  kind: VerdictKind
  /** What is so, in one sentence. */
  sentence: string
  /** The fact that would change it. */
  changes: string
}

/** A usual device where none is chosen yet. Common practice, no source: bodies of 5 to 7 in³ and 33 to 40 mm are on sale. */
export const usualDevice = { bodyIn3: 6, depthMm: 36, gangsWide: 1 } as const
/** One that stays. Common practice, no source. */
const oldSwitch = { bodyIn3: 3, depthMm: 25, gangsWide: 1 } as const
type Body = Pick<DeviceModel, 'bodyIn3' | 'depthMm' | 'gangsWide'>

/** The devices that go into a box: those chosen, a usual one for each gang without. */
function bodiesOf(job: JobState, site: SiteState, box: BoxState): Body[] {
  const chosen = job.boxes[box.id]?.devices ?? {}
  const stays = new Set(job.boxes[box.id]?.oldStays)
  const idle = new Set(site.surveys[box.id]?.old?.flatMap(({ gang, is }) => (is === 'blank' ? [gang] : [])))
  return Array.from({ length: box.gangs }, (_, index) => index + 1).flatMap((gang): Body[] => {
    const model = chosen[gang]?.model
    if (model) return [model]
    if (stays.has(gang)) return [oldSwitch]
    return idle.has(gang) ? [] : [usualDevice]
  })
}

export interface RoomSum {
  usedIn3: number
  volumeIn3: number
  /** Conductors and {grounds} less than this: how much would have to go. */
  overIn3: number
  /** No gauge on record: counted as 12 AWG. */
  assumed: boolean
}

/** Box fill with what goes in, NEC 314.16(B); null where the volume or the cables are not known. */
export function fillOf(job: JobState, site: SiteState, box: BoxState, edition: NecEdition): RoomSum | null {
  const counted = conductorsOf(box, site.surveys[box.id])
  if (!counted || box.volumeIn3 === null) return null
  const conductors = counted.map((one) => ({ ...one, gaugeAwg: one.gaugeAwg ?? (12 as const) }))
  const size = {
    volumeIn3: box.volumeIn3,
    internalClamps: box.internalClamps,
    supportFittings: site.surveys[box.id]?.supportFittings ?? 0,
  }
  const fill = fillOfBox(size, conductors, bodiesOf(job, site, box), edition)
  return {
    usedIn3: roundTo(fill.totalIn3, 2),
    volumeIn3: box.volumeIn3,
    overIn3: -fill.freeIn3,
    assumed: counted.some(({ gaugeAwg }) => gaugeAwg === null),
  }
}

const percent = (chance: number) => `${Math.round(chance * 20) * 5} %`

/** What can be said of a box from what was looked at, and what would change it. */
export function verdictOn(job: JobState, site: SiteState, box: BoxState, from: VerdictFrom): SurveyVerdict {
  const verdict = roomAndNeutral(job, site, box, from)
  const short = freeLengthRemark(site.schemeId, site.surveys[box.id]?.freeLengthMm)
  return short ? { ...verdict, sentence: `${verdict.sentence} ${short}` } : verdict
}
interface VerdictFrom {
  edition: NecEdition
  known: HomeKnown
}
function roomAndNeutral(job: JobState, site: SiteState, box: BoxState, { edition, known }: VerdictFrom): SurveyVerdict {
  const survey = site.surveys[box.id] ?? {}
  if (survey.kind === 'junction')
    return { kind: 'fits', sentence: 'A junction: no device goes in here.', changes: 'It stays in reach and covered.' }
  const fill = site.schemeId === 'na120' ? fillOf(job, site, box, edition) : null
  if (fill && fill.overIn3 > 0)
    return {
      kind: 'no',
      sentence: `Too full: ${fill.usedIn3} of ${fill.volumeIn3} in³ with a device in each gang (NEC 314.16).`,
      changes: `A box of ${Math.ceil(fill.usedIn3 * 2) / 2} in³ or more, a relay at the fixture, or lamps.`,
    }
  const depth =
    site.schemeId === 'iec230' && box.depthMm !== null
      ? depthFit(
          box.depthMm,
          bodiesOf(job, site, box).map(({ depthMm }) => depthMm),
        )
      : null
  if (depth && !depth.fits)
    return {
      kind: 'no',
      sentence: `Too shallow. ${depth.sentence}`,
      changes: 'A deeper back box, a flatter device, or a relay at the fixture.',
    }
  const room = fill ? `${fill.usedIn3} of ${fill.volumeIn3} in³ used` : depth ? `${depth.leftMm} mm left behind the device` : null
  const sized = room !== null
  const howBig = site.schemeId === 'iec230' ? 'its depth' : box.volumeIn3 === null ? 'its volume' : 'its cables'
  if (survey.kind === 'fixture')
    return {
      kind: sized ? 'fits' : 'likely',
      sentence: `At a fixture: its neutral is here${room ? `; ${room}` : ''}.`,
      changes: 'Whether a line stays on here when the switch is off, the bench tells: a relay at the fixture needs it.',
    }
  if (survey.neutral === 'none')
    return {
      kind: sized ? 'fits' : 'likely',
      sentence: `No neutral: a device without one and its hub, or a relay at the fixture${room ? `; ${room}` : ''}.`,
      changes: sized ? 'A neutral behind the next device would change it.' : `Not known yet: ${howBig}.`,
    }
  if (survey.neutral) {
    // Taken over from another box, it was not seen in this one.
    const seen = survey.looked === 'inside'
    const what =
      survey.neutral === 'behindNeighbour'
        ? 'Neutral behind the next device, which comes out too'
        : seen
          ? 'Neutral seen'
          : 'Neutral taken to be there, as in another box'
    return {
      kind: sized && seen ? 'fits' : 'likely',
      sentence: `${what}${room ? `; ${room}` : ''}.`,
      changes: !seen
        ? 'Opening it would tell.'
        : sized
          ? 'A neutral of another circuit would change it: the bench tells.'
          : `Not known yet: ${howBig}.`,
    }
  }
  const prior = neutralPrior(site, known, box.id)
  const because = prior.of
    ? `${prior.seen} of ${prior.of} opened here had one`
    : prior.alike
      ? `${prior.alike.neutrals} of ${prior.alike.opened} had one in ${counted(prior.alike.homes, 'home')} of this ${prior.alike.by}`
      : known.yearBuilt
        ? `by the year, ${known.yearBuilt}`
        : 'by homes like it'
  return {
    kind: 'open',
    sentence: `A neutral about ${percent(prior.chance)} likely: ${because}${room ? `; ${room}` : ''}.`,
    changes: sized ? 'Opening it would tell.' : `Opening it would tell, and ${howBig} with it.`,
  }
}
