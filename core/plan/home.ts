import { fillOfBox } from '../fit/box-report'
import type { NecEdition } from '../fit/box-fill'
import type { DeviceModel } from '../fit/device-schema'
import { plateFor } from '../fit/plates'
import { depthFit } from '../fit/depth'
import { platesFor, type ListedPart } from '../fit/parts'
import { rowOf } from '../job/device-fit'
import type { LightPoint } from '../job/parts.schema'
import { currentUnits, gangsOf, pointsInOrder, rolesIn, unitAt } from '../job/progress'
import type { JobState } from '../job/state'
import type { MoneySettings } from '../money'
import type { Article } from '../quote/article.schema'
import type { BoxState, SiteState } from '../site'
import { conductorsOf } from '../survey/cables'
import { neutralPrior, type HomeKnown } from '../survey/neutral-prior'
import type { Household, Wish } from './household.schema'
import { noWish } from './wishes'

/** What the company has seen of a model: devices times years, and callbacks. */
export type ModelRecord = Record<string, { callbacks: number; deviceYears: number }>

/** All that a plan rests on. */
export interface PlanSource {
  job: JobState
  site: SiteState
  catalogue: DeviceModel[]
  parts: ListedPart[]
  articles: Article[]
  money: MoneySettings
  known: HomeKnown
  record: ModelRecord
  wishes: Record<string, Wish>
  household: Household
  edition: NecEdition
}

const byId = (a: { id: string }, b: { id: string }) => (a.id < b.id ? -1 : 1)
/** An old device that stays, in³: its body. Common practice, no source. */
const oldBodyIn3 = 3

/** A home as the plan asks it: facts of boxes, prices of things. */
export class PlanHome {
  /** The job with nothing chosen: what is chosen now is one way among others. */
  readonly job: JobState
  readonly site: SiteState
  readonly models: DeviceModel[]
  private readonly listed: Article[]
  private readonly byRef = new Map<string, Article>()

  constructor(readonly from: PlanSource) {
    const { job, site } = from
    this.site = site
    const boxes = Object.fromEntries(
      Object.entries(job.boxes).map(([id, work]) => [
        id,
        { ...work, devices: Object.fromEntries(Object.entries(work.devices).filter(([gang]) => unitAt(job, id, Number(gang)))) },
      ]),
    )
    this.job = { ...job, boxes }
    this.points = this.open()
    // In one order, wherever the lists come from: the screen and the server find the same ways.
    this.models = from.catalogue.filter(({ schemes }) => schemes.includes(site.schemeId)).toSorted(byId)
    this.listed = from.articles.toSorted(byId)
    for (const article of this.listed) if (article.active && article.refId) this.byRef.set(article.refId, article)
  }

  /** Points still to be solved: what is installed is decided. */
  readonly points: LightPoint[]
  private open(): LightPoint[] {
    return pointsInOrder(this.from.job).filter(
      (point) =>
        !point.controls.some(({ boxId, gang }) => {
          const unit = unitAt(this.from.job, boxId, gang)
          return unit && unit.model.kind !== 'companion'
        }) && !(point.fixtureBoxId && unitAt(this.from.job, point.fixtureBoxId, 1)),
    )
  }
  /** An app that the household has already, by what is installed: one more device of it is no app more. */
  hasApp(maker: string): boolean {
    return currentUnits(this.from.job).some(({ model }) => model.maker === maker && model.radio !== 'none')
  }
  wish(pointId: string): Wish {
    return this.from.wishes[pointId] ?? noWish
  }
  box(boxId: string): BoxState | null {
    const box = this.site.boxes[boxId]
    return box && !box.retired ? box : null
  }
  /** The article that this model or part is sold as; null: it is in no list, or has no price. */
  articleOf(refId: string): (Article & { priceCents: number }) | null {
    const article = this.byRef.get(refId)
    return article && article.priceCents !== null ? { ...article, priceCents: article.priceCents } : null
  }
  articles(kind: Article['kind']): (Article & { priceCents: number })[] {
    return this.listed.flatMap((one) =>
      one.kind === kind && one.active && one.priceCents !== null ? [{ ...one, priceCents: one.priceCents }] : [],
    )
  }

