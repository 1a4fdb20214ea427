import { plainModel, type DeviceModel, type ListedPart } from '../../fit'
import { defaultMoney } from '../../money'
import type { Article } from '../../quote/article.schema'
import type { PlanSource } from '../home'
import { usualHousehold } from '../wishes'
import type { Scenario } from '../../testing/scenario'

const id = (number: number) => `01890000-0000-7000-a000-${String(number).padStart(12, '0')}`
const watts = (led: number, fan = 0, socket = 0) => ({ led, filament: led * 3, fan, motor: fan, socket })
let count = 0
const model = (
  maker: string,
  name: string,
  kind: DeviceModel['kind'],
  terminals: DeviceModel['terminals'],
  rest: Partial<DeviceModel> = {},
): DeviceModel => ({
  id: id(++count),
  maker,
  name,
  kind,
  schemes: ['na120', 'iec230'],
  terminals,
  gangsWide: 1,
  bodyIn3: 6,
  depthMm: 34,
  maxWatts: watts(150),
  ...plainModel,
  setupCode: 'plain',
  radio: 'wifi',
  family: maker,
  ...rest,
})
/** A short list in which every kind of solution has at least one model. */
export const models = {
  switch: model('Ash', 'switch', 'switch', ['neutral', 'load', 'line', 'sense', 'ground'], {
    multiWay: 'sensedTraveler',
    maxWatts: watts(300, 200, 1000),
  }),
  dimmer: model('Ash', 'dimmer', 'dimmer', ['neutral', 'load', 'line', 'ground']),
  companion: model('Ash', 'companion', 'companion', ['neutral', 'sense', 'ground'], {
    multiWay: 'companion',
    radio: 'none',
    bodyIn3: 4,
    maxWatts: watts(0),
  }),
  battery: model('Ash', 'remote on the wall', 'companion', ['ground'], {
    multiWay: 'companion',
    ownPlate: true,
    bodyIn3: 1,
    maxWatts: watts(0),
  }),
  double: model('Ash', 'double switch', 'switch', ['neutral', 'load', 'load2', 'line', 'ground'], { channelAmps: 5 }),
  fan: model('Ash', 'fan and light', 'fanControl', ['neutral', 'load', 'fan', 'line', 'ground'], { maxWatts: watts(150, 150) }),
  bare: model('Birch', 'dimmer without neutral', 'dimmer', ['load', 'line', 'ground'], { needsHub: true, radio: 'hub', minWatts: 10 }),
  module: model('Cedar', 'module', 'relayModule', ['neutral', 'load', 'line', 'sense'], {
    gangsWide: 0,
    bodyIn3: 2,
    multiWay: 'sensedTraveler',
    radio: 'mesh',
    maxWatts: watts(200, 150),
  }),
  twin: model('Cedar', 'module of two', 'relayModule', ['neutral', 'load', 'load2', 'line', 'sense', 'sense2'], {
    gangsWide: 0,
    bodyIn3: 3,
    radio: 'mesh',
    maxWatts: watts(200, 150),
  }),
  meter: model('Cedar', 'metering module', 'relayModule', ['neutral', 'load', 'line', 'sense'], {
    gangsWide: 0,
    bodyIn3: 2.5,
    metering: true,
    radio: 'mesh',
    maxWatts: watts(200, 300),
  }),
  relay: model('Dune', 'relay', 'relayModule', ['neutral', 'load', 'line'], {
    gangsWide: 0,
    bodyIn3: 2,
    radio: 'hub',
    maxWatts: watts(200, 100),
  }),
  sender: model('Dune', 'sender', 'sender', ['sense', 'senseReturn'], { gangsWide: 0, bodyIn3: 1, radio: 'none', maxWatts: watts(0) }),
}
const plain = {
  gtin: '',
  bin: false,
  shelf: '',
  supplies: [],
  contents: [],
  works: [] as Article['works'],
  lamp: null,
  holds: null,
  mostWatts: null,
  branchId: id(900),
  active: true,
}
const article = (kind: Article['kind'], name: string, priceCents: number | null, rest: Partial<Article> = {}): Article => ({
  ...plain,
  id: id(1000 + ++count),
  kind,
  refId: null,
  maker: 'Elm',
  name,
  priceCents,
  ...rest,
})
export const plates: ListedPart[] = [1, 2].map((gangs) => ({
  id: id(800 + gangs),
  kind: 'plate',
  maker: 'Elm',
  name: `plate ${gangs}`,
  schemes: ['na120', 'iec230'],
  gangs,
  plate: 'standard',
  finish: 'white',
  active: true,
}))
export const articles: Article[] = [
  ...Object.values(models).map((one) =>
    article('device', one.name, one.kind === 'dimmer' ? 5000 : one.gangsWide ? 4000 : 3000, { refId: one.id, maker: one.maker }),
  ),
  ...plates.map((one) => article('plate', one.name, 300, { refId: one.id })),
  article('hub', 'hub', 7000, { maker: 'Birch', holds: 4 }),
  article('hub', 'hub', 8000, { maker: 'Dune', holds: 50 }),
  article('smartLamp', 'lamp', 1500, { lamp: { watts: 8, colour: 'warm' } }),
  article('smartLamp', 'lamp of any colour', 2600, { lamp: { watts: 8, colour: 'changing' } }),
  article('guard', 'guard', 500),
  article('remote', 'remote', 1900),
  article('lampHolder', 'holder', 2300, { mostWatts: 60 }),
  article('plugIn', 'plug', 2600, { mostWatts: 1500 }),
  article('blank', 'blank', 200),
]
export const sourceOf = (scenario: Scenario, over: Partial<PlanSource> = {}): PlanSource => ({
  job: scenario.job,
  site: scenario.site,
  catalogue: Object.values(models),
  parts: plates,
  articles,
  money: defaultMoney,
  known: { yearBuilt: 1990, alike: null },
  record: {},
  wishes: scenario.job.wishes,
  household: usualHousehold,
  edition: '2020',
  ...over,
})
