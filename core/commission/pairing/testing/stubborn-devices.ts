import type { Chance } from '../../../chance'
import { nextSteps, type PairingCase, type PairingFacts } from '..'
import type { Observation, PairingStep } from '../words'

/**
 * A device, a home and a pair of hands as they are, one thing or two of it wrong, and what is seen of that from a ladder. It knows
 * nothing of how causes are weighed: it has switches and states, and shows what they come to.
 */
interface Stubborn {
  power: boolean
  inMode: boolean
  windowOpen: boolean
  phoneBand: '2.4' | '5'
  passwordRight: boolean
  signalDbm: number
  hubOn: boolean
  hubRoom: boolean
  owner: 'nobody' | 'another'
  region: boolean
  apart: boolean
  broken: boolean
}
type Kind = PairingCase['radio']

function joins(device: Stubborn, kind: Kind): boolean {
  const wifi = kind !== 'wifi' || (device.phoneBand === '2.4' && device.passwordRight && !device.apart)
  const hub = kind === 'wifi' || (device.hubOn && device.hubRoom)
  const itself = device.power && device.inMode && device.windowOpen && !device.broken && device.owner === 'nobody'
  return itself && wifi && hub && device.region && device.signalDbm > -80
}
/** What one sees at it, or in the app: often the plain thing, sometimes only that nothing happened, and now and then the wrong thing. */
function shows(device: Stubborn, kind: Kind, random: Chance): Observation {
  if (random.is(0.08)) return random.pick(['timeout', 'appFindsNothing', 'waiting', 'joining'])
  if (!device.power) return 'dark'
  if (device.broken) return random.pick(['dark', 'fault', 'timeout'])
  if (!device.windowOpen) return random.pick(['idle', 'idle', 'appFindsNothing'])
  if (!device.inMode) return random.pick(['idle', 'appFindsNothing', 'timeout'])
  if (device.owner === 'another') return random.pick(['bound', 'appOtherOwner', 'timeout'])
  if (kind === 'wifi' && device.phoneBand === '5') return random.pick(['appFindsNothing', 'waiting', 'timeout', 'joining'])
  if (kind === 'wifi' && !device.passwordRight) return random.pick(['appPassword', 'refused', 'timeout', 'joining'])
  if (kind !== 'wifi' && !device.hubOn) return random.pick(['noHub', 'noHub', 'timeout'])
  if (kind !== 'wifi' && !device.hubRoom) return random.pick(['appHubFull', 'timeout'])
  if (!device.region) return random.pick(['appRegion', 'timeout', 'waiting'])
  return random.pick(['joining', 'timeout', 'waiting'])
}
/** What hands do to it. A clumsy hand does not always do what was meant. */
function does(step: PairingStep, device: Stubborn, random: Chance): void {
  if (random.is(0.08)) return
  const anew = () => {
    device.windowOpen = true
    if (random.is(0.3)) device.inMode = true
  }
  if (step === 'lookAtPower') device.power = true
  if (step === 'gesture') device.inMode = true
  if (step === 'restart' || step === 'powerCycle') anew()
  if (step === 'band') device.phoneBand = '2.4'
  if (step === 'password') device.passwordRight = true
  if (step === 'hub') Object.assign(device, { hubOn: true, hubRoom: device.hubRoom || random.is(0.7) })
  if (step === 'accessPoint') Object.assign(device, { phoneBand: '2.4', apart: device.apart && random.is(0.4) })
  if (step === 'closer') device.signalDbm += 12
  if (step === 'reset') {
    device.owner = 'nobody'
    anew()
  }
  if (step === 'region') device.region = true
  if (step === 'replace') Object.assign(device, { broken: false, owner: 'nobody', windowOpen: true })
}

/** The list that hangs on a wall: the same for everybody. */
const onTheWall: PairingStep[] = [
  'band',
  'password',
  'gesture',
  'restart',
  'gesture',
  'accessPoint',
  'hub',
  'closer',
  'reset',
  'region',
  'lookAtPower',
  'replace',
]
const minutesOf: Record<PairingStep, number> = {
  ...{ lookAtPower: 1, gesture: 3, restart: 3, powerCycle: 8, band: 4, password: 3.5, hub: 4, accessPoint: 7, closer: 7, reset: 5 },
  ...{ region: 6, replace: 30 },
}

/** One device that does not join at first: how it went by the tree, and by the list. */
export function playPairing(random: Chance): { rescued: boolean; steps: number; minutes: number; byList: number } {
  const kind = random.pick<Kind>(['wifi', 'wifi', 'mesh', 'hub'])
  const fine = (): Stubborn => ({
    ...{ power: true, inMode: true, windowOpen: true, phoneBand: '2.4', passwordRight: true, signalDbm: -45 - random.int(25) },
    ...{ hubOn: true, hubRoom: true, owner: 'nobody', region: true, apart: false, broken: false },
  })
  const faults: ((device: Stubborn) => void)[] = [
    (one) => (one.inMode = false),
    (one) => (one.windowOpen = false),
    (one) => (one.phoneBand = '5'),
    (one) => (one.passwordRight = false),
    (one) => (one.signalDbm = -84),
    (one) => (one.hubOn = false),
    (one) => (one.hubRoom = false),
    (one) => (one.owner = 'another'),
    (one) => (one.region = false),
    (one) => (one.power = false),
    (one) => (one.broken = true),
  ]
  const device = fine()
  do {
    Object.assign(device, fine())
    random.pick(faults)(device)
    if (random.is(0.12)) random.pick(faults)(device)
  } while (joins(device, kind))
  const second = { ...device }
  const facts: PairingFacts = {
    ...{
      joinedHere: random.is(0.5) ? random.int(6) : 0,
      bands: random.is(0.5) ? ['2.4', '5'] : null,
      paused: false,
      isolated: device.apart,
    },
    // A clock that nobody started says nothing; one that was started is right.
    window: random.is(0.2) ? 'unknown' : device.windowOpen ? 'open' : 'over',
    boundHere: device.owner === 'another' && random.is(0.3),
    level: random.is(0.5) ? null : device.signalDbm < -72 ? 'poor' : 'good',
    hubFull: !device.hubRoom && random.is(0.5),
  }
  const history: PairingCase['history'] = []
  let minutes = 0
  let steps = 0
  while (!joins(device, kind) && steps < 12) {
    const waits = device.power && device.inMode && device.windowOpen && !device.broken
    // Now and then another blink is taken for it, or it is missed.
    history.push({ seen: shows(device, kind, random), waited: random.is(0.06) ? !waits : waits })
    const [next] = nextSteps({ radio: kind, restartsAlone: true, ownNetwork: kind === 'wifi', facts, history })
    if (!next) break
    does(next.step, device, random)
    history.push({ tried: next.step })
    steps++
    minutes += minutesOf[next.step]
    if (device.windowOpen) facts.window = 'open'
  }
  let byList = 0
  for (const step of onTheWall) {
    if (joins(second, kind)) break
    does(step, second, random)
    byList += minutesOf[step]
  }
  return { rescued: joins(device, kind), steps, minutes, byList }
}
