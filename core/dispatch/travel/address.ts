import { lengthOf } from './roads'
import type { Position, RoadMap } from './road-map.schema'

const plain = (text: string) =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[’'`.]/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()
/** A street is taken to have so many house numbers from end to end: the map has none of its own. */
const numbersOfStreet = 60

/**
 * About where an address is: on the street that it names, as far along as its number says.
 * @returns null where it names no street of the map; a town in it has to be the street’s.
 */
export function findAddress(map: RoadMap, address: string): Position | null {
  const words = ` ${plain(address)} `
  const towns = new Set(map.features.flatMap(({ properties }) => (properties.town ? [plain(properties.town)] : [])))
  const named = [...towns].filter((town) => words.includes(` ${town} `))
  const streets = map.features.filter(
    ({ properties }) =>
      properties.kind === 'street' &&
      words.includes(` ${plain(properties.name)} `) &&
      (!named.length || named.includes(plain(properties.town))),
  )
  if (!streets.length) return null
  // The longest name that is there: Upper Lock before Lock.
  const name = streets.reduce((longest, { properties }) => (properties.name.length > longest.length ? properties.name : longest), '')
  const parts = streets.filter(({ properties }) => properties.name === name)
  const number = Number(/\d+/.exec(address)?.[0] ?? numbersOfStreet / 2)
  const whole = parts.reduce((sum, { geometry }) => sum + lengthOf(geometry.coordinates), 0)
  let left = (Math.min(number, numbersOfStreet) / numbersOfStreet) * whole
  for (const { geometry } of parts) {
    const length = lengthOf(geometry.coordinates)
    if (left <= length) return along(geometry.coordinates, left)
    left -= length
  }
  return parts.at(-1)!.geometry.coordinates.at(-1)!
}

function along(line: Position[], metres: number): Position {
  let left = metres
  for (let index = 1; index < line.length; index++) {
    const [from, to] = [line[index - 1]!, line[index]!]
    const side = lengthOf([from, to])
    if (left <= side) return [from[0] + ((to[0] - from[0]) * left) / side, from[1] + ((to[1] - from[1]) * left) / side]
    left -= side
  }
  return line.at(-1)!
}
