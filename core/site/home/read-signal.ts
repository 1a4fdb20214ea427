import { accept, refuse } from '../../stream/envelope'
import { siteCommand, siteEvent } from '../define'
import { noBox, noRoom } from '../refusals'
import type { ReadSignal, SignalRead } from './read-signal.schema'

/** What the signal was at a spot, before a wall is opened. A reading at the same spot on the same band counts over an earlier one. */
export const readSignal = siteCommand('readSignal', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide(site, command: ReadSignal) {
    if (command.boxId && !site.boxes[command.boxId]) return noBox()
    if (command.roomId && !site.rooms[command.roomId]) return noRoom()
    if (!command.boxId && !command.roomId) return refuse('noPlace', 'A reading is taken somewhere.', 'Pick the box or the room.')
    if (command.networkId && !site.networks[command.networkId])
      return refuse('noSuchNetwork', 'There is no such network at this site.', 'Pick it again.')
    if (command.dbm === null && command.bars === null && command.roundTripMs === null)
      return refuse('nothingRead', 'Nothing was read.', 'Set the bars, or type the dBm.')
    return accept(signalRead(command))
  },
  label: ({ bars, dbm }) => `signal: ${dbm !== null ? `${dbm} dBm` : bars !== null ? `${bars} bars` : 'round trip'}`,
})

export const signalRead = siteEvent('signalRead', {
  evolve(site, payload: SignalRead, event) {
    site.signals = site.signals.filter(
      (one) =>
        !(one.boxId === payload.boxId && one.roomId === payload.roomId && one.band === payload.band && one.networkId === payload.networkId),
    )
    site.signals.push({ ...payload, at: event.receivedAt, by: event.actor.initials })
  },
  say(payload, { site, box }) {
    const where = payload.boxId ? box(payload.boxId) : (site.rooms[payload.roomId ?? '']?.name ?? 'the home')
    const read = [
      ...(payload.dbm !== null ? [`${payload.dbm} dBm`] : []),
      ...(payload.bars !== null ? [`${payload.bars} of 4 bars`] : []),
      ...(payload.roundTripMs !== null ? [`${payload.roundTripMs} ms there and back`] : []),
    ]
    return `read the signal at ${where}, ${payload.band} GHz: ${read.join(', ')}`
  },
})
