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
  kind: 'on' | 'off' | 'level' | 'motor' | 'fan' | 'step' | 'own' | 'onward' | 'meter' | 'power' | 'link'
  location: string
  /** How the other locations stand, 0 up and 1 down; empty: it is all the same. */
  others?: number[]
}

/** What stands beside a point. */
export interface Beside {
  /** Names of other points that are switched in its boxes, or by the same device. */
  points: string[]
  /** Boxes of it from which something is fed on: a socket, another room. */
  onwardFrom: string[]
}

const dimLevels = [25, 50, 75, 100] as const

/**
 * The functional test of one point: on and off from every control location, in every position of the other
 * mechanical ones; dim levels; motors seen turning, fans at their least and most; places that stay in step; nothing else that
 * answers; what is fed on; and back as configured after a power interruption.
 * @param locations the control locations in walk order
 * @param main the model that carries the load, if known
 */
export function functionalChecks(
  load: PointLoad,
  locations: ControlLocation[],
  main: DeviceModel | null,
  beside: Beside = { points: [], onwardFrom: [] },
): FunctionalCheck[] {
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
  if (load.technology === 'fan') {
    // Left lower, its own switch keeps the fan from the speeds the wall asks for.
    checks.push({
      id: 'fan:chain',
      kind: 'fan',
      what: 'Pull chain at the fan, where it has one, on highest; its light’s chain on',
      location: '',
    })
    if (main?.kind === 'fanControl')
      for (const speed of ['lowest', 'middle'])
        checks.push({ id: `fan:${speed}`, kind: 'fan', what: `Turns at the ${speed} speed, seen`, location: '' })
  }
  if (load.technology === 'fan' || load.technology === 'motor')
    checks.push({
      ...{ id: 'motor', kind: 'motor', location: '' },
      what: load.technology === 'fan' && main?.kind === 'fanControl' ? 'Turns at the highest speed, seen' : 'Motor seen turning',
    })
  if (locations.length > 1 && !mechanical && main?.setupCode !== 'none')
    checks.push({ id: 'step', kind: 'step', what: 'Each place and the app show the same after every press', location: '' })
  if (beside.points.length)
    checks.push({
      ...{ id: 'own', kind: 'own', location: '' },
      what: `Nothing else answers: ${beside.points.slice(0, 3).join(', ')}${beside.points.length > 3 ? ' and the others' : ''} ${
        beside.points.length > 1 ? 'stay as they were' : 'stays as it was'
      }`,
    })
  for (const box of beside.onwardFrom)
    checks.push({ id: `onward:${box}`, kind: 'onward', what: `What ${box} feeds on still works, each socket tried`, location: box })
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
