import { boxesOfJob, pointsInOrder } from '../job/progress'
import type { JobState } from '../job/state'
import { inPanelOrder } from '../site/feeds'
import type { BreakerRecord, SiteState } from '../site/state'
import { jobFileVersion, type FilePoint, type JobFile } from './job-file'
import { keysFor } from './keys'

/** What the record of a job does not hold itself. */
export interface FileHead {
  customer: JobFile['customer']
  site: Pick<JobFile['site'], 'name' | 'address' | 'yearBuilt'>
}

/** A box called after its room is not called so twice. */
const withRoom = (room: string, name: string) => (name.toLowerCase().startsWith(room.toLowerCase()) ? name : `${room} ${name}`)

/**
 * The survey of a home as a job file: its rooms, panels, boxes of the job, points, networks and readings. What protects people
 * stays behind: tags, proofs, what was ruled out, and the door code.
 */
export function jobFileOf(job: JobState, site: SiteState, head: FileHead): JobFile {
  const boxes = boxesOfJob(job, site)
  const rooms = site.roomOrder.map((id) => site.rooms[id]!)
  const networks = Object.values(site.networks)
  const keyOf = {
    room: keysFor(rooms),
    box: keysFor(boxes.map(({ id, roomId, name }) => ({ id, name: withRoom(site.rooms[roomId]?.name ?? '', name) }))),
    panel: keysFor(Object.values(site.panels)),
    source: keysFor(Object.values(site.sources)),
    network: keysFor(networks.map(({ networkId, name }) => ({ id: networkId, name }))),
  }
  const known = (keys: Map<string, string>, id: string | null) => (id === null ? null : (keys.get(id) ?? null))
  /** What stands in no room of the list is listed in its first. */
  const roomOf = (id: string) => keyOf.room.get(id) ?? keyOf.room.values().next().value!
  const all = Object.values(site.breakers).sort(inPanelOrder)
  const pointOf = ({ panelId, number }: BreakerRecord): FilePoint => ({ panel: known(keyOf.panel, panelId), breaker: number })
  const pointsOf = (ids: string[]) =>
    ids.flatMap((id) => (site.breakers[id] && site.breakers[id].role !== 'main' ? [pointOf(site.breakers[id])] : []))
  const listed = ({ number, poles, amps, labelAsFound: label, state, offLimits, protection }: BreakerRecord) => ({
    ...{ number, poles, amps, label, state, protection },
    // The file wants a reason that says something.
    offLimits: offLimits === null ? null : offLimits.padEnd(3, '.'),
  })
  const sources = Object.values(site.sources).map(({ id, kind, name }) => ({ key: keyOf.source.get(id)!, kind: kind as never, name }))
  return {
    format: 'circuitry.job',
    version: jobFileVersion,
    job: { title: job.title, note: job.note },
    customer: head.customer,
    site: { ...head.site, ...site.home, scheme: site.schemeId, doorCode: '', sources },
    panels: Object.values(site.panels).map((panel) => {
      const inside = all.filter(({ panelId }) => panelId === panel.id)
      const mains = inside.flatMap(({ role, sourceId, number, amps, state }) =>
        role === 'main' && sourceId && keyOf.source.has(sourceId) ? [{ number, amps, source: keyOf.source.get(sourceId)!, state }] : [],
      )
      const [first = null, ...others] = mains
      const [fedFrom = null, ...alsoFedFrom] = all
        .filter(({ role, suppliesPanelId }) => role !== 'main' && suppliesPanelId === panel.id)
        .map(pointOf)
      const { name, place } = panel
      const breakers = inside.filter(({ role }) => role !== 'main').map(listed)
      return { key: keyOf.panel.get(panel.id)!, name, place, main: first, otherMains: others, fedFrom, alsoFedFrom, breakers }
    }),
    disconnects: all.filter(({ panelId, role }) => panelId === null && role !== 'main').map(listed),
    sharedNeutrals: site.neutralTies.map(pointsOf).filter((tie) => tie.length > 1),
    rooms: rooms.map(({ id, name }) => ({ key: keyOf.room.get(id)!, name, place: site.places[id] ?? null })),
    boxes: boxes.map((box) => {
      const { name, gangs, volumeIn3, depthMm, material, internalClamps, unknownFeed } = box
      return {
        ...{ name, gangs, volumeIn3, depthMm, material, internalClamps, unknownFeed },
        key: keyOf.box.get(box.id)!,
        room: roomOf(box.roomId),
        feeds: pointsOf(box.breakerIds),
        survey: { ...site.surveys[box.id] },
      }
    }),
    points: pointsInOrder(job).map(({ name, roomId, load, mustRun, controls, fixtureBoxId }) => ({
      ...{ name, load, mustRun },
      room: roomOf(roomId),
      fixture: known(keyOf.box, fixtureBoxId),
      controls: controls.flatMap(({ boxId, gang }) => (keyOf.box.has(boxId) ? [{ box: keyOf.box.get(boxId)!, gang }] : [])),
    })),
    networks: networks.map(({ networkId, roomId, at: _, ...facts }) => ({
      ...facts,
      key: keyOf.network.get(networkId)!,
      room: known(keyOf.room, roomId),
    })),
    signals: site.signals.flatMap(({ boxId, roomId, networkId, band, dbm, bars, roundTripMs }) => {
      const [box, room] = [known(keyOf.box, boxId), known(keyOf.room, roomId)]
      return box === null && room === null ? [] : [{ box, room, network: known(keyOf.network, networkId), band, dbm, bars, roundTripMs }]
    }),
  }
}
