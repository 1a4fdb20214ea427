import { isCordless } from '../../fit/battery'
import { judgeDevice, loadWatts } from '../../fit/device-model'
import type { DeviceModel } from '../../fit/device-schema'
import type { LightPoint } from '../../job/parts.schema'
import { minutes } from '../minutes'
import type { PlanHome } from '../home'
import { lightColourWords } from '../words'
import { joiningMinutes, nothing, type Finds, type Way } from './way'

const isLamp = ({ technology }: LightPoint['load']) => technology === 'led' || technology === 'filament'

/** Relays at the fixture: with senders behind the old switches, or with battery remotes on the wall. */
export function fixtureWays(home: PlanHome, point: LightPoint): Finds {
  const finds = nothing()
  const exclude = (why: string, nearness: number) => finds.excluded.push({ kind: 'relayAtFixture', pointIds: [point.id], why, nearness })
  if (point.load.technology === 'socket') {
    exclude('A socket has no fixture: a plug-in module does the same.', 1)
    return finds
  }
  const fixture = point.fixtureBoxId ? home.box(point.fixtureBoxId) : null
  const boxes = point.controls.map(({ boxId }) => home.box(boxId))
  if (boxes.some((box) => !box)) {
    exclude('One of its boxes is off the record.', 1)
    return finds
  }
  for (const model of home.models) {
    const isRelay = model.gangsWide === 0 && (model.kind === 'relayModule' || model.kind === 'dimmer') && !model.terminals.includes('sense')
    if (!isRelay) continue
    const wants = home.wish(point.id)
    if (wants.stays === 'dimmer' && model.kind !== 'dimmer') {
      exclude('It is to stay a dimmer, and this relay switches only.', 6)
      continue
    }
    if (model.kind === 'dimmer' && !point.load.dimmable) {
      exclude('The lamps are not marked dimmable.', 7)
      continue
    }
    const block = judgeDevice(model, point.load, { schemeId: home.site.schemeId, controlLocations: 1, neutralEstablished: true }).find(
      ({ severity }) => severity === 'block',
    )
    const unearthed = home.site.home.neutralEarthed === false && !model.bothPoles
    if (block || unearthed) {
      exclude(block?.text ?? 'Neither conductor is tied to {ground} here, and it breaks one only.', 8)
      continue
    }
    const gangs = point.controls.length
    const senders = home.models.filter(({ kind, family }) => kind === 'sender' && family === model.family)
    const sender = senders.find(({ terminals }) => !terminals.includes('sense2')) ?? senders[0]
    const remote = home.models.find((one) => isCordless(one) && one.family === model.family)
    const old = point.controls.map(({ boxId, gang }) => home.site.surveys[boxId]?.old?.find((one) => one.gang === gang)?.is)
    const less: Way['less'] = [
      ...(old.includes('dimmer') && model.kind !== 'dimmer' ? [{ why: 'the dimming that is there now', by: 20 }] : []),
      ...(old.includes('fanRegulator') ? [{ why: 'the speeds of the old regulator, which comes out', by: 30 }] : []),
    ]
    const common = {
      kind: 'relayAtFixture' as const,
      points: [point],
      beside: [],
      comfort: 84 + (model.kind === 'dimmer' ? 8 : 0) + (model.metering && point.mustRun ? 8 : 0),
    }
    const because = [
      'No neutral is needed at the switch, and no minimum load.',
      'Work at the fixture is the licensed person’s.',
      'The fixture stays live when it is off: its {breaker} is opened before anybody works there.',
      ...(fixture ? [] : ['The box at its fixture is not on record yet: somebody looks first.']),
    ]
    const at = fixture ? { placed: [{ box: fixture, gang: 1, model }], unplaced: [] as DeviceModel[] } : { placed: [], unplaced: [model] }
    const inGangs = (it: DeviceModel) => point.controls.map(({ boxId, gang }) => ({ box: home.box(boxId)!, gang, model: it }))
    if (sender)
      finds.ways.push({
        ...common,
        placed: [...at.placed, ...inGangs(sender)],
        unplaced: at.unplaced,
        minutes: minutes.relayAtFixture + gangs * minutes.senderBehind + joiningMinutes([model]),
        less,
        told: {
          what: `${model.maker} ${model.name}, ${sender.name} behind the old switch`,
          because: [...because, 'The old switch stays on the wall and works without internet.'],
        },
      })
    if (remote && wants.stays !== 'old')
      finds.ways.push({
        ...common,
        placed: [...at.placed, ...inGangs(remote)],
        unplaced: at.unplaced,
        minutes: minutes.relayAtFixture + gangs * (minutes.batteryCompanion + minutes.joinThrough) + joiningMinutes([model, remote]),
        comfort: common.comfort - (home.from.household.plainControls ? 8 : 2),
        less: [...less, { why: 'a battery to change every few years', by: 4 }],
        told: { what: `${model.maker} ${model.name}, ${remote.name} in place of the old switch`, because },
      })
    if (!sender && !remote) exclude(`${model.name} has no sender and no remote on the list.`, 5)
  }
  if (!finds.ways.length && !finds.excluded.length) exclude('No relay for a fixture is on the list under this supply.', 3)
  return finds
}

