import { terminalWords } from '../../connect'
import { isChangeover, loadTerminalOf, type TerminalModel } from '../terminal-model'
import { deviceId, type PlannedHome } from './plan'

const movableIn = (home: PlannedHome) =>
  home.wiring.parts.flatMap((part) =>
    part.kind === 'switch'
      ? [{ id: part.id, ways: 2 }]
      : part.kind === 'device' && part.model.channels
        ? [{ id: part.id, ways: 2 ** part.model.channels }]
        : [],
  )
/** How many combinations there are. */
export const countPositions = (home: PlannedHome): number => movableIn(home).reduce((product, { ways }) => product * ways, 1)
/** Everything that can be moved, in every combination. */
export function* everyPosition(home: PlannedHome): Generator<Record<string, number>> {
  const movable = movableIn(home)
  const total = countPositions(home)
  for (let index = 0; index < total; index++) {
    let rest = index
    const positions: Record<string, number> = {}
    for (const { id, ways } of movable) {
      positions[id] = rest % ways
      rest = Math.floor(rest / ways)
    }
    yield positions
  }
}
/** How everything stands, in words. */
export function positionWords(home: PlannedHome, positions: Record<string, number>): string {
  return home.wiring.parts
    .flatMap((part) => {
      const position = positions[part.id]
      if (position === undefined) return []
      if (part.kind === 'device') {
        const device = home.devices.find(({ gang }) => deviceId(gang) === part.id)
        const relay = home.relays.find(({ id }) => id === part.id)
        const name = relay ? `relay at the fixture on ${relay.letter}` : home.devices.length > 1 ? `gang ${device?.gang}` : 'device'
        if (isChangeover(part.model)) return [`${name} ${position ? 'on its second side' : 'on its first side'}`]
        if (part.model.channels === 1) return [`${name} ${position ? 'on' : 'off'}`]
        return Array.from({ length: part.model.channels }, (_, channel) => {
          const terminal = loadTerminalOf(part.model, channel)
          return `${name} ${terminal ? terminalWords[terminal] : channel + 1} ${(position >> channel) & 1 ? 'on' : 'off'}`
        })
      }
      const far = home.outside.farSwitches.indexOf(part.id)
      const olds = home.wiring.parts.filter((one) => one.id.startsWith('old')).length
      const name =
        far >= 0
          ? `other switch${home.outside.farSwitches.length > 1 ? ` ${far + 1}` : ''}`
          : `old switch${olds > 1 ? ` ${part.id.slice(3)}` : ''}`
      return [`${name} ${position ? 'down' : 'up'}`]
    })
    .join(', ')
}

/** One thing that moves a light: a channel of a device or of a relay at the fixture, or a switch. */
export interface Actuator {
  id: string
  bit: number
  model: TerminalModel | null
}
export function actuatorsOf(home: PlannedHome): Actuator[] {
  return home.wiring.parts.flatMap((part): Actuator[] =>
    part.kind === 'device'
      ? Array.from({ length: part.model.channels }, (_, bit) => ({ id: part.id, bit, model: part.model }))
      : part.kind === 'switch'
        ? [{ id: part.id, bit: 0, model: null }]
        : [],
  )
}
/** Rows of a table by positions: every combination is in it, each at the place its positions say. */
export class Rows<Row extends { positions: Record<string, number> }> {
  private readonly at = new Map<string, Row>()
  constructor(readonly all: Row[]) {
    for (const row of all) this.at.set(this.key(row.positions), row)
  }
  private key(positions: Record<string, number>): string {
    return Object.values(positions).join()
  }
  /** The row in which one hand stands otherwise. */
  flipped(row: Row, hand: Actuator): Row | undefined {
    return this.at.get(this.key({ ...row.positions, [hand.id]: row.positions[hand.id]! ^ (1 << hand.bit) }))
  }
}
