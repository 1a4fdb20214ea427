import type { PlateKind } from '../site/survey-words'
import type { DeviceModel } from './device-schema'

/** What a gang of a row shows: a device of the catalogue, an old one that stays, or nothing. */
export type RowSlot =
  | { is: 'device'; model: Pick<DeviceModel, 'name' | 'ownPlate' | 'oneGangOnly' | 'gangsWide' | 'radio'> }
  | { is: 'old'; opening: Opening }
  | { is: 'blank' }
/** The hole in a plate. */
export type Opening = 'rectangular' | 'toggle' | 'duplex' | 'combined'

export interface PlateAnswer {
  /** The plate to buy, in words; null: there is none for this row. */
  plate: string | null
  /** What breaks the row, gang by gang. */
  breaks: { gang: number; why: string }[]
  warnings: string[]
}
/** Plates of mixed openings are kept in stock up to so many gangs. Common practice, no source. */
const mixedStockGangs = 3
const openingWords: Record<Opening, string> = {
  rectangular: 'rectangular',
  toggle: 'toggle',
  duplex: 'socket',
  combined: 'switch and socket',
}

const plateSizes: Record<PlateKind, string> = {
  standard: 'standard',
  midSize: 'mid-size',
  oversize: 'oversize',
  metal: 'metal',
  oddSpacing: 'as the old one',
}

/**
 * Which plate this row of devices and old switches fits behind, or which device breaks it. A module behind an old switch shows
 * nothing. Openings and stock: common practice, no source; a maker's own drawing decides.
 * @param slots by gang, from the left
 */
export function plateFor(slots: RowSlot[], kind: PlateKind = 'standard'): PlateAnswer {
  const gangs = slots.length
  const breaks: PlateAnswer['breaks'] = []
  const warnings: string[] = []
  const openings: (Opening | 'blank')[] = []
  slots.forEach((slot, index) => {
    const gang = index + 1
    if (slot.is === 'blank') return void openings.push('blank')
    if (slot.is === 'old') return void openings.push(slot.opening)
    const { model } = slot
    if (model.ownPlate && gangs > 1) breaks.push({ gang, why: `${model.name} has a plate of its own: it joins no row.` })
    else if (model.oneGangOnly && gangs > 1) breaks.push({ gang, why: `${model.name} is for a box of one gang only.` })
    else if (model.gangsWide > gangs - index) breaks.push({ gang, why: `${model.name} is ${model.gangsWide} gangs wide.` })
    if (kind === 'metal' && model.radio !== 'none')
      warnings.push(`A metal plate before ${model.name}: measure its signal with the plate on, or take a plastic one.`)
    openings.push('rectangular')
  })
  if (kind === 'oddSpacing' && gangs > 1 && slots.some(({ is }) => is === 'device'))
    breaks.push({
      gang: slots.findIndex(({ is }) => is === 'device') + 1,
      why: 'The old plate has other distances than any new device: the whole row changes, or none.',
    })
  if (breaks.length) return { plate: null, breaks, warnings }
  const [only] = slots
  if (gangs === 1 && only?.is === 'device' && only.model.ownPlate) return { plate: 'its own, in the carton', breaks, warnings }
  const kinds = new Set(openings)
  if (kinds.has('combined') && gangs > 1)
    return {
      plate: null,
      breaks: [{ gang: openings.indexOf('combined') + 1, why: 'A switch and socket on one yoke has a plate for one gang only.' }],
      warnings,
    }
  if (gangs > mixedStockGangs && kinds.size > 1) warnings.push(`A mixed plate of ${gangs} gangs is made to order: days, not hours.`)
  const said = kinds.size === 1 ? holeWord(openings[0]!) : openings.map(holeWord).join(' + ')
  return { plate: `${gangs}-gang, ${plateSizes[kind]}: ${said}`, breaks, warnings }
}
const holeWord = (opening: Opening | 'blank') => (opening === 'blank' ? 'blank' : openingWords[opening])
