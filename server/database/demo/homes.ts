import type { JobFile, JobFileText } from '../../../core/format'

type Scheme = JobFile['site']['scheme']
type Breaker = { number: string; label: string; offLimits?: string; state?: 'closed' | 'open' }
/** room / box / gangs / breakers */
type Box = [room: string, box: string, gangs: number, breakers: string[]]
/** name / room / lamps / watts / where switched as "box:gang" / what it is */
type Point = [
  name: string,
  room: string,
  lamps: number,
  watts: number,
  controls: string[],
  kind?: JobFile['points'][number]['load']['technology'],
]

const key = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')

export interface DemoHome {
  title: string
  name: string
  address: string
  scheme: Scheme
  customer: string
  yearBuilt: number
  doorCode?: string
  note?: string
  breakers: Breaker[]
  boxes: Box[]
  points: Point[]
}

/** Invented numbers and mailboxes, of a code and an ending kept for what is not real. Every fifth has only a mailbox. */
function reachOf(customer: string) {
  const sum = [...customer].reduce((all, letter) => all + letter.codePointAt(0)!, 0)
  const mailbox = `${customer.toLowerCase().replace(/[^a-z]+/g, '.')}@port-sallow.example`
  return { phone: sum % 5 === 0 ? '' : `555 01${String(sum % 100).padStart(2, '0')}`, email: sum % 3 === 0 || sum % 5 === 0 ? mailbox : '' }
}

/** Writes a demo home as the job file a dispatcher would import. */
export function jobFileOf(home: DemoHome): JobFileText {
  const rooms = [...new Set(home.boxes.map(([room]) => room))]
  const na = home.scheme === 'na120'
  return {
    format: 'circuitry.job',
    version: 2,
    job: { title: home.title, note: home.note ?? '' },
    customer: { name: home.customer, ...reachOf(home.customer) },
    site: {
      name: home.name,
      address: home.address,
      scheme: home.scheme,
      yearBuilt: home.yearBuilt,
      doorCode: home.doorCode ?? '',
      sources: [{ key: 'service', kind: 'service', name: 'service' }],
    },
    panels: [
      {
        key: 'panel',
        name: na ? 'panel' : 'consumer unit',
        place: 'hall cupboard',
        main: { number: 'main', amps: na ? 100 : 63, source: 'service' },
        fedFrom: null,
        breakers: home.breakers.map(({ number, label, offLimits, state }) => ({
          number,
          poles: 1,
          amps: na ? 15 : 10,
          label,
          state: state ?? 'closed',
          offLimits: offLimits ?? null,
        })),
      },
    ],
    rooms: rooms.map((name) => ({ key: key(name), name })),
    boxes: home.boxes.map(([room, name, gangs, breakers]) => ({
      key: key(name),
      room: key(room),
      name,
      gangs,
      volumeIn3: na ? (gangs === 1 ? 18 : 34) : null,
      depthMm: na ? null : 47,
      material: 'plastic',
      internalClamps: na ? 1 : 0,
      feeds: breakers.map((breaker) => ({ panel: 'panel', breaker })),
      unknownFeed: breakers.length === 0,
    })),
    points: home.points.map(([name, room, lamps, wattsEach, controls, technology = 'led']) => ({
      name,
      room: key(room),
      mustRun: technology === 'motor',
      load: { technology, lamps, wattsEach, dimmable: technology === 'led' },
      controls: controls.map((control) => {
        const [box, gang] = control.split(':')
        return { box: key(box!), gang: Number(gang) }
      }),
    })),
  }
}

