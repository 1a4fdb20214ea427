// Writes the demo coast as a road graph: server/stand-ins/routing/coast.geo.json. The same file every time.
// Invented: two towns, a river with a swing bridge and an old bridge upstream, an islet with a ferry, a coast road.
import { writeFileSync } from 'node:fs'

// In the open ocean: nobody lives there.
const origin = { longitude: -30, latitude: 45 }
const kmPerDegree = 111.32
const place = ([x, y]) => [
  Number((origin.longitude + x / (kmPerDegree * Math.cos((origin.latitude * Math.PI) / 180))).toFixed(6)),
  Number((origin.latitude + y / kmPerDegree).toFixed(6)),
]
let seed = 20_077
/** Park and Miller’s minimal standard generator (1988). */
const chance = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647
const jitter = (by) => (chance() - 0.5) * by

const features = []
const road = (from, to, properties) => {
  const bend = [(from[0] + to[0]) / 2 + jitter(0.02), (from[1] + to[1]) / 2 + jitter(0.02)]
  features.push({
    type: 'Feature',
    properties: { oneWay: false, ...properties },
    geometry: { type: 'LineString', coordinates: [from, bend, to].map(place) },
  })
}

/** A town as streets that cross: columns run north, rows run east. Some blocks have no street between. */
function town({ name, columns, rows, west, south, step, oldTown = [] }) {
  const at = columns.map((_, column) => rows.map((_, row) => [west + column * step + jitter(0.05), south + row * step + jitter(0.05)]))
  const street = (street, from, to, index, of) => {
    const old = oldTown.includes(street)
    const edge = index === 0 || index === of - 1
    if (!edge && !old && chance() < 0.1) return
    // Along an old street everybody drives one way, and its neighbour leads back.
    const back = old && oldTown.indexOf(street) % 2 === 1
    road(...(back ? [to, from] : [from, to]), { kind: 'street', name: street, town: name, kmh: old ? 20 : edge ? 40 : 30, oneWay: old })
  }
  columns.forEach((column, x) => rows.slice(1).forEach((_, y) => street(column, at[x][y], at[x][y + 1], x, columns.length)))
  rows.forEach((row, y) => columns.slice(1).forEach((_, x) => street(row, at[x][y], at[x + 1][y], y, rows.length)))
  return at
}

const west = town({
  name: 'Port Sallow',
  columns: [
    'Hill Road',
    'Schoolhouse Lane',
    'Kiln Lane',
    'Tannery Street',
    'Sailmakers’ Row',
    'Cooper’s Row',
    'Chandler Street',
    'Lamp Lane',
    'Quay Walk',
  ],
  rows: [
    'South Road',
    'Slip Road',
    'Ferry Stairs',
    'Ropewalk',
    'Salt Lane',
    'Market Row',
    'Net Street',
    'Lantern Row',
    'Mill Lane',
    'Upper Road',
  ],
  west: -2.75,
  south: 0,
  step: 0.31,
  oldTown: ['Chandler Street', 'Lamp Lane', 'Salt Lane', 'Market Row'],
})
const east = town({
  name: 'Port Sallow',
  columns: ['Withy Bank', 'Osier Street', 'Heron Street', 'Sedge Lane', 'Reed Street', 'Orchard Road', 'Wicket Lane', 'East Road'],
  rows: ['Sluice Road', 'Eel Lane', 'Bridge Street', 'Bell Street', 'Weaver’s Row', 'Barley Street', 'Upper Lock', 'Weir Road'],
  west: 0.32,
  south: 0.15,
  step: 0.33,
})
const holm = town({
  name: 'Tern Holm',
  columns: ['Light Road', 'Shell Lane', 'Holm Street', 'Samphire Row'],
  rows: ['Landing', 'Middle Path', 'North Beach'],
  west: 0.7,
  south: -2.6,
  step: 0.35,
})
const quay = town({
  name: 'Marram Quay',
  columns: ['Beacon Row', 'Rope Quay', 'Dune Street', 'Capstan Street', 'Signal Lane', 'Wrack Street', 'Station Road'],
  rows: ['Strand', 'Lamp Street', 'Coble Street', 'Herring Row', 'Cannery Street', 'Chapel Row', 'Marram Road', 'North Road'],
  west: 22,
  south: -1.2,
  step: 0.32,
})