/** Smart lamps with a guard over the old switch, and modules in a socket or a lamp holder. */
export function lampWays(home: PlanHome, point: LightPoint): Finds {
  const finds = nothing()
  const exclude = (kind: 'smartLamps' | 'plugIn', why: string, nearness: number) =>
    finds.excluded.push({ kind, pointIds: [point.id], why, nearness })
  const wish = home.wish(point.id)
  const { guests, plainControls } = home.from.household
  const { load } = point
  const takes = isLamp(load)
  const lamps = home.articles('smartLamp')
  const guard = home.articles('guard')[0]
  const remote = home.articles('remote')[0]
  const dimmed = point.controls.some(({ boxId, gang }) => home.site.surveys[boxId]?.old?.find((one) => one.gang === gang)?.is === 'dimmer')
  if (!takes) exclude('smartLamps', 'It has no lamps.', 1)
  else if (dimmed)
    exclude('smartLamps', 'A dimmer sits before it, and a smart lamp does not go behind one: a plain switch in its place would do.', 8)
  else if (wish.noLamps) exclude('smartLamps', 'No smart lamps are wanted here.', 5)
  else if (!lamps.length) exclude('smartLamps', 'No smart lamp on the list has a price.', 4)
  else if (!guard || !remote)
    exclude('smartLamps', 'A guard over the switch and a battery remote are not on the list: a switch that is off ends the app.', 6)
  else
    for (const article of lamps) {
      const colour = article.lamp!.colour
      const off = wish.colour !== null && colour !== wish.colour && colour !== 'changing'
      if (wish.colour === 'changing' && colour !== 'changing') {
        exclude('smartLamps', `${article.name} gives ${lightColourWords[colour]} only, and any colour is wanted.`, 7)
        continue
      }
      const places = point.controls.length
      finds.ways.push({
        kind: 'smartLamps',
        points: [point],
        placed: [],
        unplaced: [],
        beside: [
          { article, quantity: load.lamps },
          { article: guard, quantity: places },
          { article: remote, quantity: places },
        ],
        minutes: load.lamps * minutes.lamp + places * (minutes.guard + minutes.pairing) + load.lamps * 2,
        comfort: 62 + (colour === 'changing' ? 8 : 0) + (wish.colour === 'changing' ? 24 : 0),
        less: [
          ...(guests ? [{ why: 'light by the app when a guest turns the wall switch off', by: 28 }] : []),
          ...(plainControls ? [{ why: 'the switch as it always was: a guard sits over it', by: 12 }] : []),
          ...(off ? [{ why: `${lightColourWords[wish.colour!]}, for the lamps give ${lightColourWords[colour]}`, by: 18 }] : []),
        ],
        told: {
          what: `${load.lamps} × ${article.maker} ${article.name}, a guard and a remote`,
          because: [
            'No wiring. Only where the lamps screw or plug in: somebody looks first.',
            load.lamps > 3 ? `${load.lamps} lamps cost ${load.lamps} times.` : 'Few lamps.',
          ],
          offline: 'remote',
          colour,
        },
      })
    }
  const watts = loadWatts(load)
  const modules = load.technology === 'socket' ? home.articles('plugIn') : load.lamps === 1 && takes ? home.articles('lampHolder') : []
  const fitting = modules.find(({ mostWatts }) => mostWatts !== null && mostWatts >= watts)
  if (wish.stays === 'dimmer') exclude('plugIn', 'It is to stay a dimmer, and a module switches only.', 4)
  else if (load.technology !== 'socket' && !(load.lamps === 1 && takes))
    exclude('plugIn', 'It has no socket, and not one single lamp holder.', 2)
  else if (dimmed) exclude('plugIn', 'A dimmer sits before it: a module does not go behind one.', 6)
  else if (!modules.length) exclude('plugIn', 'No such module on the list has a price.', 3)
  else if (!fitting) exclude('plugIn', `${watts} W is above what the modules on the list switch.`, 7)
  else
    finds.ways.push({
      kind: 'plugIn',
      points: [point],
      placed: [],
      unplaced: [],
      beside: [{ article: fitting, quantity: 1 }],
      minutes: minutes.plugIn + minutes.pairing,
      comfort: 54,
      less: guests ? [{ why: 'light by the app when a guest turns the wall switch off', by: 20 }] : [],
      told: {
        what: `${fitting.maker} ${fitting.name}`,
        because: [load.technology === 'socket' ? 'No wiring.' : 'No wiring. Only where the lamp screws in: somebody looks first.'],
        loses: [load.technology === 'socket' ? 'a free socket: the module sits in it' : 'the look of the lamp: the module sits under it'],
        offline: 'remote',
      },
    })
  return finds
}
