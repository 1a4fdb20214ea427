import { loadWatts, type DeviceModel, type PointLoad } from '../fit'

export interface ControlLocation {
  boxId: string
  gang: number
  /** What the crew calls it: "stair foot". */
  name: string
}

export interface FunctionalCheck {
  id: string
  what: string
  /** Levels are looked at, not only switched. */
  kind: 'on' | 'off' | 'level' | 'motor' | 'meter' | 'power' | 'link'
  location: string
  /** How the other locations stand, 0 up and 1 down; empty: it is all the same. */
  others?: number[]
}

const dimLevels = [25, 50, 75, 100] as const

/**
 * The functional test of one point: on and off from every control location, in every position of the other
 * mechanical ones; dim levels; motors seen turning; and back as configured after a power interruption.
 * @param locations the control locations in walk order
 * @param main the model that carries the load, if known
 */
export function functionalChecks(load: PointLoad, locations: ControlLocation[], main: DeviceModel | null): FunctionalCheck[] {
  const checks: FunctionalCheck[] = []
  const mechanical = main?.multiWay === 'commonTravelers' || main?.multiWay === 'sensedTraveler' || main === null
  locations.forEach((location, index) => {
    const others = locations.filter((_, other) => other !== index)
    const combinations = mechanical && others.length > 0 && others.length <= 2 ? positions(others) : [{ words: '', others: [] }]
    for (const { words: position, others: stand } of combinations) {
      const suffix = position ? `, ${position}` : ''
      const key = `${index}${position ? `:${position.replace(/[^a-z0-9]+/gi, '-')}` : ''}`
      checks.push({ id: `on:${key}`, kind: 'on', what: `On from ${location.name}${suffix}`, location: location.name, others: stand })
      checks.push({ id: `off:${key}`, kind: 'off', what: `Off from ${location.name}${suffix}`, location: location.name, others: stand })
    }
  })
  if (main?.kind === 'dimmer' && load.dimmable) {
    for (const level of dimLevels) checks.push({ id: `level:${level}`, kind: 'level', what: `${level} % steady`, location: '' })
    checks.push({ id: 'level:lowest', kind: 'level', what: 'Lowest step without flicker', location: '' })
  }
  if (load.technology === 'fan' || load.technology === 'motor')
    checks.push({ id: 'motor', kind: 'motor', what: 'Motor seen turning', location: '' })
  if (main?.metering)
    checks.push({ id: 'meter', kind: 'meter', what: `Meter shows about ${loadWatts(load)} W while it is on`, location: '' })
  checks.push({ id: 'power', kind: 'power', what: 'Comes back as configured after a power interruption', location: '' })
  return checks
}

function positions(locations: ControlLocation[]): { words: string; others: number[] }[] {
  return locations.reduce<{ words: string; others: number[] }[]>(
    (soFar, location) =>
      soFar.flatMap(({ words, others }) =>
        ['up', 'down'].map((side, position) => ({
          words: `${words ? `${words}, ` : ''}${location.name} ${side}`,
          others: [...others, position],
        })),
      ),
    [{ words: '', others: [] }],
  )
}
