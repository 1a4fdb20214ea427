import { isCordless } from '../../fit/battery'
import { loadWatts } from '../../fit/device-model'
import type { DeviceModel } from '../../fit/device-schema'
import { arePartners, listens } from '../../fit/partners'
import { judgeAtGang } from '../../job/device-fit'
import type { LightPoint } from '../../job/parts.schema'
import { pointsOfBox } from '../../job/progress'
import { boxName, type BoxState } from '../../site'
import { loadTerminals } from '../../wiring/terminal-model'
import { minutes } from '../minutes'
import type { PlanHome } from '../home'
import type { SolutionKind } from '../words'
import { joiningMinutes, nothing, type Finds, type Way } from './way'

/** Below this a neutral that nobody saw is not built on. Common practice, no source. */
export const likelyEnough = 0.5
/** What settles a kind whatever the model. */
const decisive = 20

const needsNeutral = ({ terminals }: DeviceModel) => terminals.includes('neutral')
const channelsOf = ({ terminals }: DeviceModel) => loadTerminals.filter((terminal) => terminals.includes(terminal)).length || 1
export const sameControls = (a: LightPoint, b: LightPoint): boolean =>
  a.controls.length === b.controls.length &&
  a.controls.every((one) => b.controls.some(({ boxId, gang }) => boxId === one.boxId && gang === one.gang))

/** What a device that goes into these gangs loses against what is there. */
function losses(home: PlanHome, points: LightPoint[], model: DeviceModel): Way['less'] {
  const less: Way['less'] = []
  for (const { controls, load } of points)
    for (const { boxId, gang } of controls) {
      const old = home.site.surveys[boxId]?.old?.find((one) => one.gang === gang)?.is
      if (old === 'dimmer' && model.kind !== 'dimmer') less.push({ why: 'the dimming that is there now', by: 20 })
      if (old === 'fanRegulator' && model.kind !== 'fanControl') less.push({ why: 'the speeds of the old regulator', by: 30 })
      if (
        (load.technology === 'fan' || load.technology === 'motor') &&
        model.kind !== 'fanControl' &&
        old !== 'fanRegulator' &&
        load.technology === 'fan'
      )
        less.push({ why: 'speeds: the fan runs at one', by: 15 })
    }
  return less.filter((one, index) => less.findIndex(({ why }) => why === one.why) === index)
}
/** What a kind of device does of what one would want of a point, of 100. Common practice, no source. */
function comfortOf(model: DeviceModel, points: LightPoint[], kind: SolutionKind): number {
  const dims = model.kind === 'dimmer' && points.every(({ load }) => load.dimmable)
  const base = {
    withNeutral: 86,
    noNeutral: 80,
    batteryCompanion: 80,
    channelModule: 78,
    meteringRelay: 80,
    fanAndLight: 80,
    pullNeutral: 86,
  }[kind as 'withNeutral']
  const knowsItRuns = model.metering && points.some(({ mustRun }) => mustRun)
  return Math.min(100, base + (dims ? 12 : 0) + (knowsItRuns ? 18 : 0))
}

interface Place {
  box: BoxState
  gang: number
}
const locked = (home: PlanHome, points: LightPoint[]) => points.some(({ id }) => home.wish(id).stays === 'old')

/** Why this model does not go here for these points; null: it does. `watts`: nearly, so that it is told first. */
function refusal(
  home: PlanHome,
  { box, gang }: Place,
  model: DeviceModel,
  points: LightPoint[],
  loose: boolean,
): { why: string; nearness: number } | null {
  const remarks = judgeAtGang(home.job, home.site, box, gang, model, points).filter(({ severity }) => severity === 'block')
  // A battery companion stands in for the other locations.
  const blocks = loose ? remarks.filter(({ text }) => !text.includes('the model works from one only')) : remarks
  if (blocks.length) return { why: blocks[0]!.text, nearness: 10 - blocks.length }
  const deep = home.tooDeep(box, model)
  if (deep) return { why: `${deep} A deeper back box, or a relay at the fixture, would do.`, nearness: 8 }
  const room = home.room(box)
  if (room && room.modulesIn3 < 0)
    return { why: `${boxName(home.site, box)} is too full as it is (NEC 314.16): a larger box would change that.`, nearness: 8 }
  const takes = home.takes(box, model)
  const limits = home.limitsOf(box)
  if (Object.entries(takes).some(([key, amount]) => amount > (limits[key] ?? Infinity)))
    return {
      why: `No room for its ${model.bodyIn3} in³ in ${boxName(home.site, box)}: a larger box, or a relay at the fixture.`,
      nearness: 7,
    }
  if (points.length && model.minWatts > 0) {
    const watts = points.reduce((sum, { load }) => sum + loadWatts(load), 0)
    if (watts < model.minWatts)
      return { why: `${watts} W is below its minimum load of ${model.minWatts} W: lamps of more watts would change that.`, nearness: 9 }
  }
  const dims = points.some(({ id }) => home.wish(id).stays === 'dimmer')
  if (dims && model.kind !== 'dimmer' && model.kind !== 'companion')
    return { why: 'It is to stay a dimmer, and this one switches only.', nearness: 6 }
  if (model.kind === 'dimmer' && points.some(({ load }) => !load.dimmable))
    return { why: 'The lamps are not marked dimmable: with dimmable lamps a dimmer could be used.', nearness: 8 }
  return null
}

