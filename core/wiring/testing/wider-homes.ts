import type { Chance } from '../../chance'
import {
  boxOf,
  farSwitch,
  feed,
  feedHere,
  inside,
  joinHot,
  lamp,
  light,
  plain,
  run,
  surprises,
  threeWay,
  type Make,
  type Stories,
  type TrialBox,
  type WireSpec,
} from './strange-homes'

/** A cable with conductors nobody uses besides. */
const withSpares = (make: Make, wires: WireSpec[], spares: number, groundFromPanel: boolean) =>
  run(make, [...wires, ...Array.from({ length: spares }, (): WireSpec => ({ use: 'third', role: 'spare' }))], groundFromPanel)

/** A multi-wire feed: two lines on two legs or phases, one neutral. */
const sharedFeed = (make: Make, one: string, two: string) => {
  const [a, b, neutral] = run(
    make,
    [
      { use: 'hot', role: 'line', circuit: one, to: `${one}.line` },
      { use: 'second', role: 'line', circuit: two, to: `${two}.line` },
      { use: 'return', role: 'sharedNeutral', to: `${one}.neutral` },
    ],
    true,
  ) as [string, string, string]
  make.joins.push([`${one}.neutral`, `${two}.neutral`])
  return { a, b, neutral }
}
const lineTo = (circuit: string): WireSpec => ({ use: 'hot', role: 'line', circuit, to: `${circuit}.line` })
const neutralTo = (circuit: string): WireSpec => ({ use: 'return', role: 'neutral', circuit, to: `${circuit}.neutral` })

/** A 4-way and the 3-way behind it: travelers go in, the common comes out. */
function chain(make: Make) {
  make.parts.push({ id: 'far0', kind: 'switch', contacts: 'fourWay' })
  const end = farSwitch(make, 1)
  make.joins.push(['far0:b1', end.t1], ['far0:b2', end.t2])
  return { t1: 'far0:a1', t2: 'far0:a2', common: end.common }
}