  /** Is there a neutral in this box: 1 seen, 0 there is none, between: as likely as that. */
  neutralChance(boxId: string): number {
    const roles = Object.values(rolesIn(this.from.job, boxId))
    if (roles.includes('neutral')) return 1
    const survey = this.site.surveys[boxId]
    if (survey?.kind === 'fixture') return 1
    if (survey?.neutral) return survey.neutral === 'none' ? 0 : survey.looked === 'inside' ? 1 : 0.85
    return neutralPrior(this.site, this.from.known, boxId).chance
  }

  /** What a box has room for, in³: by the fill with a yoke in each gang, for modules; and really, bodies and all. Null: not known. */
  room(box: BoxState): { modulesIn3: number; bodiesIn3: number } | null {
    const counted = conductorsOf(box, this.site.surveys[box.id])
    if (!counted || box.volumeIn3 === null || this.site.schemeId !== 'na120') return null
    const conductors = counted.map((one) => ({ ...one, gaugeAwg: one.gaugeAwg ?? (12 as const) }))
    const size = {
      volumeIn3: box.volumeIn3,
      internalClamps: box.internalClamps,
      supportFittings: this.site.surveys[box.id]?.supportFittings ?? 0,
    }
    const fillWith = (gangs: number) =>
      fillOfBox(
        size,
        conductors,
        Array.from({ length: gangs }, () => ({ gangsWide: 1, bodyIn3: 0 })),
        this.from.edition,
      )
    return { modulesIn3: fillWith(box.gangs).freeIn3, bodiesIn3: fillWith(0).realRoomIn3 }
  }
  /** Why a body is too deep for its back box; null: it goes in, or nobody knows how deep that is. */
  tooDeep(box: BoxState, model: DeviceModel): string | null {
    if (this.site.schemeId !== 'iec230' || box.depthMm === null) return null
    const fit = depthFit(box.depthMm, [model.depthMm])
    return fit.fits ? null : fit.sentence
  }
  /** What a device in a gang takes of the room of its box. */
  takes(box: BoxState, model: DeviceModel): Record<string, number> {
    return model.gangsWide > 0
      ? { [`bodies:${box.id}`]: Math.max(0, model.bodyIn3 - oldBodyIn3) }
      : { [`modules:${box.id}`]: model.bodyIn3, [`bodies:${box.id}`]: model.bodyIn3 }
  }
  /** The limits of a box, for what `takes` names. */
  limitsOf(box: BoxState): Record<string, number> {
    const room = this.room(box)
    const gangs = Object.fromEntries(gangsOf(box).map((gang) => [`gang:${box.id}:${gang}`, 1]))
    return room
      ? { ...gangs, [`modules:${box.id}`]: room.modulesIn3, [`bodies:${box.id}`]: room.bodiesIn3 - box.gangs * oldBodyIn3 }
      : gangs
  }
  /** The plate of a box with one device in it: null where the device brings its own, or none is listed. */
  plateOf(box: BoxState, gang: number, model: DeviceModel): (Article & { priceCents: number }) | null {
    if (box.gangs === 1 && model.ownPlate) return null
    const survey = this.site.surveys[box.id]
    if (plateFor(rowOf(this.job, this.site, box, { gang, model }), survey?.plate ?? 'standard').plate === null) return null
    const listed = platesFor(this.from.parts.toSorted(byId), this.site.schemeId, box.gangs, survey?.plate ?? 'standard') ?? []
    const plate = listed.find(({ finish }) => finish === survey?.finish) ?? listed[0]
    return plate ? this.articleOf(plate.id) : null
  }
  /** Places still free on hubs of this maker that stand in the home. */
  freeOnHub(maker: string, hubName: string): number {
    return Object.values(this.site.networks).reduce((sum, { kind, name, holds, holdsMost }) => {
      const said = name.toLowerCase()
      const its = said.includes(maker.toLowerCase()) || said.includes(hubName.toLowerCase())
      return kind === 'hub' && its && holds !== null && holdsMost !== null ? sum + Math.max(0, holdsMost - holds) : sum
    }, 0)
  }
}
