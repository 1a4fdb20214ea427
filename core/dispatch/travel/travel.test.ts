import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { DirectedGraph } from 'graphology'
import { dijkstra } from 'graphology-shortest-path'
import { DateTime } from 'luxon'
import {
  arrivalIn,
  arrivalsFrom,
  findAddress,
  journey,
  lengthOf,
  metresBetween,
  placeAt,
  roadMapSchema,
  roadsFrom,
  timetableOf,
  travelMatrix,
  type Place,
  type RoadMap,
} from '.'

const coast = roadMapSchema.parse(JSON.parse(readFileSync('server/stand-ins/routing/coast.geo.json', 'utf8')))
const roads = roadsFrom(coast)
const zone = 'America/New_York'
const second = (text: string, where = zone) => DateTime.fromISO(text, { zone: where }).toSeconds()
const clock = (seconds: number, where = zone) => DateTime.fromSeconds(seconds, { zone: where }).toFormat('HH:mm:ss')
/** In the middle of a stretch. */
const onStreet = (name: string, index = 0): Place => {
  const stretch = coast.features.map((feature, at) => ({ feature, at })).filter(({ feature }) => feature.properties.name === name)[index]!
    .at
  return { stretch, along: 0.5, metres: 0, at: coast.features[stretch]!.geometry.coordinates[1]! }
}
const anyPlace = fc
  .record({ stretch: fc.nat(coast.features.length - 1), along: fc.double({ min: 0, max: 1, noNaN: true }), metres: fc.nat(300) })
  .filter(({ stretch }) => !['ferry', 'bridge'].includes(coast.features[stretch]!.properties.kind))
  .map(({ stretch, along, metres }): Place => ({ stretch, along, metres, at: coast.features[stretch]!.geometry.coordinates[0]! }))
/** Saturday: no traffic. */
const quietDay = '2026-11-28'
const workday = timetableOf(roads, '2026-11-27', zone)

/** A road of one kilometre, and what else is asked for. */
const line = (properties: object, traffic: RoadMap['traffic'] = []): RoadMap =>
  roadMapSchema.parse({
    type: 'FeatureCollection',
    traffic,
    features: [
      {
        type: 'Feature',
        properties: { kind: 'street', name: 'A', kmh: 36 },
        geometry: {
          type: 'LineString',
          coordinates: [
            [0, 0],
            [0, 0.008993216],
          ],
        },
      },
      {
        type: 'Feature',
        properties: { name: 'B', ...properties },
        geometry: {
          type: 'LineString',
          coordinates: [
            [0, 0.008993216],
            [0, 0.017986432],
          ],
        },
      },
      {
        type: 'Feature',
        properties: { kind: 'street', name: 'C', kmh: 36 },
        geometry: {
          type: 'LineString',
          coordinates: [
            [0, 0.017986432],
            [0, 0.026979648],
          ],
        },
      },
    ],
  })
const begin: Place = { stretch: 0, along: 0, metres: 0, at: [0, 0] }
const end: Place = { stretch: 2, along: 1, metres: 0, at: [0, 0.026979648] }

describe('the coast', () => {
  it('is a few hundred junctions, and every one is reached from every other', () => {
    expect(roads.junctions.length).toBeGreaterThan(200)
    expect(
      new Set(coast.features.flatMap(({ properties }) => (properties.town === 'Port Sallow' ? properties.name : []))).size,
    ).toBeGreaterThan(34)
    const all = coast.features
      .map(({ geometry }, stretch): Place => ({ stretch, along: 0.5, metres: 0, at: geometry.coordinates[0]! }))
      .filter(({ stretch }) => !['ferry', 'bridge'].includes(coast.features[stretch]!.properties.kind))
    const noon = second(`${quietDay}T12:00`)
    for (const from of [all[0]!, onStreet('Landing'), onStreet('Strand'), onStreet('Lamp Lane')])
      expect(arrivalsFrom(workday, from, all, noon).every(Number.isFinite)).toBe(true)
    for (const to of [onStreet('Hill Road'), onStreet('Landing')])
      expect(all.every((from) => Number.isFinite(arrivalsFrom(workday, from, [to], noon)[0]!))).toBe(true)
  })

  it('lengths are those of the haversine formula: a degree of the meridian is 111.195 km on a sphere of 6371.0088 km (IUGG mean radius)', () => {
    expect(metresBetween([0, 0], [0, 1])).toBeCloseTo((6_371_008.8 * Math.PI) / 180, 3)
    expect(metresBetween([0, 60], [1, 60]) / metresBetween([0, 0], [1, 0])).toBeCloseTo(0.5, 3)
  })
})

