import { terminalWords } from '../../connect'
import type { HomeSolution } from '../home'
import { isChangeover, loadTerminalOf } from '../terminal-model'
import { deviceId } from './plan'
import { nameOfDevice, type Judged, type Prediction } from './verdicts'

type Light = Judged['home']['outside']['lights'][number]
/** What hangs on a channel, keyed `part channel`. */
export type ChannelLoads = Map<string, { watts: number; lights: string[] }>

/** Is every light switched, in every position, by what should switch it? */
export function checkLights(judged: Judged): ChannelLoads {
  const loads: ChannelLoads = new Map()
  if (judged.rows.all.length) for (const light of judged.home.outside.lights) checkLight(judged, light, loads)
  return loads
}

function checkLight(judged: Judged, light: Light, loads: ChannelLoads) {
  const { plan, home, rows, actuators: hands, moves, say } = judged
  const name = `The ${light.motor ? 'motor' : 'light'} on ${light.letter}`
  const total = rows.all.length
  if (rows.all.every((row) => row.lights[light.id] === 'on')) return say('block', 'alwaysOn', `${name} is always on.`)
  // Who moves it: channels of devices, relays, old switches, other switches.
  const movers = hands.filter((hand) => moves(hand, light.id))
  const mine = movers.filter((hand) => hand.model)
  if (!movers.length || (home.devices.length && !mine.length)) {
    // Switched at the other location: the bench of that box proves it.
    if (!plan.elsewhere.some((other) => other.becomes === 'partner'))
      say('block', 'nobodySwitches', `${name} is dead: nothing switches it.`)
    return
  }
  const part = home.outside.parts.find((one) => one.id === light.id)
  for (const hand of mine) {
    const key = `${hand.id} ${hand.bit}`
    const load = loads.get(key) ?? { watts: 0, lights: [] }
    load.watts += part && 'watts' in part ? part.watts : 0
    load.lights.push(light.id)
    loads.set(key, load)
    const terminal = loadTerminalOf(hand.model!, hand.bit)
    if (hand.model!.terminals.includes('fan') && (terminal === 'fan') !== (part?.kind === 'motor'))
      say(
        'block',
        'wrongChannel',
        part?.kind === 'motor' ? `${name} is a motor on a channel for lamps: it goes on fan.` : `${name} is a lamp on the fan’s channel.`,
      )
  }
  let wrong = 0
  let glowing = 0
  for (const row of rows.all) {
    const lit = row.lights[light.id] === 'on'
    const half = row.lights[light.id] === 'glow' || row.lights[light.id] === 'dim'
    if (half) glowing++
    for (const hand of mine) {
      if (isChangeover(hand.model!)) {
        // Two 3-ways: from every position of the others, exactly one side of this one lights it.
        const other = rows.flipped(row, hand)
        if (other && (other.lights[light.id] === 'on') === lit) wrong++
      } else if (((row.positions[hand.id]! >> hand.bit) & 1) !== Number(lit) && !half) wrong++
    }
  }
  if (wrong) say('block', 'deadInState', `${name} does not follow in ${wrong} of ${total} positions.`)
  if (glowing)
    say('warn', 'glowsWhenOff', `${name} glows or flickers in ${glowing} of ${total} positions: below the minimum load, or not dimmable.`)
  if (!wrong && !glowing) say('good', 'works', `${name} works in ${total} of ${total} positions.`)
}

/** More than a channel carries. */
export function checkChannels({ found, home, say }: Judged, loads: ChannelLoads) {
  for (const device of home.devices)
    for (let channel = 0; channel < device.model.channels; channel++) {
      const load = loads.get(`${deviceId(device.gang)} ${channel}`)
      const amps = (load?.watts ?? 0) / found.nominalVolts
      if (device.model.channelAmps && amps > device.model.channelAmps)
        say(
          'block',
          'overChannel',
          `${nameOfDevice(home, device)}: ${amps.toFixed(1)} A on ${terminalWords[loadTerminalOf(device.model, channel)!]}, its channel carries ${device.model.channelAmps} A.`,
        )
    }
}

/** What the devices that measure should show in a row. */
export const meteredIn = ({ home }: Judged, loads: ChannelLoads, solved: HomeSolution): Prediction['metered'] =>
  home.devices
    .filter((device) => device.model.metering)
    .map(({ gang }) => {
      const own = [...loads].filter(([key]) => key.startsWith(`${deviceId(gang)} `)).flatMap(([, load]) => load.lights)
      return { gang, watts: Math.round(own.reduce((sum, light) => sum + solved.watts(light), 0)) }
    })
