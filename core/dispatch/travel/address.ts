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

interface Street {
  name: string
  /** Name and town as they are compared. */
  words: string
  town: string
  line: Position[]
}
interface Gazetteer {
  streets: Street[]
  towns: string[]
}
/** A map is read for its names once: a day asks for a hundred addresses. */
const read = new WeakMap<RoadMap, Gazetteer>()
function gazetteerOf(map: RoadMap): Gazetteer {
  const known = read.get(map)
  if (known) return known
  const streets = map.features
    .filter(({ properties }) => properties.kind === 'street')
    .map(({ properties: { name, town }, geometry }) => ({
      name,
      words: ` ${plain(name)} `,
      town: ` ${plain(town)} `,
      line: geometry.coordinates,
    }))
  const towns = [...new Set(map.features.map(({ properties }) => plain(properties.town)))].filter(Boolean).map((town) => ` ${town} `)
  const gazetteer = { streets, towns }
  read.set(map, gazetteer)
  return gazetteer
}

/**
 * About where an address is: on the street that it names, as far along as its number says.
 * @returns null where it names no street of the map; a town in it has to be the street’s.
 */
export function findAddress(map: RoadMap, address: string): Position | null {
  const words = ` ${plain(address)} `
  const { streets: all, towns } = gazetteerOf(map)
  const named = towns.filter((town) => words.includes(town))
  const streets = all.filter((street) => words.includes(street.words) && (!named.length || named.includes(street.town)))
  if (!streets.length) return null
  // The longest name that is there: Upper Lock before Lock.
  const name = streets.reduce((longest, street) => (street.name.length > longest.length ? street.name : longest), '')
  const parts = streets.filter((street) => street.name === name)
  const number = Number(/\d+/.exec(address)?.[0] ?? numbersOfStreet / 2)
  const whole = parts.reduce((sum, { line }) => sum + lengthOf(line), 0)
  let left = (Math.min(number, numbersOfStreet) / numbersOfStreet) * whole
  for (const { line } of parts) {
    const length = lengthOf(line)
    if (left <= length) return along(line, left)
    left -= length
  }
  return parts.at(-1)!.line.at(-1)!
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