/** Boxes a good electrician leaves behind, more of them than the usual dozen. */
const widerInside: Stories = {
  ...inside,
  'half-switched receptacle': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const plug = make.chance.is(0.5) ? lamp(make) : null
    const bulb = lamp(make)
    const [on, load, back] = run(
      make,
      [
        { use: 'hot', role: 'lineOn', to: plug?.hot },
        { use: 'second', role: 'load', to: bulb.hot },
        { use: 'return', role: 'neutralOn', to: bulb.cold },
      ],
      false,
    )
    if (plug) make.joins.push([plug.cold, bulb.cold])
    make.neutrals.push(neutral, back!)
    joinHot(make, [line, on!], [load!])
    return 0
  },
  'fan always live, two lights switched': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const fan = lamp(make)
    const first = lamp(make)
    const second = lamp(make)
    make.joins.push([fan.cold, first.cold, second.cold])
    const [on, a, b, back] = run(
      make,
      [
        { use: 'hot', role: 'lineOn', to: fan.hot },
        { use: 'second', role: 'load', to: first.hot },
        { use: 'third', role: 'load', to: second.hot },
        { use: 'return', role: 'neutralOn', to: fan.cold },
      ],
      false,
    )
    make.neutrals.push(neutral, back!)
    joinHot(make, [line, on!], [a!, b!])
    return 0
  },
  'multi-wire, two circuits end here': (make, [one, two]) => {
    const { a, b, neutral } = sharedFeed(make, one!, two!)
    make.neutrals.push(neutral)
    for (const line of [a, b]) {
      const [load, back] = light(make)
      make.neutrals.push(back)
      plain(make, [line], [load])
    }
    return 0
  },
  'multi-wire, two circuits pass on': (make, [one, two]) => {
    const { a, b, neutral } = sharedFeed(make, one!, two!)
    const plugs = [lamp(make), lamp(make)]
    make.joins.push([plugs[0]!.cold, plugs[1]!.cold])
    const [onA, onB, back] = run(
      make,
      [
        { use: 'hot', role: 'lineOn', to: plugs[0]!.hot },
        { use: 'second', role: 'lineOn', to: plugs[1]!.hot },
        { use: 'return', role: 'neutralOn', to: plugs[0]!.cold },
      ],
      false,
    )
    const [load, lampBack] = light(make)
    make.neutrals.push(neutral, back!, lampBack)
    make.splices.push([b, onB!])
    joinHot(make, [a, onA!], [load])
    return 0
  },
  'two-way with tied commons, first switch': (make, [one]) => {
    const there = farSwitch(make, 0)
    let line: string
    let load: string
    if (make.chance.is(0.5)) {
      const bulb = lamp(make)
      make.joins.push([bulb.cold, `${one}.neutral`])
      ;[line, load] = run(make, [lineTo(one!), { use: 'return', role: 'load', to: bulb.hot }], true) as [string, string]
    } else {
      const [hot, neutral] = feed(make, one!)
      const [out, back] = light(make)
      make.neutrals.push(neutral, back)
      line = hot
      load = out
    }
    const [strap, on, back] = run(
      make,
      [
        { use: 'second', role: 'traveler', to: there.common },
        { use: 'hot', role: 'lineOn', to: there.t1 },
        { use: 'third', role: 'loadOn', to: there.t2 },
      ],
      false,
    )
    make.old.push({ contacts: 'threeWay', terminals: { common: [strap!], t1: [line, on!], t2: [load, back!] } })
    return 1
  },
  'two-way with tied commons, second switch': (make, [one]) => {
    const there = farSwitch(make, 0)
    const bulb = lamp(make)
    make.joins.push([there.t1, `${one}.line`], [there.t2, bulb.hot], [bulb.cold, `${one}.neutral`])
    const [strap, line, load] = run(
      make,
      [
        { use: 'second', role: 'traveler', to: there.common },
        { use: 'hot', role: 'line', circuit: one, to: there.t1 },
        { use: 'third', role: 'load', to: there.t2 },
      ],
      true,
    )
    make.old.push({ contacts: 'threeWay', terminals: { common: [strap!], t1: [line!], t2: [load!] } })
    return 1
  },
  '3-way with a neutral brought along': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const [load, back] = light(make)
    const there = farSwitch(make, 0)
    const [common, t1, t2, along] = run(
      make,
      [
        { use: 'hot', role: 'farCommon', to: there.common },
        { use: 'second', role: 'traveler', to: there.t1 },
        { use: 'third', role: 'traveler', to: there.t2 },
        { use: 'return', role: 'neutralOn' },
      ],
      false,
    )
    make.neutrals.push(neutral, back, along!)
    make.splices.push([load, common!])
    threeWay(make, line, [t1!, t2!])
    return 1
  },
  '3-way, feed there, line carried on to here': (make, [one]) => {
    const there = farSwitch(make, 0)
    const [load, back] = light(make)
    make.joins.push([there.common, `${one}.line`])
    const [t1, t2, neutral, line] = run(
      make,
      [{ use: 'second', role: 'traveler', to: there.t1 }, { use: 'third', role: 'traveler', to: there.t2 }, neutralTo(one!), lineTo(one!)],
      true,
    )
    const [on, onBack] = run(
      make,
      [
        { use: 'hot', role: 'lineOn' },
        { use: 'return', role: 'neutralOn' },
      ],
      false,
    )
    make.neutrals.push(neutral!, back, onBack!)
    make.splices.push([line!, on!])
    threeWay(make, load, [t1!, t2!])
    return 1
  },
  '3-way, feed here, light there, line carried on': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const there = farSwitch(make, 0)
    const bulb = lamp(make)
    make.joins.push([there.common, bulb.hot])
    const [t1, t2, back, on] = run(
      make,
      [
        { use: 'second', role: 'traveler', to: there.t1 },
        { use: 'third', role: 'traveler', to: there.t2 },
        { use: 'return', role: 'neutralOn', to: bulb.cold },
        { use: 'hot', role: 'lineOn' },
      ],
      false,
    )
    make.neutrals.push(neutral, back!)
    make.splices.push([line, on!])
    threeWay(make, line, [t1!, t2!])
    return 1
  },
  'end of a 4-way chain, feed here': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const way = chain(make)
    const bulb = lamp(make)
    make.joins.push([way.common, bulb.hot])
    const [t1, t2, back] = run(
      make,
      [
        { use: 'hot', role: 'traveler', to: way.t1 },
        { use: 'second', role: 'traveler', to: way.t2 },
        { use: 'return', role: 'neutralOn', to: bulb.cold },
      ],
      false,
    )
    make.neutrals.push(neutral, back!)
    threeWay(make, line, [t1!, t2!])
    return 2
  },
  'end of a 4-way chain, light here': (make, [one]) => {
    const way = chain(make)
    const [load, back] = light(make)
    make.joins.push([way.common, `${one}.line`])
    const [t1, t2, neutral] = run(
      make,
      [{ use: 'hot', role: 'traveler', to: way.t1 }, { use: 'second', role: 'traveler', to: way.t2 }, neutralTo(one!)],
      true,
    )
    make.neutrals.push(neutral!, back)
    threeWay(make, load, [t1!, t2!])
    return 2
  },
  'single conductors in conduit': (make, [one]) => {
    make.earthed = false
    const [line] = run(make, [lineTo(one!)], false)
    const [neutral] = run(make, [neutralTo(one!)], false)
    const bulb = lamp(make)
    const [load] = run(make, [{ use: 'second', role: 'load', to: bulb.hot }], false)
    const [back] = run(make, [{ use: 'return', role: 'neutralOn', to: bulb.cold }], false)
    make.neutrals.push(neutral!, back!)
    plain(make, [line!], [load!])
    return 0
  },
  'loop for two switches with neutral': (make, [one]) => {
    const first = lamp(make)
    const second = lamp(make)
    make.joins.push([first.cold, second.cold, `${one}.neutral`])
    const [line, a, b] = run(
      make,
      [lineTo(one!), { use: 'second', role: 'load', to: first.hot }, { use: 'third', role: 'load', to: second.hot }, neutralTo(one!)],
      true,
    )
    plain(make, [line!], [a!])
    plain(make, [line!], [b!])
    return 0
  },
  'three lights on one cable': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const bulbs = [lamp(make), lamp(make), lamp(make)]
    make.joins.push(bulbs.map((bulb) => bulb.cold))
    const [a, b, c, back] = run(
      make,
      [
        ...bulbs.map((bulb, index): WireSpec => ({ use: (['hot', 'second', 'third'] as const)[index]!, role: 'load', to: bulb.hot })),
        { use: 'return', role: 'neutralOn', to: bulbs[0]!.cold },
      ],
      false,
    )
    make.neutrals.push(neutral, back!)
    joinHot(make, [line], [a!, b!, c!])
    return 0
  },
  'feed and light in cables with spares': (make, [one]) => {
    const [line, neutral] = withSpares(make, [lineTo(one!), neutralTo(one!)], make.chance.int(3), true)
    const bulb = lamp(make)
    const [load, back] = withSpares(
      make,
      [
        { use: 'hot', role: 'load', to: bulb.hot },
        { use: 'return', role: 'neutralOn', to: bulb.cold },
      ],
      make.chance.int(3),
      false,
    )
    make.neutrals.push(neutral!, back!)
    plain(make, [line!], [load!])
    return 0
  },
  'loop in a cable of three': (make, [one]) => {
    const bulb = lamp(make)
    make.joins.push([bulb.cold, `${one}.neutral`])
    const [line, load] = withSpares(make, [lineTo(one!), { use: 'second', role: 'load', to: bulb.hot }], 1 + make.chance.int(2), true)
    plain(make, [line!], [load!])
    return 0
  },
  'two-pole control, two circuits': (make, [one, two]) => {
    const [a, b] = run(make, [lineTo(one!), { ...lineTo(two!), use: 'return' }], true)
    const heater = lamp(make, { kind: 'lamp', lamp: 'filament', watts: 1000 + make.chance.int(2000) })
    const [c, d] = run(
      make,
      [
        { use: 'hot', role: 'load', to: heater.hot },
        { use: 'return', role: 'load', to: heater.cold },
      ],
      false,
    )
    make.old.push({ contacts: 'other', terminals: { a: [a!], b: [b!], c: [c!], d: [d!] } })
    return 0
  },
  'a heater, or many lamps': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const heater = lamp(make, { kind: 'lamp', lamp: 'filament', watts: 800 + make.chance.int(2200) })
    const [load, back] = run(
      make,
      [
        { use: 'hot', role: 'load', to: heater.hot },
        { use: 'return', role: 'neutralOn', to: heater.cold },
      ],
      false,
    )
    make.neutrals.push(neutral, back!)
    plain(make, [line], [load!])
    return 0
  },
  'the same circuit comes twice': (make, [one]) => {
    const { hot, loads } = feedHere(make, one!, 1)
    const [again, neutral] = feed(make, one!)
    make.neutrals.push(neutral)
    joinHot(make, [...hot, again], loads)
    return 0
  },
  'the old switch is worn out': (make, [one]) => {
    const { neutral, back } = simple(make, one!)
    make.neutrals.push(neutral, back)
    make.faults.push({ kind: 'deadPart', partId: 'old1' })
    return 0
  },
  'a second feed, capped': (make, [one]) => {
    const { hot, loads } = feedHere(make, one!, 1)
    joinHot(make, hot, loads)
    feed(make, one!)
    return 0
  },
}

