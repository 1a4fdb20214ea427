import { isCordless } from '../../fit/battery'
import type { DeviceModel } from '../../fit/device-schema'
import type { LightPoint } from '../../job/parts.schema'
import type { Article } from '../../quote/article.schema'
import type { BoxState } from '../../site'
import { callbacksOf, lastsYears, minutes } from '../minutes'
import type { PlanHome } from '../home'
import type { LightColour, SolutionKind } from '../words'

/** What is said of a way besides its numbers. */
export interface Told {
  /** What is put in, in words. */
  what: string
  /** What it rests on and brings. */
  because: string[]
  /** What the household loses. */
  loses: string[]
  /** The hole it leaves, and what covers it. */
  leaves: string[]
  /** What still works with the internet down. */
  offline: 'wall' | 'remote' | 'nothing'
  /** The colour of the light, where it is fixed by it. */
  colour: LightColour | null
}
type Priced = Article & { priceCents: number }
/** A way as it is found: its numbers are summed from it. */
export interface Way {
  kind: SolutionKind
  points: LightPoint[]
  /** In a gang, or at a fixture whose box is on record. */
  placed: { box: BoxState; gang: number; model: DeviceModel }[]
  /** At a fixture whose box nobody has recorded yet. */
  unplaced: DeviceModel[]
  beside: { article: Priced; quantity: number }[]
  minutes: number
  /** Of 100, before what it loses. */
  comfort: number
  /** Comfort taken away, by why. */
  less: { why: string; by: number }[]
  told: Partial<Told> & { what: string }
  /** Money spent on looking again, times how likely that is. */
  riskMinutes?: number
}
/** A way that is not open, and why; what would have to change stands in it. */
export interface Excluded {
  kind: SolutionKind
  pointIds: string[]
  why: string
  /** How near it came: of several whys of one kind the nearest is told. */
  nearness: number
}
export interface Finds {
  ways: Way[]
  excluded: Excluded[]
}
export const nothing = (): Finds => ({ ways: [], excluded: [] })

const isModule = ({ gangsWide }: DeviceModel) => gangsWide === 0
export const onHub = ({ needsHub, radio }: DeviceModel): boolean => needsHub || radio === 'hub'

/** What the devices of a way are bought for; null: one of them has no price. */
export function devicesCents(home: PlanHome, way: Way): number | null {
  let cents = 0
  for (const model of [...way.placed.map((one) => one.model), ...way.unplaced]) {
    const article = home.articleOf(model.id)
    if (!article) return null
    cents += article.priceCents
  }
  return cents + way.beside.reduce((sum, { article, quantity }) => sum + article.priceCents * quantity, 0)
}
const lasts = (model: DeviceModel) => (isCordless(model) ? lastsYears.battery : isModule(model) ? lastsYears.module : lastsYears.device)
const again = (cents: number, lastYears: number, years: number) => cents * Math.max(0, years / lastYears - 1)
/** What is bought once more within the years one looks at, cents. */
export function againCents(home: PlanHome, way: Way): number {
  const { years } = home.from.household
  const devices = [...way.placed.map(({ model }) => model), ...way.unplaced]
  const ofDevices = devices.reduce((sum, model) => sum + again(home.articleOf(model.id)!.priceCents, lasts(model), years), 0)
  return way.beside.reduce((sum, { article, quantity }) => {
    const lastYears =
      article.kind === 'smartLamp' ? lastsYears.lamp : article.kind === 'plugIn' || article.kind === 'lampHolder' ? lastsYears.plugIn : null
    return lastYears ? sum + again(article.priceCents * quantity, lastYears, years) : sum
  }, ofDevices)
}
/** Callbacks a year: of each device by its model’s record, of lamps like a device each. */
export function callbacksPerYear(home: PlanHome, way: Way): number {
  const devices = [...way.placed.map(({ model }) => model), ...way.unplaced]
  const lamps = way.beside.reduce((sum, { article, quantity }) => (article.kind === 'smartLamp' ? sum + quantity : sum), 0)
  return devices.reduce((sum, model) => sum + callbacksOf(home.from.record[model.id]), 0) + lamps * callbacksOf(undefined) * 0.5
}
/** Minutes of joining: whatever has a radio. */
export const joiningMinutes = (models: DeviceModel[]): number => models.filter(({ radio }) => radio !== 'none').length * minutes.pairing