// Across the river: the swing bridge, opened for boats, and the old bridge upstream.
road(west[8][3], east[0][2], {
  kind: 'bridge',
  name: 'Swing Bridge',
  town: 'Port Sallow',
  kmh: 20,
  closed: [
    { from: '06:50', to: '07:05' },
    { from: '10:40', to: '11:00' },
    { from: '13:20', to: '13:40' },
    { from: '16:45', to: '17:00' },
  ],
})
const chain = (points, properties) => points.slice(1).forEach((point, index) => road(points[index], point, properties))
chain([west[8][9], [-0.5, 4.2], [0.1, 5.1], [0.6, 5.1], [1.1, 4.1], east[4][7]], {
  kind: 'road',
  name: 'Old Bridge Road',
  town: '',
  kmh: 50,
})

// The ferry is the only way to the islet.
const crossing = (from, to, departures) =>
  road(from, to, { kind: 'ferry', name: 'Holm ferry', town: '', oneWay: true, kmh: 0, crossingMinutes: 9, departures })
const every = (hourFrom, hourTo, minutes) =>
  Array.from({ length: hourTo - hourFrom + 1 }, (_, hour) =>
    minutes.map((minute) => `${String(hourFrom + hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`),
  ).flat()
const pier = west[8][2]
crossing(pier, holm[0][2], every(6, 18, [10, 40]))
crossing(holm[0][2], pier, every(6, 18, [25, 55]))

// Along the coast, with three villages on the way.
const villages = [
  { name: 'Little Sallow', at: [6, 1.2] },
  { name: 'Cockle Bar', at: [11.5, -0.3] },
  { name: 'Sandway', at: [17, 0.6] },
]
const coast = [east[7][3]]
villages.forEach(({ name, at: [x, y] }) => {
  coast.push([x - 2.4, y + jitter(1)], [x - 0.9, y + jitter(0.3)], [x, y])
  const lane = [
    [x, y],
    [x + 0.3, y + 0.4],
    [x + 0.1, y + 0.8],
  ]
  chain(lane, { kind: 'street', name: `${name} Lane`, town: name, kmh: 30 })
  chain([lane[1], [x + 0.8, y + 0.5], [x + 1.1, y + 0.1]], { kind: 'street', name: 'Church Path', town: name, kmh: 30 })
  chain(
    [
      [x, y],
      [x + 0.2, y - 0.5],
      [x + 0.9, y - 0.6],
    ],
    { kind: 'street', name: 'Shore Lane', town: name, kmh: 30 },
  )
})
coast.push([20.2, 0.2], quay[0][4])
chain(coast, { kind: 'road', name: 'Coast Road', town: '', kmh: 70 })
// Inland, longer and dull, but nothing stands in its way.
chain([[0.6, 5.1], [5, 6.2], [11, 6.8], [17, 5.2], [21.5, 3.4], quay[3][7]], { kind: 'road', name: 'Inland Road', town: '', kmh: 80 })

writeFileSync(
  new URL('../../server/stand-ins/routing/coast.geo.json', import.meta.url),
  `${JSON.stringify({
    type: 'FeatureCollection',
    name: 'Demo coast (invented)',
    // On working days streets fill up; the speeds fall to these shares.
    traffic: [
      { kind: 'street', weekdays: [1, 2, 3, 4, 5], from: '07:30', to: '09:00', share: 0.65 },
      { kind: 'street', weekdays: [1, 2, 3, 4, 5], from: '16:00', to: '17:45', share: 0.7 },
      { kind: 'road', weekdays: [1, 2, 3, 4, 5], from: '07:30', to: '09:00', share: 0.85 },
    ],
    features,
  })}\n`,
)
