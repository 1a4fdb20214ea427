import { judgeDevice, judgeTogether, type DeviceRemark } from '../fit/device-model'
import type { DeviceModel } from '../fit/device-schema'
import { groundWays } from '../fit/missing-ground'
import { arePartners, listens } from '../fit/partners'
import { plateFor, type Opening, type PlateAnswer, type RowSlot } from '../fit/plates'
import { circuitLoad, judgeInRow, neighboursOf } from '../fit/row-limits'
import { judgeTermination, type EndingConductor } from '../fit/terminations'
import type { BoxState, SiteState } from '../site/state'
import type { OldDevice } from '../site/survey-words'
import { supplySchemes } from '../units/scheme'
import { loadTerminals } from '../wiring/terminal-model'
import type { LightPoint } from './parts.schema'
import { gangsOf, pointsInOrder, rolesIn } from './progress'
import type { JobState } from './state'

const openings: Record<OldDevice, Opening | 'blank'> = {
  switch: 'toggle',
  threeWay: 'toggle',
  fourWay: 'toggle',
  dimmer: 'toggle',
  fanRegulator: 'toggle',
  socket: 'duplex',
  combined: 'combined',
  blank: 'blank',
}

/** The row of a box as it will stand: what is chosen, what stays, and what nobody said anything of. */
export function rowOf(job: JobState, site: SiteState, box: BoxState, with_: { gang: number; model: DeviceModel } | null = null): RowSlot[] {
  const work = job.boxes[box.id]
  const old = site.surveys[box.id]?.old ?? []
  return gangsOf(box).map((gang): RowSlot => {
    const model = with_?.gang === gang ? with_.model : work?.devices[gang]?.model
    // A module sits behind the old switch.
    if (model && model.gangsWide > 0) return { is: 'device', model }
    const opening = openings[old.find((one) => one.gang === gang)?.is ?? 'switch']
    return opening === 'blank' ? { is: 'blank' } : { is: 'old', opening }
  })
}
/** Is it known of every gang what will show there? Then a plate can be named. */
export const rowIsKnown = (job: JobState, site: SiteState, box: BoxState): boolean =>
  gangsOf(box).every((gang) => job.boxes[box.id]?.devices[gang]?.model || site.surveys[box.id]?.old?.some((one) => one.gang === gang))
/** The plate of a box with what is chosen for it. */
export function plateOf(
  job: JobState,
  site: SiteState,
  box: BoxState,
  with_: { gang: number; model: DeviceModel } | null = null,
): PlateAnswer {
  const answer = plateFor(rowOf(job, site, box, with_), site.surveys[box.id]?.plate ?? 'standard')
  if (site.schemeId === 'na120' || answer.plate === null) return answer
  // In 230 V work a row stands in one frame, and its fronts are of one range.
  const plate = box.gangs > 1 ? `a frame of ${box.gangs}, all fronts of one range` : 'a frame of one'
  return { ...answer, plate, warnings: answer.warnings.filter((one) => !one.startsWith('A mixed')) }
}

/** Conductors as they end in the box: as recorded at the bench, with what the survey says of their cables. */
function endsIn(site: SiteState, box: BoxState): EndingConductor[] {
  const cables = site.surveys[box.id]?.cables ?? []
  const stranded = cables.length > 0 && cables.every((cable) => cable.stranded)
  if (box.conductors.length) return box.conductors.map(({ gaugeAwg, areaMm2 }) => ({ gaugeAwg, areaMm2, stranded }))
  return cables.map((cable) => ({ gaugeAwg: cable.gaugeAwg, areaMm2: cable.areaMm2, stranded: cable.stranded }))
}

/** A device at another location of these points. */
const elsewhereOf = (job: JobState, boxId: string, points: LightPoint[]): DeviceModel[] =>
  points.flatMap((point) =>
    point.controls.filter((control) => control.boxId !== boxId).flatMap(({ boxId: id, gang }) => job.boxes[id]?.devices[gang]?.model ?? []),
  )

/**
 * Which points each channel of a device carries: as the laid wiring has it; else one each while they are no more than channels, in
 * the order of the points; else all together, which is said of one channel only where there is no other.
 */
export function channelsOfGang(job: JobState, boxId: string, gang: number, model: DeviceModel, points: LightPoint[]): LightPoint[][] {
  const channels = loadTerminals.filter((terminal) => model.terminals.includes(terminal))
  if (channels.length < 2) return points.length ? [points] : []
  const plan = job.boxes[boxId]?.wiring?.plan
  const laid = plan?.devices.find((one) => one.gang === gang)?.terminals
  const carried = laid
    ? channels.map((terminal) => {
        const ids = (laid[terminal] ?? []).flatMap((letter) =>
          plan!.feeds.filter((feed) => feed.letter === letter).map((feed) => feed.pointId),
        )
        return points.filter(({ id }) => ids.includes(id))
      })
    : []
  if (carried.flat().length === points.length && points.length) return carried.filter((one) => one.length)
  return points.length <= channels.length ? points.map((point) => [point]) : []
}