/** Something smart on the wall for what one gang switches: with or without a neutral, from one place or several. */
export function inWallWays(home: PlanHome, point: LightPoint): Finds {
  const finds = nothing()
  const exclude = (kind: SolutionKind, why: string, nearness: number) => finds.excluded.push({ kind, pointIds: [point.id], why, nearness })
  const places = point.controls.flatMap(({ boxId, gang }) => {
    const box = home.box(boxId)
    return box ? [{ box, gang }] : []
  })
  const kinds: SolutionKind[] = ['withNeutral', 'noNeutral', 'batteryCompanion', 'pullNeutral']
  if (places.length !== point.controls.length || locked(home, [point])) {
    const why =
      places.length !== point.controls.length
        ? 'One of its boxes is off the record: note where it is switched from.'
        : 'The old switch is to stay.'
    for (const kind of kinds) exclude(kind, why, decisive)
    return finds
  }
  const sharing = pointsOfBox(home.job, places[0]!.box.id, places[0]!.gang).filter((one) => one.fixtureBoxId !== places[0]!.box.id)
  const stranger = sharing.find((one) => !sameControls(one, point))
  if (stranger) {
    for (const kind of kinds)
      exclude(kind, `Its gang also switches ${stranger.name}, which other places switch too: the two would have to be parted.`, decisive)
    return finds
  }
  // Told once, with the first of those that one gang switches together.
  if (sharing[0]!.id !== point.id) return finds
  const several = places.length > 1
  for (const main of places) {
    const others = places.filter((one) => one !== main)
    const chance = home.neutralChance(main.box.id)
    for (const model of home.models) {
      if (model.gangsWide === 0 || model.kind === 'companion' || channelsOf(model) > 1) continue
      const neutral = needsNeutral(model)
      const kind: SolutionKind = neutral ? 'withNeutral' : 'noNeutral'
      const base = {
        points: sharing,
        unplaced: [],
        beside: [],
        less: losses(home, sharing, model),
      }
      const refused = refusal(home, main, model, sharing, false)
      const where = several ? ` in ${boxName(home.site, main.box)}` : ''
      if (neutral && chance < likelyEnough) {
        const why =
          chance === 0
            ? `No neutral in ${boxName(home.site, main.box)}: one would have to be pulled, or a device without used.`
            : `A neutral in ${boxName(home.site, main.box)} is about ${Math.round(chance * 20) * 5} % likely: opening it would tell.`
        exclude(kind, why, 9)
        const pull = home.from.household.renovating
          ? refused
          : { why: 'Walls are not opened here: during a renovation a neutral could be pulled.', nearness: 9 }
        if (pull) exclude('pullNeutral', pull.why, pull.nearness)
        else if (!several || model.multiWay === 'commonTravelers')
          finds.ways.push({
            ...base,
            kind: 'pullNeutral',
            placed: [{ ...main, model }],
            minutes: minutes.device + minutes.pullNeutral + joiningMinutes([model]),
            comfort: comfortOf(model, sharing, 'pullNeutral'),
            told: { what: `${model.maker} ${model.name}${where}, with a new neutral`, because: ['The wall is opened and patched.'] },
          })
      } else {
        if (neutral) exclude('pullNeutral', chance === 1 ? 'There is a neutral already.' : 'A neutral is likely there already.', 5)
        const because = !neutral
          ? ['It needs no neutral.']
          : chance === 1
            ? [`Neutral seen in ${boxName(home.site, main.box)}.`]
            : [`A neutral in ${boxName(home.site, main.box)} is about ${Math.round(chance * 20) * 5} % likely, not seen.`]
        if (neutral && main.box.breakerIds.length > 1)
          because.push(
            `${boxName(home.site, main.box)} has ${main.box.breakerIds.length} feeds: the neutral has to be of its own circuit, and the bench tells.`,
          )
        const riskMinutes = neutral && chance < 1 ? (1 - chance) * minutes.surprise : 0
        const way = (companion: DeviceModel | null): Way => ({
          ...base,
          kind,
          placed: [{ ...main, model }, ...others.flatMap((one) => (companion ? [{ ...one, model: companion }] : []))],
          minutes:
            minutes.device +
            others.length * (companion ? minutes.companion : 0) +
            joiningMinutes([model, ...(companion ? others.map(() => companion) : [])]),
          comfort: comfortOf(model, sharing, kind),
          told: {
            what: `${model.maker} ${model.name}${where}${companion ? `, ${companion.name} at the other end` : several ? ', the old {3-way} stays at the other end' : ''}`,
            because,
          },
          riskMinutes,
        })
        if (refused) exclude(kind, refused.why, refused.nearness)
        else if (!several || model.multiWay === 'commonTravelers') finds.ways.push(way(null))
        else if (model.multiWay === 'sensedTraveler' || listens(model)) {
          const companion = home.models.find(
            (one) => one.kind === 'companion' && !isCordless(one) && arePartners(one, model) && one.family === model.family,
          )
          const dark = others.find(({ box }) => companion && needsNeutral(companion) && home.neutralChance(box.id) < likelyEnough)
          const tight = companion ? others.map((one) => refusal(home, one, companion, [], false)).find(Boolean) : null
          if (!companion) exclude(kind, `${model.name} has no companion on the list for the other locations.`, 7)
          else if (dark)
            exclude(kind, `Its companion needs a neutral in ${boxName(home.site, dark.box)} too: a battery companion does not.`, 8)
          else if (tight) exclude(kind, tight.why, tight.nearness)
          else finds.ways.push(way(companion))
        }
      }
      if (!several) continue
      // A battery companion: one smart device, nothing but air to the others.
      const loose = refusal(home, main, model, sharing, true)
      const battery = home.models.find((one) => isCordless(one) && arePartners(one, model) && one.family === model.family)
      if (!battery) exclude('batteryCompanion', `${model.name} has no battery companion on the list.`, 4)
      else if (neutral && chance < likelyEnough)
        exclude('batteryCompanion', `No neutral in ${boxName(home.site, main.box)} for its partner.`, 6)
      else if (loose) exclude('batteryCompanion', loose.why, loose.nearness)
      else
        finds.ways.push({
          ...base,
          kind: 'batteryCompanion',
          placed: [{ ...main, model }, ...others.map((one) => ({ ...one, model: battery }))],
          minutes:
            minutes.device +
            others.length * (minutes.batteryCompanion + minutes.joinThrough) +
            joiningMinutes([model, ...others.map(() => battery)]),
          comfort: comfortOf(model, sharing, 'batteryCompanion') - (home.from.household.plainControls ? 6 : 0),
          told: {
            what: `${model.maker} ${model.name}${where}, ${battery.name} at the other end`,
            because: ['No wire between the locations is needed.'],
            leaves: ['The other box is closed behind the companion, its conductors joined.'],
          },
          less: [...base.less, { why: 'a battery to change every few years', by: 4 }],
          riskMinutes: neutral && chance < 1 ? (1 - chance) * minutes.surprise : 0,
        })
    }
  }
  if (!several) exclude('batteryCompanion', 'It is switched from one place only.', 1)
  return finds
}

