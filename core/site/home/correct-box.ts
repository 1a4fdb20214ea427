import { counted } from '../../units/counted'
import { accept, refuse } from '../../stream/envelope'
import { alarm } from '../../stream/telling'
import { boxAt, end } from '../changes'
import { consequenceOfPath, nothingEnds } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { isBoxNamed } from '../names'
import { noBox, noRoom } from '../refusals'
import type { BoxState, SiteState } from '../state'
import { ended } from '../telling'
import type { BoxCorrected, CorrectBox } from './correct-box.schema'

/** What it is called before it is corrected. */
export const calledNow = (site: SiteState, box: BoxState) => ({ name: box.name, room: site.rooms[box.roomId]?.name ?? '' })
/** A box at a fixture has no switch that others would have to be read with. */
const hasNoSwitch = (site: SiteState, box: BoxState) => site.surveys[box.id]?.kind === 'fixture'
/** The boxes that this tells of a switch they did not know of: both ends of each pair, of a fixture only itself. */
function newlyTied(site: SiteState, box: BoxState, farBoxIds: string[]): BoxState[] {
  const more = farBoxIds.filter((id) => id !== box.id && !box.farBoxIds.includes(id))
  return more.length ? [box, ...(hasNoSwitch(site, box) ? [] : more.flatMap((id) => site.boxes[id] ?? []))] : []
}

export const correctBox = siteCommand('correctBox', {
  kind: 'work',
  by: 'office',
  queues: true,
  decide(site, command: CorrectBox, { installedGangs }) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    if (command.roomId && !site.roomOrder.includes(command.roomId)) return noRoom()
    if (command.farBoxIds?.some((id) => !site.boxes[id])) return noBox()
    if ((command.farBoxIds ?? []).length + box.farBoxIds.length > 6)
      return refuse('tooManySwitches', 'A box has at most six other locations.')
    const beyond = command.gangs === undefined ? undefined : installedGangs(box.id).find((gang) => gang > command.gangs!)
    if (beyond)
      return refuse('unitInstalled', `A device is installed in gang ${beyond} of ${box.name}.`, 'Look again how many gangs it has.')
    const name = command.name ?? box.name
    const roomId = command.roomId ?? box.roomId
    if (isBoxNamed(site, roomId, name, box.id))
      return refuse('nameTaken', `There is a box “${name}” in this room already.`, 'Correct that one first.')
    // Under another name people would go to another box: what they rely on in this one ends.
    const moved = (name !== box.name || roomId !== box.roomId) && box.closure !== 'closed'
    const concerned = [...new Set([...(moved ? [box] : []), ...newlyTied(site, box, command.farBoxIds ?? [])])]
    return accept(
      boxCorrected({
        ...command,
        was: calledNow(site, box),
        ...(concerned.length ? consequenceOfPath(site, concerned, [], null) : nothingEnds),
      }),
    )
  },
  label: ({ name }) => (name ? `box corrected: ${name}` : 'box corrected'),
})

export const boxCorrected = siteEvent('boxCorrected', {
  evolve(site, payload: BoxCorrected, event) {
    const box = boxAt(site, payload.boxId)
    const concerned = [box, ...newlyTied(site, box, payload.farBoxIds ?? [])].map(({ id }) => id)
    if (payload.name !== undefined) box.name = payload.name
    if (payload.roomId !== undefined) box.roomId = payload.roomId
    if (payload.gangs !== undefined) box.gangs = payload.gangs
    for (const id of payload.farBoxIds ?? []) {
      if (id === box.id) continue
      if (!box.farBoxIds.includes(id)) box.farBoxIds = [...box.farBoxIds, id]
      if (hasNoSwitch(site, box)) continue
      const far = boxAt(site, id)
      if (!far.farBoxIds.includes(box.id)) far.farBoxIds = [...far.farBoxIds, box.id]
    }
    end(site, payload, { code: 'boxCorrected' }, event, { boxIds: concerned })
  },
  say(payload, { site, box }) {
    const parts = [
      ...(payload.name !== undefined && payload.name !== payload.was.name ? [`is called ${payload.name}`] : []),
      ...(payload.roomId !== undefined ? [`is in ${site.rooms[payload.roomId]?.name ?? 'another room'}`] : []),
      ...(payload.gangs !== undefined ? [`has ${counted(payload.gangs, 'gang')}`] : []),
      ...(payload.farBoxIds?.length ? [`is switched together with ${payload.farBoxIds.map(box).join(' and ')}`] : []),
    ]
    const text = `corrected ${payload.was.name} (${payload.was.room}): ${parts.join(', ') || 'as it was'}.${ended(payload.voids)}`
    return payload.voids.length ? alarm(text) : text
  },
})