export const homes = {
  netLoft: {
    title: 'Net loft and stair',
    name: 'The Net Loft',
    address: '3 Ferry Stairs, Port Sallow',
    scheme: 'na120',
    customer: 'Wren Hallow',
    yearBuilt: 1968,
    doorCode: '4417#',
    note: 'Key box left of the door. Ask before opening 14.',
    breakers: [
      { number: '4', label: 'sail rm / net store' },
      { number: '7', label: 'stair' },
      { number: '9', label: '' },
      { number: '11', label: 'nook lts' },
      { number: '14', label: 'vault fan', offLimits: 'Seed-vault fan must run: call the customer first' },
      { number: '16', label: 'kitchen' },
    ],
    boxes: [
      ['Net store', 'store door', 1, ['4']],
      ['Net store', 'store bench', 1, ['4']],
      ['Stair', 'stair foot', 2, ['7', '9']],
      ['Stair', 'stair head', 1, ['7']],
      ['Reading nook', 'nook arch', 2, ['11']],
      ['Mud room', 'porch', 1, ['4']],
    ],
    points: [
      ['Store ceiling', 'Net store', 2, 9, ['store door:1']],
      ['Bench strip', 'Net store', 1, 24, ['store bench:1']],
      ['Stair light', 'Stair', 3, 7, ['stair foot:1', 'stair head:1']],
      ['Landing lantern', 'Stair', 1, 12, ['stair foot:2']],
      ['Nook ceiling', 'Reading nook', 4, 6, ['nook arch:1']],
      ['Nook reading lamps', 'Reading nook', 2, 7, ['nook arch:2']],
      ['Porch lantern', 'Mud room', 1, 10, ['porch:1']],
    ],
  },
  seedVault: {
    title: 'Seed vault fan on a relay',
    name: 'The Net Loft',
    address: '3 Ferry Stairs, Port Sallow',
    scheme: 'na120',
    customer: 'Wren Hallow',
    yearBuilt: 1968,
    note: 'Must-run: bring the logger. Second job at this home.',
    breakers: [{ number: '14', label: 'vault fan', offLimits: 'Seed-vault fan must run: call the customer first' }],
    boxes: [['Seed vault', 'vault relay', 1, ['14']]],
    points: [['Dehumidifier fan', 'Seed vault', 1, 95, ['vault relay:1'], 'motor']],
  },
  studio2: {
    title: 'Studio 2 dimmers',
    name: 'School studio 2',
    address: '12 Schoolhouse Lane, Port Sallow',
    scheme: 'na120',
    customer: 'Tamsin Orrell',
    yearBuilt: 1931,
    breakers: [
      { number: '3', label: 'studio 2 lights' },
      { number: '5', label: 'print shop' },
    ],
    boxes: [
      ['Print shop', 'press door', 1, ['3']],
      ['Print shop', 'drying rack', 1, ['5']],
    ],
    points: [
      ['Press light', 'Print shop', 6, 8, ['press door:1']],
      ['Rack light', 'Print shop', 3, 8, ['drying rack:1']],
    ],
  },
  studio5: {
    title: 'Studio 5, 3-way on the gallery',
    name: 'School studio 5',
    address: '12 Schoolhouse Lane, Port Sallow',
    scheme: 'na120',
    customer: 'Ivo Penhale',
    yearBuilt: 1931,
    breakers: [
      { number: '8', label: 'gallery' },
      { number: '10', label: 'store' },
    ],
    boxes: [
      ['Sail room', 'east door', 1, ['8']],
      ['Sail room', 'west door', 1, ['8']],
      ['Sail room', 'canvas store', 1, ['10']],
    ],
    points: [
      ['Gallery light', 'Sail room', 8, 7, ['east door:1', 'west door:1']],
      ['Canvas store light', 'Sail room', 1, 9, ['canvas store:1']],
    ],
  },
  boathouse: {
    title: 'Boathouse lights',
    name: 'The Boathouse',
    address: '1 Slip Road, Port Sallow',
    scheme: 'na120',
    customer: 'Mara Quill',
    yearBuilt: 1994,
    doorCode: '0921',
    breakers: [
      { number: '2', label: 'boat hall' },
      { number: '6', label: 'loft' },
    ],
    boxes: [
      ['Boat hall', 'hall door', 2, ['2']],
      ['Tide room', 'tide arch', 1, ['6']],
    ],
    points: [
      ['Hall floods', 'Boat hall', 4, 30, ['hall door:1']],
      ['Slip lights', 'Boat hall', 6, 5, ['hall door:2']],
      ['Tide room pendant', 'Tide room', 1, 14, ['tide arch:1']],
    ],
  },
  lockCottage: {
    title: 'Lock Cottage, whole house',
    name: 'Lock Cottage',
    address: '7 Upper Lock, Port Sallow',
    scheme: 'na120',
    customer: 'Edda Farrow',
    yearBuilt: 1952,
    note: 'Two-wire switch loops expected. Customer home from 13:00.',
    breakers: [
      { number: '1', label: 'lights?' },
      { number: '3', label: '' },
      { number: '5', label: 'pump', offLimits: 'Sump pump' },
    ],
    boxes: [
      ['Mud room', 'back door', 1, []],
      ['Keeper room', 'keeper door', 2, ['1']],
    ],
    points: [
      ['Mud room light', 'Mud room', 1, 9, ['back door:1']],
      ['Keeper ceiling', 'Keeper room', 3, 8, ['keeper door:1']],
      ['Gauge light', 'Keeper room', 1, 11, ['keeper door:2']],
    ],
  },
  tideHouse: {
    title: 'Tide House, hall and tide room',
    name: 'Tide House',
    address: '22 Quay Walk, Port Sallow',
    scheme: 'na120',
    customer: 'Osk Bellamy-Thorne',
    yearBuilt: 2003,
    breakers: [
      { number: '12', label: 'hall' },
      { number: '13', label: 'tide room' },
    ],
    boxes: [
      ['Hall', 'front hall', 1, ['12']],
      ['Tide room', 'tide door', 1, ['13']],
    ],
    points: [
      ['Hall light', 'Hall', 2, 9, ['front hall:1']],
      ['Tide room light', 'Tide room', 5, 7, ['tide door:1']],
    ],
  },
  heronHouse: {
    title: 'Heron House, upstairs',
    name: 'Heron House',
    address: '5 Withy Bank, Port Sallow',
    scheme: 'na120',
    customer: 'Juno Sallis',
    yearBuilt: 1979,
    breakers: [{ number: '15', label: 'upstairs' }],
    boxes: [
      ['Net loft', 'loft stair', 1, ['15']],
      ['Reading nook', 'window nook', 1, ['15']],
    ],
    points: [
      ['Loft light', 'Net loft', 4, 8, ['loft stair:1']],
      ['Window nook light', 'Reading nook', 1, 9, ['window nook:1']],
    ],
  },
  ferryOffice: {
    title: 'Ferry Office, counter and wait',
    name: 'Ferry Office',
    address: '1 Ferry Stairs, Port Sallow',
    scheme: 'na120',
    customer: 'Port Sallow Ferry',
    yearBuilt: 1987,
    breakers: [
      { number: '4', label: 'counter' },
      { number: '6', label: 'waiting' },
    ],
    boxes: [
      ['Counter', 'counter end', 1, ['4']],
      ['Waiting room', 'waiting door', 1, ['6']],
    ],
    points: [
      ['Counter lights', 'Counter', 4, 9, ['counter end:1']],
      ['Waiting room light', 'Waiting room', 6, 8, ['waiting door:1']],
    ],
  },
  sailmakers: {
    title: 'Survey, Sailmakers’ Row 8',
    name: 'Sailmakers’ Row 8',
    address: '8 Sailmakers’ Row, Port Sallow',
    scheme: 'na120',
    customer: 'Fenn Droste',
    yearBuilt: 1946,
    breakers: [],
    boxes: [['Sail room', 'sail loft door', 1, []]],
    points: [['Sail loft light', 'Sail room', 2, 9, ['sail loft door:1']]],
  },
  quayLofts: {
    title: 'Quay Loft 4, living floor',
    name: 'Quay Loft 4',
    address: '4 Rope Quay, Marram Quay',
    scheme: 'iec230',
    customer: 'Aldo Wintle',
    yearBuilt: 1998,
    breakers: [
      { number: '2', label: 'lights up' },
      { number: '5', label: 'lights down' },
    ],
    boxes: [
      ['Rope room', 'rope door', 1, ['2']],
      ['Galley', 'galley end', 1, ['5']],
    ],
    points: [
      ['Rope room light', 'Rope room', 4, 6, ['rope door:1']],
      ['Galley light', 'Galley', 5, 5, ['galley end:1']],
    ],
  },
  lampStore: {
    title: 'Lamp Store, shop floor',
    name: 'The Lamp Store',
    address: '9 Beacon Row, Marram Quay',
    scheme: 'iec230',
    customer: 'Beacon Row Trading',
    yearBuilt: 2011,
    breakers: [{ number: '7', label: 'shop' }],
    boxes: [['Shop floor', 'till', 1, ['7']]],
    points: [['Shop lights', 'Shop floor', 8, 6, ['till:1']]],
  },
} satisfies Record<string, DemoHome>