/** Modules behind the old switches, and devices of several channels for two points of one box. */
export function channelWays(home: PlanHome, point: LightPoint): Finds {
  const finds = nothing()
  const exclude = (kind: SolutionKind, why: string, nearness: number) => finds.excluded.push({ kind, pointIds: [point.id], why, nearness })
  const [control] = point.controls
  const box = control ? home.box(control.boxId) : null
  if (!control || !box) return finds
  const here: Place = { box, gang: control.gang }
  const chance = home.neutralChance(box.id)
  const several = point.controls.length > 1
  const mates = pointsOfBox(home.job, box.id).filter(
    (one) =>
      one.id !== point.id &&
      one.controls.length === 1 &&
      one.fixtureBoxId !== box.id &&
      one.controls[0]!.gang !== control.gang &&
      home.points.some(({ id }) => id === one.id),
  )
  const alone = pointsOfBox(home.job, box.id, control.gang).filter((one) => one.fixtureBoxId !== box.id).length === 1
  for (const model of home.models) {
    const channels = channelsOf(model)
    const isBehind = model.gangsWide === 0 && (model.kind === 'relayModule' || model.kind === 'dimmer') && model.terminals.includes('sense')
    const fanAndLamp = model.terminals.includes('fan')
    const kind: SolutionKind = model.metering
      ? 'meteringRelay'
      : isBehind
        ? 'channelModule'
        : fanAndLamp
          ? 'fanAndLight'
          : needsNeutral(model)
            ? 'withNeutral'
            : 'noNeutral'
    if (!isBehind && channels < 2) continue
    if (needsNeutral(model) && chance < likelyEnough) {
      exclude(kind, `No neutral in ${boxName(home.site, box)} that one may build on: a relay at the fixture needs none here.`, 6)
      continue
    }
    const riskMinutes = needsNeutral(model) && chance < 1 ? (1 - chance) * minutes.surprise : 0
    if (isBehind && channels === 1) {
      if (!alone) exclude(kind, 'Its gang switches something else too.', 2)
      else if (several && model.multiWay !== 'sensedTraveler') exclude(kind, 'It works from one place only.', 4)
      else {
        const refused = refusal(home, here, model, [point], false)
        if (refused) exclude(kind, refused.why, refused.nearness)
        else
          finds.ways.push({
            kind,
            points: [point],
            placed: [{ ...here, model }],
            unplaced: [],
            beside: [],
            minutes: minutes.moduleBehind + joiningMinutes([model]),
            comfort: comfortOf(model, [point], kind),
            less: losses(home, [point], model).filter(({ why }) => !why.includes('dimming') || model.kind !== 'dimmer'),
            told: {
              what: `${model.maker} ${model.name} behind the old switch`,
              because: [
                'The old switch stays on the wall, as an input.',
                ...(model.metering ? ['It knows whether the load really runs.'] : []),
              ],
            },
            riskMinutes,
          })
      }
      continue
    }
    const partners = mates.filter((mate) => mate.id > point.id)
    const fans = [point, ...mates].filter(({ load }) => load.technology === 'fan').length
    if (kind === 'fanAndLight' && !fans) exclude(kind, 'No fan is switched from its box.', 4)
    else if (!mates.length) exclude(kind, 'Nothing else is switched from its box that it could take too.', 2)
    if (partners.length && box.breakerIds.length > 1) {
      exclude(
        kind,
        `${boxName(home.site, box)} is fed by ${box.breakerIds.length} {breakers}: one device may not join two circuits.`,
        decisive,
      )
      continue
    }
    for (const mate of several || !alone ? [] : partners) {
      const isFan = (one: LightPoint) => one.load.technology === 'fan'
      if (fanAndLamp && isFan(point) === isFan(mate)) {
        exclude(kind, 'It takes one fan and one lamp.', 3)
        continue
      }
      const points = fanAndLamp && isFan(point) ? [mate, point] : [point, mate]
      const far = home.from.job.points[mate.id]!.controls[0]!.gang
      if (locked(home, points) && !isBehind) {
        exclude(kind, 'The old switch is to stay.', decisive)
        continue
      }
      const refused = points.map((one) => refusal(home, here, model, [one], false)).find(Boolean)
      if (refused) {
        exclude(kind, refused.why, refused.nearness)
        continue
      }
      const blank = home.articles('blank')[0]
      if (!isBehind && !blank) {
        exclude(kind, 'It frees a gang, and no blank insert is on the list to cover it.', 8)
        continue
      }
      finds.ways.push({
        kind,
        points,
        placed: [{ ...here, model }],
        unplaced: [],
        beside: isBehind ? [] : [{ article: blank!, quantity: 1 }],
        minutes: (isBehind ? minutes.moduleBehind : minutes.device) + minutes.eachFurtherChannel + joiningMinutes([model]),
        // Two keys in one gang, and a blank beside them.
        comfort: comfortOf(model, points, kind) - (isBehind ? 0 : 6) - (fanAndLamp && !isBehind && home.from.household.guests ? 12 : 0),
        less: losses(home, points, model),
        told: {
          what: `${model.maker} ${model.name}${isBehind ? ' behind both old switches' : ` in gang ${here.gang}, for both`}`,
          because: [
            isBehind ? 'The old switches stay on the wall, as inputs.' : 'Two functions in one gang.',
            ...(box.breakerIds.length === 1 && !box.unknownFeed ? [] : ['Only where one {breaker} feeds both: that is looked at first.']),
          ],
          leaves: isBehind ? [] : [`Gang ${far} stays empty behind a blank insert.`],
        },
        riskMinutes,
      })
    }
  }
  return finds
}
