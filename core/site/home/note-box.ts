import { accept, refuse } from '../../stream/envelope'
import { farSwitchesOf } from './far-switches'
import { boxAt } from '../changes'
import { siteCommand, siteEvent } from '../define'
import { noBox } from '../refusals'
import type { Noted } from '../survey.schema'
import { boxFaultWords, groundWords, lookDepths, neutralWords } from '../survey-words'
import type { BoxNoted, NoteBox } from './note-box.schema'

/**
 * What is seen of a box in a survey: its size, cables, old devices, what is wrong with it. It opens nothing, and no proof rests
 * on it: conductors that are worked on are recorded at the bench.
 */
export const noteBox = siteCommand('noteBox', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide(site, command: NoteBox) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const beyond = command.noted.old?.find(({ gang }) => gang > box.gangs)
    if (beyond) return refuse('noSuchGang', `${box.name} has no gang ${beyond.gang}.`, 'Set the number of gangs first.')
    if (Object.keys(command.noted).length === 0) return refuse('nothingNoted', 'Nothing was noted.')
    // What was taken for a box at a fixture has a switch after all: the others are read in its positions too.
    const wasFixture = site.surveys[box.id]?.kind === 'fixture'
    const { kind } = command.noted
    const tied = wasFixture && kind !== undefined && kind !== 'fixture' ? box.farBoxIds : []
    return accept(boxNoted(command), ...tied.flatMap((id) => farSwitchesOf(site, [box.id, id])))
  },
  label: ({ noted }) => `survey: ${saidOf(noted)}`,
})

export const boxNoted = siteEvent('boxNoted', {
  evolve(site, payload: BoxNoted) {
    const box = boxAt(site, payload.boxId)
    const { volumeIn3, depthMm, material, internalClamps, ...rest } = payload.noted
    Object.assign(box, given({ volumeIn3, depthMm, material, internalClamps }))
    const survey = (site.surveys[box.id] ??= {})
    for (const [key, value] of Object.entries(given(rest))) {
      if (value === null) delete survey[key as keyof typeof survey]
      else Object.assign(survey, { [key]: value })
    }
  },
  say: (payload, { box }) => `noted of ${box(payload.boxId)}: ${saidOf(payload.noted)}`,
})

/** Without what was left out. */
const given = <T extends object>(parts: T) =>
  Object.fromEntries(Object.entries(parts).filter(([, value]) => value !== undefined)) as Partial<T>

/** What was noted, in words. */
function saidOf(noted: Noted): string {
  const size = noted.volumeIn3 ? `${noted.volumeIn3} in³` : noted.depthMm ? `${noted.depthMm} mm deep` : null
  const parts = [
    size,
    noted.material ? `${noted.material === 'unknown' ? 'material not known' : noted.material}` : null,
    noted.looked ? (noted.looked === lookDepths[0] ? 'looked at the plate' : 'looked inside') : null,
    noted.neutral ? neutralWords[noted.neutral] : null,
    noted.ground ? groundWords[noted.ground] : null,
    noted.cables ? (noted.cables.length === 1 ? '1 cable' : `${noted.cables.length} cables`) : null,
    noted.old ? 'old devices' : null,
    noted.splices ? 'splices' : null,
    ...(noted.faults ?? []).map(({ is }) => boxFaultWords[is]),
    noted.kind ? `kind: ${noted.kind}` : null,
    noted.plate || noted.finish ? 'plate' : null,
    noted.onward ? `feeds ${noted.onward}` : null,
    noted.freeLengthMm !== undefined && noted.freeLengthMm !== null ? `shortest free end ${noted.freeLengthMm} mm` : null,
    noted.internalClamps !== undefined ? 'clamps' : null,
    noted.supportFittings !== undefined ? 'fittings' : null,
  ].filter((part) => part !== null)
  return parts.join(', ') || 'taken back'
}