describe('the quickest way', () => {
  it('leaving later never arrives earlier, on any day, over ferry, bridge and traffic', () => {
    const days = ['2026-11-27', quietDay, '2026-03-08', '2026-11-01'].map((date) => ({ date, table: timetableOf(roads, date, zone) }))
    fc.assert(
      fc.property(anyPlace, anyPlace, fc.constantFrom(...days), fc.nat(86_400), fc.nat(7_200), (from, to, { date, table }, at, later) => {
        const leave = second(`${date}T00:00`) + at
        const [first] = arrivalsFrom(table, from, [to], leave)
        const [second_] = arrivalsFrom(table, from, [to], leave + later)
        expect(first).toBeGreaterThanOrEqual(leave)
        expect(second_! - first!).toBeGreaterThan(-1e-6)
      }),
      { numRuns: 300 },
    )
  })

  it('is the one a library for graphs finds, where no clock is in the way', () => {
    const still = roadsFrom({
      ...coast,
      traffic: [],
      features: coast.features
        .filter(({ properties }) => properties.kind !== 'ferry')
        .map((one) => ({ ...one, properties: { ...one.properties, closed: [] } })),
    })
    const table = timetableOf(still, quietDay, zone)
    const graph = new DirectedGraph<object, { seconds: number }>()
    still.junctions.forEach((_, junction) => graph.addNode(junction))
    for (const { from, to, metres, metresPerSecond } of still.ways) graph.mergeDirectedEdge(from, to, { seconds: metres / metresPerSecond })
    const corners = still.map.features.flatMap(({ properties }, stretch) =>
      properties.kind === 'bridge' || properties.oneWay ? [] : [stretch],
    )
    const junctionAt = (stretch: number) => {
      const [start] = still.map.features[stretch]!.geometry.coordinates
      return still.junctions.findIndex(([longitude, latitude]) => longitude === start![0] && latitude === start![1])
    }
    const noon = second(`${quietDay}T12:00`)
    const place = (stretch: number): Place => ({ stretch, along: 0, metres: 0, at: [0, 0] })
    for (let pair = 0; pair < 150; pair++) {
      const [a, b] = [corners[(pair * 37) % corners.length]!, corners[(pair * 101 + 13) % corners.length]!]
      const path = dijkstra.bidirectional(graph, junctionAt(a), junctionAt(b), 'seconds')
      const cost = (path ?? []).slice(1).reduce((sum, node, index) => sum + graph.getEdgeAttribute(path![index], node, 'seconds'), 0)
      expect(path === null ? Infinity : noon + cost).toBeCloseTo(arrivalsFrom(table, place(a), [place(b)], noon)[0]!, 4)
    }
  })

  it('by hand: a ferry at half past, a bridge that opens, a street at half its speed', () => {
    const over = (properties: object, leave: string, traffic: RoadMap['traffic'] = []) =>
      clock(
        arrivalsFrom(timetableOf(roadsFrom(line(properties, traffic)), quietDay, zone), begin, [end], second(`${quietDay}T${leave}`))[0]!,
      )
    // 1 km at 36 km/h is 100 s: at the pier 10:28:20, away 10:30, over 10:39, there 10:40:40.
    const ferry = { kind: 'ferry', kmh: 0, oneWay: true, crossingMinutes: 9, departures: ['10:30', '11:30'] }
    expect(over(ferry, '10:26:40')).toBe('10:40:40')
    expect(over(ferry, '10:28:19')).toBe('10:40:40')
    expect(over(ferry, '10:28:21')).toBe('11:40:40')
    // After the last one: the first of the next day.
    expect(over(ferry, '12:00')).toBe('10:40:40')
    const bridge = { kind: 'bridge', kmh: 36, closed: [{ from: '10:00', to: '10:20' }] }
    expect(over(bridge, '09:58:19')).toBe('10:03:19')
    expect(over(bridge, '09:58:21')).toBe('10:23:20')
    expect(over(bridge, '10:30')).toBe('10:35:00')
    // A kilometre at 18 instead of 36 km/h from ten o’clock on (a Saturday): the first half of the street at full speed.
    const slow: RoadMap['traffic'] = [{ kind: 'road', weekdays: [6], from: '10:00', to: '11:00', share: 0.5 }]
    expect(over({ kind: 'road', kmh: 36 }, '09:57:30', slow)).toBe('10:03:20')
    expect(over({ kind: 'road', kmh: 36 }, '09:57:30')).toBe('10:02:30')
  })

  it('the clock of the place moves the ferry on the days it is changed', () => {
    const ferry = roadsFrom(line({ kind: 'ferry', kmh: 0, oneWay: true, crossingMinutes: 10, departures: ['02:30', '06:00'] }))
    const wait = (date: string, leave: string) => {
      const table = timetableOf(ferry, date, zone)
      const from = second(leave)
      return Math.round((arrivalsFrom(table, begin, [end], from)[0]! - from) / 60)
    }
    // From one o’clock to six: five hours on a usual night, four when it springs forward, six when it falls back.
    expect(wait('2026-03-07', '2026-03-07T03:00')).toBe(180 + 10 + 2)
    expect(wait('2026-03-08', '2026-03-08T03:05')).toBeLessThan(180)
    // At 02:30 there is none that night; the clock shows 03:30 then.
    expect(wait('2026-03-08', '2026-03-08T01:55')).toBe(35 + 10 + 2)
    expect(wait('2026-11-01', '2026-11-01T03:00')).toBe(180 + 10 + 2)
    expect(second('2026-11-01T06:00') - second('2026-11-01T00:00')).toBe(7 * 3600)
    expect(second('2026-03-08T06:00') - second('2026-03-08T00:00')).toBe(5 * 3600)
  })

  it('told turn by turn, its legs join, last as long as the whole and run along the roads', () => {
    fc.assert(
      fc.property(anyPlace, anyPlace, fc.nat(80_000), (from, to, at) => {
        const leave = second('2026-11-27T00:00') + at
        const told = journey(workday, from, to, leave)!
        expect(told.arrive).toBeCloseTo(arrivalsFrom(workday, from, [to], leave)[0]!, 6)
        told.legs.slice(1).forEach((leg, index) => expect(leg.from).toBeCloseTo(told.legs[index]!.to, 4))
        expect(told.legs.at(-1)!.to).toBeLessThanOrEqual(told.arrive + 1e-6)
        expect(lengthOf(told.line)).toBeCloseTo(told.metres, 0)
      }),
      { numRuns: 200 },
    )
  })
})