/** A feed with its light, as the ground for something that is wrong with it. */
function simple(make: Make, one: string) {
  const [line, neutral] = feed(make, one)
  const [load, back] = light(make)
  plain(make, [line], [load])
  return { line, neutral, load, back }
}

/** More of what nobody expects, or noted wrongly. */
const widerSurprises: Stories = {
  ...surprises,
  'a neutral through a corroded joint': (make, [one]) => {
    const { neutral, back } = simple(make, one!)
    make.neutrals.push(neutral, back)
    make.faults.push({ kind: 'highResistance', coreId: neutral, ohms: 150 + make.chance.int(2000) })
    return 0
  },
  'a joint that was noted and is none': (make, [one]) => {
    const { neutral, back } = simple(make, one!)
    make.notedOnly.push([neutral, back])
    return 0
  },
  'line and load touch somewhere': (make, [one]) => {
    const { line, load, neutral, back } = simple(make, one!)
    make.neutrals.push(neutral, back)
    make.joins.push([`${line}.far`, `${load}.far`])
    return 0
  },
  'nothing is live: a switch upstream is off': (make, [one]) => {
    const { line, neutral, back } = simple(make, one!)
    make.neutrals.push(neutral, back)
    make.joins = make.joins.map((join) => (join[0] === `${line}.far` ? [`${line}.far`] : join))
    return 0
  },
  'a spare that touches ground': (make, [one]) => {
    const [line, neutral, spare] = withSpares(make, [lineTo(one!), neutralTo(one!)], 1, true)
    const [load, back] = light(make)
    make.joins.push([`${spare}.far`, 'earth'])
    make.neutrals.push(neutral!, back)
    plain(make, [line!], [load])
    return 0
  },
  'a spare that somebody made live': (make, [one]) => {
    const [line, neutral, spare] = withSpares(make, [lineTo(one!), neutralTo(one!)], 1, true)
    const [load, back] = light(make)
    make.joins.push([`${spare}.far`, `${one}.line`])
    make.neutrals.push(neutral!, back)
    plain(make, [line!], [load])
    return 0
  },
  'two circuits tied in this box': (make, [one, two]) => {
    const [a, neutralA] = feed(make, one!)
    const [b, neutralB] = feed(make, two!)
    const [load, back] = light(make)
    make.neutrals.push(neutralA, neutralB, back)
    // On one leg; on two it would have tripped.
    make.joins.push([`${one}.line`, `${two}.line`])
    plain(make, [a, b], [load])
    return 0
  },
  'a traveler taken for the common': (make, [one]) => {
    const stays = inside['3-way, feed and light here']!(make, [one!])
    const old = make.old[0]!.terminals
    ;[old.common, old.t1] = [old.t1!, old.common!]
    return stays
  },
  'the load is on the line’s side of the switch': (make, [one]) => {
    const { line, load, neutral, back } = simple(make, one!)
    make.neutrals.push(neutral, back)
    // Both are noted on one screw, the other screw is noted with a spare.
    const [spare] = run(
      make,
      [
        { use: 'hot', role: 'spare' },
        { use: 'return', role: 'spare' },
      ],
      false,
    )
    make.old[0] = { contacts: 'single', terminals: { a: [line, load], b: [spare!] } }
    return 0
  },
  'travelers of one switch in two cables': (make, [one]) => {
    const [line, neutral] = feed(make, one!)
    const there = farSwitch(make, 0)
    const bulb = lamp(make)
    make.joins.push([there.common, bulb.hot])
    const [a, back] = run(
      make,
      [
        { use: 'hot', role: '?', to: there.t1 },
        { use: 'return', role: '?', to: bulb.cold },
      ],
      false,
    )
    const [b] = run(
      make,
      [
        { use: 'hot', role: '?', to: there.t2 },
        { use: 'return', role: '?' },
      ],
      false,
    )
    make.neutrals.push(neutral, back!)
    threeWay(make, line, [a!, b!])
    return 1
  },
  'an extra-low-voltage cable in the box': (make, [one]) => {
    const { neutral, back } = simple(make, one!)
    make.neutrals.push(neutral, back)
    const bell = lamp(make, { kind: 'lamp', lamp: 'filament', watts: 1 })
    run(
      make,
      [
        { use: 'hot', role: '?', to: bell.hot },
        { use: 'return', role: '?', to: `${one}.neutral` },
      ],
      false,
    )
    make.joins.push([bell.cold, `${one}.line`])
    return 0
  },
}

/** One box of the wider trials: wired in more ways than the identification lists. */
export const makeWiderBox = (chance: Chance, outside: boolean): TrialBox =>
  boxOf(chance, outside ? widerSurprises : widerInside, outside, true)
