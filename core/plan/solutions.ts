import type { LightPoint } from '../job/parts.schema'
import type { Article } from '../quote/article.schema'
import { sharedWeights } from './schools'
import { minutes } from './minutes'
import { PlanHome, type PlanSource } from './home'
import type { PlanProblem, Solution, Weights } from './problem'
import { solutionKinds, type SolutionKind } from './words'
import { channelWays, inWallWays, likelyEnough } from './ways/in-wall'
import { fixtureWays, lampWays } from './ways/outside-wall'
import { againCents, callbacksPerYear, devicesCents, onHub, type Excluded, type Told, type Way } from './ways/way'

/** The ways for a home, what is said of each, and why others are not open. */
export interface HomeWays {
  problem: PlanProblem
  told: Record<string, Told>
  excluded: Excluded[]
}
const unweighed: Weights = { comfortCents: 0, callbackCents: 0, years: 0, leaning: {} }
const leaveIt = (point: LightPoint): Way => ({
  kind: 'leave',
  points: [point],
  placed: [],
  unplaced: [],
  beside: [],
  minutes: 0,
  comfort: 0,
  less: [],
  told: { what: 'Stays as it is', because: ['Nothing is changed and nothing is paid.'] },
})

/**
 * Whether everything that joins something also joins what the household has: tried by us, promised only, or not at all. A
 * promise counts for nothing. Weights: common practice, no source.
 */
function joining(home: PlanHome, articles: Article[]): { because?: string; less?: { why: string; by: number } } | null {
  const name = home.from.household.worksWith
  if (!name || !articles.length) return null
  const said = articles.map(({ works }) => works.find((one) => one.with.toLowerCase() === name.toLowerCase()) ?? null)
  if (said.some((one) => one === null)) return { less: { why: `${name}: it does not join it by our lists`, by: 30 } }
  const tried = said.flatMap((one) => one?.triedOn ?? [])
  if (tried.length < said.length) return { less: { why: `${name}: its maker promises it, and we have not tried it`, by: 22 } }
  return { because: `Works with ${name}: tried by us, on ${tried.sort()[0]}.` }
}

/** A leaning to devices without a neutral is one for boxes that have none. */
const leansAs = (home: PlanHome, { kind, placed }: Way): SolutionKind | null =>
  kind === 'noNeutral' && placed[0] && home.neutralChance(placed[0].box.id) >= likelyEnough ? null : kind

/** Of a point’s ways those worth weighing: of one kind, maker and manner the cheapest, and the most comfortable where it differs. */
function worthWeighing(solutions: (Solution & { apps: string })[]): Solution[] {
  const groups = new Map<string, (Solution & { apps: string })[]>()
  for (const one of solutions) {
    const key = `${one.kind}|${one.pointIds.join()}|${one.apps}`
    groups.set(key, [...(groups.get(key) ?? []), one])
  }
  return [...groups.values()].flatMap((group) => {
    const cents = (one: Solution) => one.partsCents + one.minutes * 140
    const cheapest = group.reduce((best, one) => (cents(one) < cents(best) ? one : best))
    const best = group.reduce((a, b) =>
      b.comfort > a.comfort + 1e-9 || (Math.abs(b.comfort - a.comfort) < 1e-9 && cents(b) < cents(a)) ? b : a,
    )
    // Where room is short, the smallest body may be the only one that goes in beside another.
    const body = (one: Solution) =>
      Object.entries(one.uses).reduce((sum, [key, amount]) => (key.startsWith('bodies:') ? sum + amount : sum), 0)
    const smallest = group.reduce((a, b) => (body(b) < body(a) - 1e-9 ? b : a))
    return [...new Set([cheapest, best, smallest])]
  })
}

/**
 * All ways for every point of a home that is not solved yet, with what binds them: places, room, plates, rows, hubs, apps.
 * Whatever is not open says why, one sentence for each kind.
 */