describe('places', () => {
  it('a home comes to the nearest road, as looking at all of them finely says', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -30.035, max: -29.97, noNaN: true }),
        fc.double({ min: 44.998, max: 45.03, noNaN: true }),
        (longitude, latitude) => {
          const found = placeAt(roads, [longitude, latitude])
          const finely = Math.min(
            ...coast.features
              .filter(({ properties }) => !['ferry', 'bridge'].includes(properties.kind))
              .flatMap(({ geometry: { coordinates } }) =>
                coordinates
                  .slice(1)
                  .flatMap(([x, y], index) =>
                    Array.from({ length: 41 }, (_, step) =>
                      metresBetween(
                        [longitude, latitude],
                        [
                          coordinates[index]![0] + ((x - coordinates[index]![0]) * step) / 40,
                          coordinates[index]![1] + ((y - coordinates[index]![1]) * step) / 40,
                        ],
                      ),
                    ),
                  ),
              ),
          )
          if (finely > 2_000) return expect(found).toBeNull()
          expect(found!.metres).toBeLessThanOrEqual(finely + 0.5)
          expect(found!.metres).toBeGreaterThan(finely - 12)
          const { coordinates } = coast.features[found!.stretch]!.geometry
          expect(metresBetween(found!.at, [longitude, latitude])).toBeCloseTo(found!.metres, 0)
          expect(found!.along * lengthOf(coordinates)).toBeLessThanOrEqual(lengthOf(coordinates) + 1e-6)
        },
      ),
      { numRuns: 10 },
    )
  })
  it('an address is on the street that it names, in its town, farther along for a higher number', () => {
    const on = (address: string) => {
      const position = findAddress(coast, address)
      return position && coast.features[placeAt(roads, position)!.stretch]!.properties.name
    }
    expect(on('3 Ferry Stairs, Port Sallow')).toBe('Ferry Stairs')
    expect(on('8 sailmakers row')).toBe('Sailmakers’ Row')
    expect(on('4 Rope Quay, Marram Quay')).toBe('Rope Quay')
    expect(on('7 Upper Lock, Port Sallow')).toBe('Upper Lock')
    expect(findAddress(coast, '4 Rope Quay, Port Sallow')).toBeNull()
    expect(findAddress(coast, 'Nowhere 5')).toBeNull()
    const [near, far] = [findAddress(coast, '1 Withy Bank')!, findAddress(coast, '55 Withy Bank')!]
    expect(far[1]).toBeGreaterThan(near[1])
  })
  it('in the open sea there is none', () => expect(placeAt(roads, [-35, 40])).toBeNull())
})