/**
 * Everything that speaks for or against a model at one gang: its loads alone and together, its place in the row, the plate, its
 * terminals, a missing ground, and what it shares a light with. Blocks are refused, warnings are shown.
 */
export function judgeAtGang(
  job: JobState,
  site: SiteState,
  box: BoxState,
  gang: number,
  model: DeviceModel,
  points: LightPoint[],
): DeviceRemark[] {
  const roles = Object.values(rolesIn(job, box.id))
  const survey = site.surveys[box.id]
  const neutral = roles.length ? roles.includes('neutral') : survey?.neutral ? survey.neutral !== 'none' : null
  const remarks: DeviceRemark[] = (points.length ? points : [null]).flatMap((point) =>
    judgeDevice(model, point?.load ?? null, {
      schemeId: site.schemeId,
      controlLocations: point && point.fixtureBoxId !== box.id ? point.controls.length : 1,
      neutralEstablished: neutral,
    }),
  )
  if (survey?.kind === 'fixture' && model.gangsWide > 0)
    remarks.push({ severity: 'block', text: 'A device with a plate does not go behind a fixture.' })
  if (site.home.neutralEarthed === false)
    remarks.push(
      model.bothPoles
        ? { severity: 'warn', text: 'Neither conductor is tied to {ground} here: it breaks both, as this supply wants.' }
        : { severity: 'block', text: 'Neither conductor is tied to {ground} here, and it breaks one only: what is off would stay live.' },
    )
  const loads = points.map((point) => point.load)
  const models = {
    ...Object.fromEntries(Object.entries(job.boxes[box.id]?.devices ?? {}).map(([at, one]) => [at, one.model])),
    [gang]: model,
  }
  remarks.push(
    ...judgeTogether(model, loads),
    ...channelsOfGang(job, box.id, gang, model, points).flatMap((carried) =>
      judgeInRow(
        model,
        carried.map(({ load }) => load),
        neighboursOf(models, gang),
        supplySchemes[site.schemeId].nominalVolts,
      ),
    ),
  )
  for (const { gang: at, why } of plateOf(job, site, box, { gang, model }).breaks)
    if (at === gang) remarks.push({ severity: model.oneGangOnly ? 'block' : 'warn', text: why })
  if (model.termination) remarks.push(...judgeTermination({ ...model.termination, holds: 4 }, endsIn(site, box)))
  if (model.terminals.includes('ground')) {
    const ways = groundWays(site.schemeId, survey?.ground ?? null, {
      plate: survey?.plate ?? null,
      protection: box.breakerIds.flatMap((id) => site.breakers[id]?.protection ?? []),
      metalBox: box.material === 'metal',
    })
    if (ways) {
      const ready = ways.find((one) => one.ready)
      remarks.push({
        severity: 'warn',
        text: `No {ground} conductor here. ${ready ? `It may go with ${ready.way}.` : `It wants ${ways.map(({ way }) => way).join(', or ')}.`} Local code and the licensed person decide.`,
      })
    }
  }
  for (const other of elsewhereOf(job, box.id, points)) {
    if (arePartners(model, other)) continue
    const deaf = [model, other].find((one) => one.kind !== 'companion' && !listens(one))
    const isWired = [model, other].some((one) => one.kind === 'companion' && one.terminals.includes('sense'))
    remarks.push({
      severity: 'block',
      text:
        deaf && isWired
          ? `${deaf.name} has no switch input: a wired companion has no input to signal.`
          : `${model.name} and ${other.name}, at the other location, are not of one family: they do not hear each other.`,
    })
  }
  return remarks.filter((one, index) => remarks.findIndex(({ text }) => text === one.text) === index)
}

/**
 * What the points of this job draw from a breaker, against its rating. Lights count as continuous: three hours and more are usual.
 * Null: no rating on record. What else hangs on the circuit is not in it.
 */
export function loadOnBreaker(
  job: JobState,
  site: SiteState,
  breakerId: string,
): { amps: number; counted: number; rating: number; fits: boolean } | null {
  const rating = site.breakers[breakerId]?.amps ?? null
  if (rating === null) return null
  const loads = pointsInOrder(job)
    .filter(({ controls }) => site.boxes[controls[0]!.boxId]?.breakerIds.includes(breakerId))
    .map(({ load }) => ({ ...load, continuous: load.technology !== 'socket' }))
  return { ...circuitLoad(loads, { breakerAmps: rating, nominalVolts: supplySchemes[site.schemeId].nominalVolts }), rating }
}