export function waysOf(source: PlanSource): HomeWays {
  const home = new PlanHome(source)
  const points = home.points
  const told: Record<string, Told> = {}
  const excluded: Excluded[] = []
  const charges: PlanProblem['charges'] = {}
  const hubs: PlanProblem['hubs'] = {}
  const limits: Record<string, number> = {}
  const solutions: (Solution & { apps: string })[] = []
  for (const point of points)
    for (const { boxId } of [...point.controls, ...(point.fixtureBoxId ? [{ boxId: point.fixtureBoxId }] : [])]) {
      const box = home.box(boxId)
      if (box) Object.assign(limits, home.limitsOf(box))
    }
  const open = new Set(points.map(({ id }) => id))
  const found = points.flatMap((point) => [
    inWallWays(home, point),
    channelWays(home, point),
    fixtureWays(home, point),
    lampWays(home, point),
  ])
  for (const finds of found) excluded.push(...finds.excluded)
  for (const way of [...found.flatMap(({ ways }) => ways), ...points.map(leaveIt)]) {
    const pointIds = way.points.map(({ id }) => id)
    const lost = (why: string, nearness: number) => excluded.push({ kind: way.kind, pointIds, why, nearness })
    if (pointIds.some((id) => !open.has(id))) continue
    const partsCents = devicesCents(home, way)
    const unpriced = [...way.placed.map(({ model }) => model), ...way.unplaced].find(({ id }) => !home.articleOf(id))
    if (partsCents === null) {
      lost(`${unpriced?.name ?? 'A part'} has no price on the branch’s list.`, 9)
      continue
    }
    const models = [...way.placed.map(({ model }) => model), ...way.unplaced]
    const needs = new Set<string>()
    const perHub: Record<string, number> = {}
    let hubless: string | null = null
    for (const model of models) {
      if (model.radio !== 'none') {
        needs.add(`app:${model.maker}`)
        charges[`app:${model.maker}`] ??= {
          cents: home.hasApp(model.maker) ? 0 : sharedWeights.appCents,
          money: false,
          minutes: 0,
          articleId: null,
        }
        needs.add(`radio:${model.radio}`)
        charges[`radio:${model.radio}`] ??= { cents: sharedWeights.radioCents, money: false, minutes: 0, articleId: null }
      }
      if (!onHub(model)) continue
      const key = `hub:${model.maker}`
      const hub = home.articles('hub').find(({ maker }) => maker === model.maker)
      if (!hub) {
        hubless = `${model.name} wants a hub of its maker, and none on the list has a price.`
        continue
      }
      hubs[key] ??= {
        cents: hub.priceCents,
        minutes: minutes.hub,
        articleId: hub.id,
        holds: hub.holds ?? 50,
        free: home.freeOnHub(model.maker, hub.name),
      }
      perHub[key] = (perHub[key] ?? 0) + 1
    }
    if (hubless) {
      lost(hubless, 9)
      continue
    }
    for (const article of way.beside.map((one) => one.article))
      if (article.kind === 'smartLamp' || article.kind === 'plugIn' || article.kind === 'lampHolder') {
        needs.add(`app:${article.maker}`)
        charges[`app:${article.maker}`] ??= {
          cents: home.hasApp(article.maker) ? 0 : sharedWeights.appCents,
          money: false,
          minutes: 0,
          articleId: null,
        }
      }
    const uses: Record<string, number> = {}
    for (const { box, gang, model } of way.placed) {
      uses[`gang:${box.id}:${gang}`] = 1
      limits[`gang:${box.id}:${gang}`] = 1
      for (const [key, amount] of Object.entries(home.takes(box, model))) if (amount > 0) uses[key] = (uses[key] ?? 0) + amount
      if (model.gangsWide > 0) {
        const plate = home.plateOf(box, gang, model)
        if (plate) {
          needs.add(`plate:${box.id}`)
          charges[`plate:${box.id}`] ??= { cents: plate.priceCents, money: true, minutes: minutes.plate, articleId: plate.id }
        }
      }
    }
    // A row of several gangs looks of one piece when one maker’s fronts, or the old ones, fill it.
    for (const point of way.points)
      for (const { boxId, gang } of point.controls) {
        const box = home.box(boxId)
        if (!box || box.gangs < 2) continue
        const front = way.placed.find((one) => one.box.id === boxId && one.gang === gang && one.model.gangsWide > 0)
        const key = `look:${boxId}:${front ? front.model.maker : 'old'}`
        needs.add(key)
        charges[key] ??= { cents: sharedWeights.lookCents, money: false, minutes: 0, articleId: null }
      }
    const joins = joining(home, [
      ...models.filter(({ radio }) => radio !== 'none').flatMap((model) => home.articleOf(model.id) ?? []),
      ...way.beside.flatMap(({ article }) => (['smartLamp', 'plugIn', 'lampHolder'].includes(article.kind) ? [article] : [])),
    ])
    if (joins?.less) way.less.push(joins.less)
    const lesser = way.less.reduce((sum, { by }) => sum + by, 0)
    const heed = way.points.every(({ id }) => home.wish(id).cheapNow) ? 0.35 : 1
    const id = `${way.kind}:${pointIds.join('+')}:${way.placed.map(({ box, gang, model }) => `${box.id}/${gang}/${model.id}`).join(',')}:${way.unplaced.map((one) => one.id).join(',')}:${way.beside.map(({ article }) => article.id).join(',')}`
    told[id] = {
      leaves: [],
      offline: way.kind === 'leave' || models.length ? 'wall' : 'nothing',
      colour: null,
      ...way.told,
      because: [...(way.told.because ?? []), ...(joins?.because ? [joins.because] : [])],
      loses: [...(way.told.loses ?? []), ...way.less.map(({ why }) => why)],
    }
    solutions.push({
      id,
      kind: way.kind,
      pointIds,
      devices: way.placed.map(({ box, gang, model }) => ({ boxId: box.id, gang, modelId: model.id })),
      parts: [
        ...models.map((model) => ({ articleId: home.articleOf(model.id)!.id, quantity: 1 })),
        ...way.beside.map(({ article, quantity }) => ({ articleId: article.id, quantity })),
      ],
      partsCents,
      minutes: way.minutes,
      comfort: Math.max(0, way.comfort - lesser) * heed,
      callbacksPerYear: callbacksPerYear(home, way),
      leansAs: leansAs(home, way),
      leanCents: 0,
      againCents: againCents(home, way) + ((way.riskMinutes ?? 0) * source.money.hourlyCents) / 60,
      uses,
      needs: [...needs],
      onHub: perHub,
      apps: [...needs].filter((key) => key.startsWith('app:')).join(),
    })
  }
  const kept = points.length ? worthWeighing(solutions) : []
  return {
    problem: {
      pointIds: points.map(({ id }) => id),
      solutions: kept,
      limits,
      charges,
      hubs,
      weights: unweighed,
      hourlyCents: source.money.hourlyCents,
    },
    told: Object.fromEntries(kept.map(({ id }) => [id, told[id]!])),
    excluded: nearest(excluded, kept, points),
  }
}

/** One why for each point and kind that has no way: the one that came nearest. */
function nearest(given: Excluded[], open: Solution[], points: LightPoint[]): Excluded[] {
  const best = new Map<string, Excluded>()
  const unsaid = solutionKinds.map((kind): Excluded => ({
    kind,
    pointIds: points.map(({ id }) => id),
    why: 'No such thing is on the lists under this supply.',
    nearness: 0,
  }))
  const excluded = [...given, ...unsaid]
  for (const one of excluded)
    for (const pointId of one.pointIds) {
      if (open.some(({ kind, pointIds }) => kind === one.kind && pointIds.includes(pointId))) continue
      const key = `${pointId}|${one.kind}`
      const known = best.get(key)
      if (!known || known.nearness < one.nearness) best.set(key, { ...one, pointIds: [pointId] })
    }
  const rank = (kind: SolutionKind) => solutionKinds.indexOf(kind)
  return [...best.values()].sort((a, b) => rank(a.kind) - rank(b.kind))
}