describe('the matrix', () => {
  const places = [onStreet('Slip Road'), onStreet('Landing'), onStreet('Bell Street'), onStreet('Strand'), onStreet('Lamp Lane')]
  const from = second('2026-11-27T06:00')
  const matrix = travelMatrix(workday, places, from, second('2026-11-27T20:00'))

  it('agrees with the way itself: never more than a slot too early, and exact at the slots', () => {
    fc.assert(
      fc.property(fc.nat(4), fc.nat(4), fc.nat(13 * 3600), (a, b, leave) => {
        if (a === b) return
        const exact = arrivalsFrom(workday, places[a]!, [places[b]!], from + leave)[0]! - from
        const known = arrivalIn(matrix, a, b, leave)
        expect(known).toBeGreaterThan(exact - 300)
        expect(known).toBeLessThanOrEqual(arrivalsFrom(workday, places[a]!, [places[b]!], from + leave + 300)[0]! - from + 1e-6)
        const slot = Math.floor(leave / 300) * 300
        expect(arrivalIn(matrix, a, b, slot)).toBeCloseTo(arrivalsFrom(workday, places[a]!, [places[b]!], from + slot)[0]! - from, 6)
      }),
      { numRuns: 400 },
    )
  })
  it('leaving later never arrives earlier', () => {
    fc.assert(
      fc.property(
        fc.nat(4),
        fc.nat(4),
        fc.double({ min: 0, max: 50_000, noNaN: true }),
        fc.double({ min: 0, max: 900, noNaN: true }),
        (a, b, leave, more) => {
          expect(arrivalIn(matrix, a, b, leave + more)).toBeGreaterThanOrEqual(arrivalIn(matrix, a, b, leave) - 1e-6)
        },
      ),
      { numRuns: 2_000 },
    )
  })
})

describe('a map that cannot be used', () => {
  it.each([
    [{ kind: 'ferry', kmh: 0, oneWay: true }, 'A ferry leaves at some time'],
    [{ kind: 'ferry', kmh: 0, departures: ['10:00'] }, 'one way'],
    [{ kind: 'street', kmh: 0 }, 'A road has a speed'],
    [{ kind: 'street', kmh: 30, closed: [{ from: '7:00', to: '25:00' }] }, 'A time is written as 07:30'],
  ])('%j is refused', (properties, words) => expect(() => line(properties)).toThrow(words))
})
