import { plainTester } from '../lifts'
import { canClose, canTouch, isIsolatedFor, type SiteCommand } from '../index'
import type { Actor } from '../../stream'
import { Chance } from '../../chance'
import { Crew, type Focus, type Stage } from './people'
import { childCloses, mate, plot } from './plots'
import { Record } from './record'
import { World, type Harm, type Meter, type WorldBox, type WorldConductor } from './world'

export interface EpisodeReport {
  steps: number
  harms: Harm[]
  deadlock: string | null
  counts: Stage['counts']
}

const habits = {
  job: 18,
  work: 10,
  isolate: 2,
  prove: 2,
  open: 1,
  tag: 2,
  untag: 1.5,
  close: 6,
  inspect: 1,
  closeUp: 2,
  guard: 0.4,
  openBox: 0.6,
  moment: 1.2,
  measure: 0.8,
  leave: 0.5,
  override: 0.8,
  cause: 0.6,
  asks: 4,
  stopped: 1,
  walk: 1,
  night: 0.4,
  unlock: 0.4,
  look: 1.5,
  tidy: 1.5,
  cellar: 2,
  rehang: 0.8,
  explain: 2,
  source: 0.4,
  find: 0.6,
  guards: 0.3,
  confirm: 0.8,
  plot: 7,
}
const events = {
  quiet: 60,
  line: 4,
  battery: 1,
  deliver: 30,
  householder: 1.5,
  stray: 0.7,
  comeBack: 1,
  far: 3,
  rush: 0.25,
  fault: 0.3,
  lunch: 0.15,
  child: 0.8,
  evening: 0.15,
  timer: 0.7,
  office: 0.15,
  licence: 0.1,
}
/** How often the world is not as the labels say. */
const oddities = {
  hiddenFeed: 0.3,
  behindDevice: 0.3,
  far: 0.3,
  otherTraveller: 0.5,
  borrowed: 0.2,
  weak: 0.25,
  noNeutral: 0.3,
  groundBreaks: 0.1,
  groundFloats: 0.1,
  timer: 0.15,
  shift: 0.2,
  battery: 0.15,
  everyPair: 0.2,
  narrowMeter: 0.4,
  farUnlisted: 0.3,
  boxUnlisted: 0.3,
  leverUnlisted: 0.15,
  feedWrong: 0.2,
}

const people = [
  { personId: 'ann', name: 'Ann', initials: 'AN', role: 'technician', licensed: true },
  { personId: 'ben', name: 'Ben', initials: 'BE', role: 'technician', licensed: true },
  { personId: 'ida', name: 'Ida', initials: 'ID', role: 'apprentice', licensed: false },
  { personId: 'lea', name: 'Lea', initials: 'LE', role: 'lead', licensed: true },
] as const satisfies Actor[]

function build(chance: Chance, focus: Focus): Stage {
  const world = new World(chance)
  const record = new Record()
  const odd = { ...chance.swarm(oddities), ...(focus.odd as Partial<typeof oddities>) }
  const second = chance.is(0.25)
  // A battery that takes over when the main opens: with a switching point on record, or without one.
  const takesOver = second && chance.is(0.5)
  const battery = !second && chance.is(odd.battery)
  if (chance.is(odd.shift)) world.shiftVolts = 4
  record.everyPair = chance.is(odd.everyPair)
  const sub = chance.is(0.35)
  const branch = Array.from({ length: 3 + chance.int(3) }, (_, index) => `${index + 1}`)
  const lever = (name: string, above: string[], closed = true) =>
    world.levers.set(name, { name, closed, above, fault: false, tripped: false, locks: [], byLeave: false })
  lever('main', [])
  if (second) lever('generator main', [])
  if (takesOver) world.levers.get('generator main')!.startsWhenOpen = 'main'
  if (battery) {
    lever('battery main', [])
    world.levers.get('battery main')!.startsWhenOpen = 'main'
  }
  // A sub-panel hangs on the first branch; its own breakers feed boxes like any other.
  const mains = second ? ['main', 'generator main'] : ['main']
  // Two sources on one bus: each path from each source has to be cut.
  for (const name of branch) lever(name, [])
  const subLevers = sub ? ['S1', 'S2'] : []
  for (const name of subLevers) lever(name, ['1'])
  for (const name of branch) world.levers.get(name)!.above = battery ? [...mains, 'battery main'] : mains
  const feeders = new Set(sub ? ['1'] : [])
  const ends = [...branch.filter((name) => !feeders.has(name)), ...subLevers]
  // One more in the panel that stands on no list, and in no box's feeds.
  const extra = chance.is(odd.leverUnlisted) ? ['extra'] : []
  for (const name of extra) lever(name, [...world.levers.get(branch[0]!)!.above])
  // The record may have the panel on another breaker than the one that feeds it, or on both.
  const wrongFeeder = sub && chance.is(odd.feedWrong) ? branch[1]! : null
  const rightIsKnown = wrongFeeder === null || chance.is(0.5)
  const feedsOnRecord = (name: string) => (feeders.has(name) && rightIsKnown) || name === wrongFeeder
  const breakerId = new Map<string, string>()
  for (const name of world.levers.keys()) if (name !== 'battery main' && name !== 'extra') breakerId.set(name, record.id())
  const boxId = new Map<string, string>()
  const roomId = record.id()
  const layOut: Extract<SiteCommand, { type: 'layOut' }> = {
    type: 'layOut',
    schemeId: 'na120',
    sources: [
      ...mains.map((name) => ({ id: record.id(), kind: name === 'main' ? ('service' as const) : ('generator' as const), name })),
      ...(battery ? [{ id: record.id(), kind: 'battery' as const, name: 'battery' }] : []),
    ],
    panels: [{ id: record.id(), name: 'panel', place: '' }, ...(sub ? [{ id: record.id(), name: 'sub', place: '' }] : [])],
    breakers: [],
    rooms: [{ id: roomId, name: 'hall' }],
    boxes: [],
  }
  const base = { poles: 1, amps: null, labelAsFound: '', offLimits: null, protection: 'unknown' as const, state: 'closed' as const }
  for (const [index, name] of mains.entries())
    layOut.breakers.push({
      ...base,
      id: breakerId.get(name)!,
      panelId: layOut.panels[0]!.id,
      role: 'main',
      sourceId: layOut.sources[index]!.id,
      suppliesPanelId: layOut.panels[0]!.id,
      number: name,
    })
  for (const name of branch)
    layOut.breakers.push({
      ...base,
      id: breakerId.get(name)!,
      panelId: layOut.panels[0]!.id,
      role: feedsOnRecord(name) ? 'feeder' : 'branch',
      sourceId: null,
      suppliesPanelId: feedsOnRecord(name) ? layOut.panels[1]!.id : null,
      number: name,
    })
  for (const name of subLevers)
    layOut.breakers.push({
      ...base,
      id: breakerId.get(name)!,
      panelId: layOut.panels[1]!.id,
      role: 'branch',
      sourceId: null,
      suppliesPanelId: null,
      number: name,
    })

  const boxNames = ['door', 'stair', 'attic', 'sail room'].slice(0, 2 + chance.int(3))
  // Some are on no list until somebody finds them.
  const unlisted: WorldBox[] = []
  const unlistedNames = boxNames.length > 2 && chance.is(odd.boxUnlisted) ? boxNames.slice(-1) : []
  for (const name of boxNames) {
    const feed = chance.pick(ends)
    const conductor = (letter: string, over: Partial<WorldConductor> = {}): WorldConductor => ({
      letter,
      from: feed,
      onlyIn: null,
      weakVolts: null,
      neutral: false,
      hidden: false,
      timer: null,
      ...over,
    })
    const far = chance.is(odd.far)
    const conductors = [
      conductor('A', { weakVolts: chance.is(odd.weak) ? 20 : null }),
      conductor('B', { from: null, neutral: !chance.is(odd.noNeutral) }),
      conductor(
        'C',
        far ? { onlyIn: chance.pick(['up', 'down']), from: chance.is(odd.otherTraveller) ? chance.pick(ends) : feed } : { from: null },
      ),
    ]
    // What the labels do not say: another feed, or one that shows only behind the old device.
    if (chance.is(odd.hiddenFeed)) conductors.push(conductor('D', { from: chance.pick([...ends, ...extra]) }))
    if (chance.is(odd.timer)) conductors.push(conductor('F', { from: chance.pick(ends), timer: 'off' }))
    if (chance.is(odd.behindDevice)) conductors.push(conductor('E', { from: chance.pick(ends), hidden: true }))
    const box: WorldBox = {
      name,
      conductors,
      plate: 'on',
      plateSaid: false,
      guard: null,
      // A ground that fails in the middle is found by reading against a neutral, or by looking at it again.
      ground: chance.weighed({ good: 0.8, broken: 0.1, floats: odd.groundFloats, breaks: odd.groundBreaks }),
      groundSeen: false,
      far: far ? 'up' : null,
      borrowedFrom: conductors[1]!.neutral && chance.is(odd.borrowed) ? chance.pick(ends) : null,
      partedLive: false,
      partedTested: false,
      stray: false,
      timerSeen: false,
      lastLive: 0,
    }
    if (unlistedNames.includes(name)) unlisted.push(box)
    else {
      world.boxes.set(name, box)
      boxId.set(name, record.id())
    }
  }
  const listed = boxNames.filter((name) => boxId.has(name))
  const labelled = listed.map((name) => {
    const real = world.boxes.get(name)!
    const label = chance.weighed({ right: 6, wrong: 1, unknown: 2, complete: 3 })
    const feeds = [...new Set(real.conductors.flatMap(({ from }) => (from && breakerId.has(from) ? from : [])))]
    return {
      name,
      ids: label === 'unknown' ? [] : label === 'wrong' ? [chance.pick(ends)] : label === 'complete' ? feeds : feeds.slice(0, 1),
    }
  })
  for (const { name, ids } of labelled) {
    const far = world.boxes.get(name)!.far && !chance.is(odd.farUnlisted)
    const other = listed.find((candidate) => candidate !== name)!
    layOut.boxes.push({
      id: boxId.get(name)!,
      roomId,
      name,
      gangs: 1,
      volumeIn3: null,
      depthMm: null,
      material: 'unknown',
      internalClamps: 0,
      breakerIds: ids.map((lever) => breakerId.get(lever)!),
      unknownFeed: false,
      farBoxIds: far ? [boxId.get(other)!] : [],
    })
  }
  record.give({ id: record.id(), actor: people[3], basedOnSeq: 0, command: layOut, givenAt: 0 }, 0)
  const meters = chance.swarm({ good: 8, fails: 1, dead: 0.2, sleeps: 0.5 })
  const ranges = chance.is(odd.narrowMeter)
    ? chance.swarm({ both: 3, high: 1, low: 1, twoPole: 2 })
    : { both: 1, high: 0, low: 0, twoPole: 0 }
  const meter = (id: string, kind: Meter['kind'], range: Meter['range'] = 'both'): Meter => ({
    id,
    kind,
    range,
    readings: 0,
    turnsAt: 1 + chance.int(12),
  })
  const stage: Stage = {
    world,
    record,
    chance,
    people: [],
    breakerId,
    boxId,
    loose: battery ? { sourceId: layOut.sources.at(-1)!.id, lever: 'battery main' } : null,
    panelId: layOut.panels[0]!.id,
    unlisted,
    found: [],
    roomId,
    leverOf: (id) => world.levers.get(record.state.breakers[id]!.number)!,
    focus,
    habits: { ...chance.swarm(habits), ...(focus.plot ? { plot: 60 } : {}) },
    events: { ...chance.swarm(events), quiet: events.quiet, ...(focus.events as Partial<typeof events>) },
    calm: false,
    counts: { touches: 0, commands: 0, refused: 0, granted: 0, offlineTouches: 0, moments: 0, proofs: 0, inVain: 0 },
  }
  for (const actor of people) {
    const good = meter(`meter ${actor.personId}`, chance.weighed(meters), chance.weighed(ranges))
    const old = meter(`old meter ${actor.personId}`, 'drifts')
    const fine = meter(`new meter ${actor.personId}`, 'good')
    record.instruments.set(fine.id, {
      name: fine.id,
      serial: '',
      kind: fine.range,
      calibrationDue: '2027-01-01',
      ...plainTester,
      lowestStepVolts: 12,
    })
    record.instruments.set(good.id, {
      name: good.id,
      serial: '',
      kind: good.range,
      calibrationDue: '2027-01-01',
      ...plainTester,
      lowestStepVolts: 12,
    })
    record.instruments.set(old.id, { name: old.id, serial: '', kind: 'both', calibrationDue: '2026-01-01', ...plainTester })
    const person = new Crew(stage, actor, good, old, fine)
    person.back = () => reconnect(stage, person)
    stage.people.push(person)
  }
  countProofs(stage)
  return stage
}

/** Facts that end proofs because power may have come. */
const powerFacts = new Set([
  'breakerObserved',
  'liveObserved',
  'readingTaken',
  'roundSeen',
  'neutralsTied',
  'partedTested',
  'causeRecorded',
])
interface Fact {
  boxId?: string
  breakerId?: string
}
/** Was it so, what the fact says: voltage in its box since then, or the lever closed? */
function reallyLive({ world, boxId, leverOf }: Stage, fact: Fact, from: number): boolean {
  const box = [...boxId].find(([, id]) => id === fact.boxId)?.[0]
  if (box && (world.isLive(box) || world.boxes.get(box)!.lastLive > from)) return true
  if (fact.breakerId === undefined) return false
  const lever = leverOf(fact.breakerId)
  return lever.closed || (lever.closedAt ?? -1) > from
}
/** Counts the proofs that lived, and those that a fact ended although nothing was live there meanwhile. */
function countProofs(stage: Stage): void {
  const { record, world, boxId, counts } = stage
  const since = new Map<string, number>()
  const nameOf = (id: string) => [...boxId].find(([, known]) => known === id)![0]
  record.before = ({ type, payload }) => {
    const { proofId, outcome, voids = [] } = payload as { proofId?: string; outcome?: string; voids?: string[] }
    if (type === 'proofFinished' && outcome === 'good') {
      counts.proofs++
      since.set(proofId!, world.now)
    }
    if (!powerFacts.has(type)) return
    for (const id of voids) {
      const proof = record.state.proofs[id]
      const from = since.get(id)
      if (proof?.status !== 'living' || from === undefined) continue
      const box = world.boxes.get(nameOf(proof.boxId))!
      if (box.lastLive <= from && !world.isLive(box.name) && !reallyLive(stage, payload as Fact, from)) counts.inVain++
    }
  }
}

/** Whoever may close a breaker does it: oneself, or a licensed mate one asks. */
function byCloser({ people: crew }: Stage, person: Crew, task: (who: Crew) => Generator<void, void, void>): Generator<void, void, void> {
  const other = person.actor.licensed
    ? undefined
    : crew.find((one) => one.actor.licensed && one.present && !one.leaving && one.phone.alive && one.phone.online && !one.task)
  return other ? mate(other, task(other)) : task(person)
}

function choose(stage: Stage, person: Crew): Generator<void, void, void> {
  const { chance, world } = stage
  if (person.calledHome) {
    person.calledHome = false
    return person.goHome()
  }
  const box = chance.pick([...world.boxes.keys()])
  const lever = chance.pick([...stage.breakerId.keys()])
  const at = person.at ?? box
  const openLevers = [...stage.breakerId.keys()].filter((name) => !world.levers.get(name)!.closed)
  // Chance likes the levers that matter: those that feed a box somebody works in, whatever the labels say.
  const hot = openLevers.filter((name) =>
    [...world.hands.values(), at].some((one) => world.boxes.get(one)!.conductors.some((conductor) => conductor.from === name)),
  )
  const shut = hot.length && chance.is(0.5) ? chance.pick(hot) : openLevers.length ? chance.pick(openLevers) : lever
  const kind = chance.weighed(stage.habits)
  switch (kind) {
    case 'job':
      return (function* () {
        person.at = box
        yield* person.isolate(box)
        if (isIsolatedFor(person.phone.state, person.phone.state.boxes[stage.boxId.get(box)!]!, person.id).yes && !person.mayTouch(box))
          yield* person.prove(box)
        yield
        yield* person.work(box)
      })()
    case 'work':
      return person.work(at)
    case 'isolate':
      return person.isolate(at)
    case 'prove':
      return (function* () {
        person.at = at
        yield* person.prove(at)
      })()
    case 'open':
      return person.openLever(lever)
    case 'tag':
      return person.hangTag(lever)
    case 'untag':
      return person.takeTagsOff()
    case 'close':
      return byCloser(stage, person, (who) => who.close(shut))
    case 'inspect':
      return person.inspect(lever)
    case 'closeUp':
      return person.closeUp(at)
    case 'guard':
      return person.guard(at)
    case 'openBox':
      return person.openBox(box)
    case 'moment':
      return person.moment(shut)
    case 'measure':
      return person.measure(at)
    case 'leave':
      return person.leave()
    case 'override':
      return person.override()
    case 'cause':
      return person.findCause(lever)
    case 'asks':
      return person.answerAsks()
    case 'look':
      return person.look(box)
    case 'tidy':
      return byCloser(stage, person, (who) => who.tidy(shut))
    case 'cellar':
      return person.cellar(box)
    case 'plot':
      return plot(stage, person)
    case 'rehang':
      return person.hangAgain()
    case 'explain':
      return person.explain()
    case 'source':
      return person.placeSource()
    case 'find':
      return person.find((name) => calledOut(stage, name))
    case 'guards':
      return person.takeGuards()
    case 'confirm':
      return person.confirmGone()
    case 'unlock':
      return person.unlock()
    case 'stopped':
      return person.stopped()
    case 'night':
      return person.hangTag(lever, true)
    case 'walk':
      person.at = box
      return person.inspect(lever)
  }
}

/** What happens around the crew: phones, networks, householders, strays from next door. */
function happen(stage: Stage): void {
  const { chance, world, people: crew, breakerId, record } = stage
  const person = chance.pick(crew)
  const { phone } = person
  const kind = chance.weighed(stage.events)
  if (kind === 'line') {
    if (phone.online) phone.online = false
    else reconnect(stage, person)
  } else if (kind === 'battery') {
    phone.alive = !phone.alive
    if (phone.alive && phone.online) reconnect(stage, person)
  } else if (kind === 'deliver') phone.receive(chance.weighed({ none: 20, repeat: 3, gap: 3, newer: 0.5 }))
  else if (kind === 'householder') {
    // Switches things off, and on again what the crew left untagged, as long as no secret feed hangs on it.
    const known = [...breakerId.keys()].map((name) => world.levers.get(name)!)
    const off = known.filter((one) => !one.closed && one.locks.length === 0)
    const lever = off.length && chance.is(0.5) ? chance.pick(off) : chance.pick(known)
    const secret = [...world.boxes.values()].some((box) => {
      const known = record.state.boxes[stage.boxId.get(box.name)!]!.breakerIds.includes(breakerId.get(lever.name)!)
      return box.borrowedFrom === lever.name || (!known && box.conductors.some((conductor) => conductor.from === lever.name))
    })
    const secretAbove = lever.above.length === 0 || lever.name === '1'
    // Whoever took a lock off below, without network, has left word that the others do not know yet.
    const wordLeft = Object.values(record.state.tags).some((tag) => tag.breakerId === breakerId.get(lever.name))
    if (lever.closed) world.open(lever.name)
    else if (!secret && !secretAbove && !wordLeft && lever.locks.length === 0 && !lever.fault && !lever.tripped) world.close(lever.name)
  } else if (kind === 'stray') {
    // Comes and goes only while nobody reaches in, and somebody sees the lamp and says so.
    const box = chance.pick([...world.boxes.values()])
    if ([...world.hands.values()].includes(box.name)) return
    const witness = crew.find((one) => one.present && one.phone.alive && one.phone.online && one.phone.outbox.length === 0)
    if (!box.stray && !witness) return
    box.stray = !box.stray
    world.look()
    if (box.stray && witness) {
      record.give(
        {
          id: record.id(),
          actor: witness.actor,
          basedOnSeq: witness.phone.known.understoodSeq,
          command: { type: 'observeLive', boxId: stage.boxId.get(box.name)!, what: 'lightOn', volts: null, impedance: null, note: '' },
          givenAt: world.now,
        },
        world.now,
      )
      calledOut(stage, box.name)
    }
  } else if (kind === 'timer') {
    // A timer that nobody knows of switches while nobody reaches in, and its lamp is seen. Once told, it comes and goes.
    const boxes = [...world.boxes.values()].filter((box) => box.conductors.some((one) => one.timer === 'on' || one.timer === 'off'))
    if (boxes.length === 0) return
    const box = chance.pick(boxes)
    const witness = crew.find((one) => one.present && one.phone.alive && one.phone.online && one.phone.outbox.length === 0)
    if (!box.timerSeen && (!witness || [...world.hands.values()].includes(box.name))) return
    for (const one of box.conductors) if (one.timer === 'on' || one.timer === 'off') one.timer = one.timer === 'on' ? 'off' : 'on'
    world.look()
    if (box.timerSeen || !witness || !world.isLive(box.name)) return
    const command = {
      type: 'observeLive',
      boxId: stage.boxId.get(box.name)!,
      what: 'lightOn',
      volts: null,
      impedance: null,
      note: '',
    } as const
    record.give(
      { id: record.id(), actor: witness.actor, basedOnSeq: witness.phone.known.understoodSeq, command, givenAt: world.now },
      world.now,
    )
    box.timerSeen = Object.values(record.state.signs).some((sign) => sign.boxId === command.boxId)
    calledOut(stage, box.name)
  } else if (kind === 'office') {
    // Somebody at a desk takes another job in, with what they know of the feeds; right or wrong.
    const name = chance.pick([...world.boxes.keys()])
    const known = record.state.boxes[stage.boxId.get(name)!]!
    const { schemeId } = record.state
    const real = world.boxes.get(name)!.conductors.flatMap((one) => (one.from ? (breakerId.get(one.from) ?? []) : []))
    const more = chance.is(0.5) && real.length ? real : [chance.pick([...breakerId.values()])]
    const command = {
      type: 'layOut' as const,
      schemeId,
      sources: [],
      panels: [],
      breakers: [],
      rooms: [],
      boxes: [{ ...known, breakerIds: more, unknownFeed: chance.is(0.2) }],
    }
    const giveOffice = (given: SiteCommand) =>
      record.give({ id: record.id(), actor: people[3], basedOnSeq: record.state.seq, command: given, givenAt: world.now }, world.now)
    // … or puts something right: a name, a box that is said to be listed twice, a label.
    const boxId = stage.boxId.get(name)!
    const feeder = Object.values(record.state.breakers).find(({ role }) => role === 'feeder')
    const what = chance.weighed({ job: 3, rename: 1, retire: 1, label: 1, unfeed: feeder ? 1 : 0 })
    if (what === 'job') giveOffice(command)
    else if (what === 'rename') giveOffice({ type: 'correctBox', boxId, name: `${name} ${record.state.seq}` })
    else if (what === 'retire') giveOffice({ type: 'retireBox', boxId, reason: 'listed twice' })
    // Rightly or wrongly: a licensed person says that it does not feed the panel.
    else if (what === 'unfeed') giveOffice({ type: 'unfeedPanel', breakerId: feeder!.id, reason: 'it feeds the oven' })
    else giveOffice({ type: 'correctBreaker', breakerId: chance.pick([...breakerId.values()]), labelAsFound: 'lights' })
  } else if (kind === 'licence') {
    // The office withdraws a licence, or makes somebody an apprentice, in the middle of the day.
    const who = crew[1]!
    const licensed = !who.actor.licensed
    who.actor = { ...who.actor, licensed }
    const command = { type: 'notePerson' as const, personId: who.id, licensed, role: who.actor.role, active: true }
    record.give({ id: record.id(), actor: people[3], basedOnSeq: record.state.seq, command, givenAt: world.now }, world.now)
    // Told to their face: whoever worked on it stops.
    for (const one of crew) {
      one.phone.receive()
      if (!licensed && (!one.phone.online || !one.phone.alive)) one.handsOut()
      one.reflex()
    }
  } else if (kind === 'child') {
    const witness = crew.find((one) => one.present && one.phone.alive && one.phone.online && one.phone.outbox.length === 0)
    if (witness) childCloses(stage, chance.pick([...breakerId.keys()]), witness)
  } else if (kind === 'evening') {
    for (const one of crew) if (one.present) one.calledHome = true
  } else if (kind === 'comeBack') {
    if (!person.present) {
      person.present = true
      person.left = false
      phone.alive = true
      reconnect(stage, person)
    }
  } else if (kind === 'far') {
    const worked = [...world.hands.values()]
    const box = world.boxes.get(worked.length && chance.is(0.6) ? chance.pick(worked) : chance.pick([...world.boxes.keys()]))!
    // A switch nobody knows of stays as it is: no record could tell of it. Whoever works there has been told, or is.
    const id = stage.boxId.get(box.name)!
    const told = (one: Crew) => one.phone.known.boxes[id]!.farBoxIds.length > 0
    if (!crew.every((one) => world.hands.get(one.id) !== box.name || told(one)) || record.state.boxes[id]!.farBoxIds.length === 0) return
    if (box.far) box.far = box.far === 'up' ? 'down' : 'up'
    world.look()
  } else if (kind === 'rush' && person.present && person.actor.role !== 'lead' && !person.task) {
    // Called away: gone, tag and all.
    person.handsOut()
    person.present = false
    person.at = null
  } else if (kind === 'fault') {
    const lever = chance.pick([...world.levers.values()])
    if (!lever.closed && !lever.tripped && !lever.name.endsWith('main')) lever.fault = true
  } else if (kind === 'lunch') world.now += 3600 + chance.int(3600)
}

/** It is called out aloud: everyone in the house hears it. */
function calledOut({ people: crew, chance }: Stage, name: string): void {
  for (const one of crew) {
    one.phone.receive(chance.is(0.2) ? 'newer' : 'none')
    if (!one.phone.online) one.handsOut()
    one.seen.delete(name)
    one.reflex()
  }
  for (const one of crew) if (!one.phone.online || !one.phone.alive) one.heard.add(name)
}

/** The line is back: what was kept goes out in order, once each, and the record is read again. */
function reconnect(stage: Stage, person: Crew): void {
  const { phone } = person
  phone.online = true
  if (!phone.alive) return
  for (let tries = 0; tries < 20 && phone.outbox.length > 0; tries++) person.sendQueued()
  if (phone.known.unknownEvent) phone.update()
  phone.receive()
  person.heard.clear()
  if (!person.onOther) person.ahead = false
  person.countLocks()
}

/**
 * With everyone reachable, or with any one person gone for good: allowed commands lead to no tags and every breaker
 * closed. Returns what is stuck.
 */
function windDown(stage: Stage): string | null {
  const { world, record, people: crew, breakerId, boxId, chance } = stage
  stage.calm = true
  const gone = chance.is(0.5) ? chance.pick(crew) : null
  for (const box of world.boxes.values()) {
    box.stray = false
    box.ground = 'good'
    // The lead brings what is missing: a lamp on every hidden feed, so that nothing is touched unknown.
  }
  // Somebody whose licence was withdrawn gets it back: a crew needs one to finish.
  for (const person of crew) {
    if (person.actor.role === 'apprentice' || person.actor.licensed) continue
    person.actor = { ...person.actor, licensed: true }
  }
  for (const person of crew) {
    person.handsOut()
    person.onOther = false
    person.present = person !== gone
    person.phone.alive = person !== gone
    if (person !== gone) reconnect(stage, person)
  }
  const there = crew.filter((person) => person !== gone)
  const run = (task: Generator<void, unknown, void>) => {
    for (let turns = 0; turns < 4000; turns++) {
      const { done } = task.next()
      for (const person of there) {
        for (let tries = 0; tries < 20 && person.phone.outbox.length > 0; tries++) person.sendQueued()
        person.phone.receive()
      }
      if (done) return
      world.now++
    }
  }
  const licensed = there.filter((person) => person.actor.licensed)
  const [ann] = licensed as [Crew]
  const second = licensed.at(-1)!
  for (const person of there) if (person.task) run(person.task)
  for (const person of crew) {
    person.task = null
    person.hanging.clear()
    person.present = person !== gone
    if (person !== gone) reconnect(stage, person)
  }
  const site = record.state
  const give = (actor: Actor, command: SiteCommand) =>
    record.give({ id: record.id(), actor, basedOnSeq: record.state.seq, command, givenAt: world.now }, world.now)
  for (let rounds = 0; rounds < 20; rounds++) {
    if (gone && gone.id in site.people) {
      // A lead who is left declares it; with the only lead gone, somebody at the host does. A second person confirms.
      const lead = gone.actor.role === 'lead' ? ({ ...gone.actor, personId: 'host', name: 'the host', initials: 'HO' } as Actor) : people[3]
      give(lead, {
        type: 'declareAbsent',
        personId: gone.id,
        reason: 'phoned, is at home',
        leftBuildingVerified: true,
        explained: 'left in a hurry, answers the phone at home',
      })
      const other = ann.id === lead.personId ? second : ann
      give(other.actor, { type: 'confirmAbsent', personId: gone.id, household: null })
      for (const person of there) person.phone.receive()
    }
    // Their lock without a tag on record is cut off.
    for (const lever of world.levers.values())
      for (const lock of [...lever.locks]) if (lock.owner === gone?.id && !(lock.tagId in site.tags)) world.unhang(lock.tagId)
    for (const permit of Object.values(site.grants)) {
      const owner = there.find((person) => person.id === permit.personId)
      if (owner) run(owner.answer(permit.id, stage.leverOf(permit.breakerId).closed ? 'closed' : 'givenUp'))
    }
    for (const ask of Object.values(site.asks)) {
      const owner = there.find((person) => person.id === ask.personId)
      if (!owner) continue
      const lever = stage.leverOf(ask.breakerId)
      if (ask.status === 'asked') run(owner.say({ type: 'withdrawAsk', askId: ask.id }))
      else run(owner.openLever(lever.name))
    }
    for (const person of there) run(person.goOn())
    run(ann.placeSource())
    for (const name of breakerId.keys()) run(ann.inspect(name))
    for (const person of there) run(person.stopped())
    for (const person of there)
      for (const proof of Object.values(site.proofs))
        if (proof.status !== 'void' && proof.personId === person.id) run(person.giveUp(proof.id))
    for (const person of there) run(person.explain())
    for (const person of there) run(person.takeTagsOff())
    for (const person of there) run(person.stopped())
    for (const tag of Object.values(site.tags)) {
      if (!tag.company) continue
      run(ann.say({ type: 'removeTag', tagId: tag.id }))
      if (!(tag.id in site.tags)) world.unhang(tag.id)
    }
    world.levers.forEach((lever) => {
      const id = breakerId.get(lever.name)
      if (id && site.breakers[id]!.tripUnexplained) run(ann.findCause(lever.name))
      if (lever.fault) lever.fault = false
    })
    run(ann.takeGuards())
    // A plate somebody took off while their phone died is seen by whoever goes round.
    for (const [name, id] of boxId) {
      const real = world.boxes.get(name)!
      if (real.plate !== 'off' || site.boxes[id]!.closure === 'opened') continue
      run(ann.say({ type: 'openBox', boxId: id }))
      real.plateSaid = true
    }
    // Boxes that stand open are isolated at the mains, proven and closed.
    for (const [name, id] of boxId) {
      if (site.boxes[id]!.closure === 'closed' || site.boxes[id]!.closure === 'guarded') continue
      for (let tries = 0; tries < 3 && site.boxes[id]!.closure === 'opened'; tries++) {
        const feeds = [...breakerId.keys()].filter((lever) => !['main', 'generator main', 'battery main'].includes(lever))
        // What really feeds it is opened too: with light and time a crew finds every feed.
        for (const lever of feeds) run(ann.openLever(lever))
        const real = world.boxes.get(name)!
        for (const conductor of real.conductors) if (conductor.timer) conductor.timer = 'defeated'
        run(ann.explain())
        run(ann.isolate(name))
        real.conductors.forEach((conductor) => (conductor.hidden = false))
        run(ann.prove(name, true))
        for (const part of site.boxes[id]!.parted.filter((candidate) => !candidate.tested)) {
          const proof = site.proofs[site.boxes[id]!.proofId ?? '']
          const { instrumentId = '', sourceVolts: testerVolts = 0 } = proof ?? {}
          run(ann.say({ type: 'testParted', partId: part.id, instrumentId, voltsHere: 0, voltsAway: 0, testerVolts }))
        }
        if (canTouch(site, id, ann.actor, ann.vantage).yes) run(ann.closeUp(name))
      }
      for (const proof of Object.values(site.proofs)) if (proof.status !== 'void' && proof.personId === ann.id) run(ann.giveUp(proof.id))
      for (const person of there) run(person.stopped())
      run(ann.takeTagsOff())
    }
    for (const name of breakerId.keys()) {
      const person = chance.pick([ann, second])
      if (!world.levers.get(name)!.closed) run(person.close(name))
      run(ann.inspect(name))
    }
    if (settled()) return null
  }
  function settled() {
    return (
      Object.keys(site.tags).length === 0 &&
      Object.keys(site.grants).length === 0 &&
      Object.values(site.breakers).every((breaker) => breaker.state === 'closed') &&
      [...world.levers.values()].every((lever) => lever.closed)
    )
  }
  return JSON.stringify({
    gone: gone?.id ?? null,
    tags: Object.values(site.tags).map((tag) => [tag.personId, tag.company, tag.suspendedFor, tag.defeated]),
    grants: Object.values(site.grants).length,
    asks: Object.values(site.asks).map((ask) => [ask.status, ask.personId]),
    alarms: Object.values(site.alarms).map((alarm) => [alarm.personId, alarm.what, alarm.boxIds.length]),
    signs: Object.values(site.signs).map((sign) => [sign.what, sign.personId]),
    open: Object.values(site.breakers)
      .filter((breaker) => breaker.state !== 'closed')
      .map((breaker) => [breaker.number, breaker.state, breaker.tripUnexplained]),
    boxes: Object.values(site.boxes).map((box) => [
      box.name,
      box.closure,
      box.closure === 'opened' && canTouch(site, box.id, ann.actor, ann.vantage),
    ]),
    proofs: Object.values(site.proofs).filter((proof) => proof.status !== 'void').length,
    why: Object.values(site.breakers)
      .filter((breaker) => breaker.state !== 'closed')
      .map((breaker) => canClose(site, breaker.id, ann.actor)),
  })
}
/** One crew, one house, one working day; then everyone is reachable and everything is put back. */
export function episode(seed: number, steps: number, focus: Focus = {}): EpisodeReport {
  const stage = build(new Chance(seed), focus)
  const { chance, world, people: crew, record, breakerId } = stage
  let done = 0
  for (; done < steps && world.harms.length === 0; done++) {
    world.now += 1 + chance.int(15)
    happen(stage)
    for (const one of [...stage.found])
      if (crew.every(({ phone }) => one.id in phone.known[one.kind])) {
        one.take()
        stage.found.splice(stage.found.indexOf(one), 1)
      }
    const person = chance.pick(crew)
    // A line that stands takes what still waits, sooner or later.
    if (person.phone.alive && person.phone.online && person.phone.outbox.length > 0 && chance.is(0.3)) person.sendQueued()
    person.reflex()
    if (!person.present) continue
    // A person whose phone is dead does nothing but step back, take a tag off on a mate's phone, or say clear there.
    if (!person.phone.alive && !person.task) {
      if (chance.is(0.1)) person.task = person.takeTagsOff()
      else if (chance.is(0.3)) person.task = person.answerAsks()
      else continue
    }
    person.task ??= person.summoned() ?? choose(stage, person)
    if (person.task.next().done) person.task = null
    world.look()
    for (const lever of world.levers.values())
      if (
        lever.byLeave &&
        lever.closed &&
        !Object.values(record.state.grants).some((permit) => permit.breakerId === breakerId.get(lever.name)) &&
        record.state.breakers[breakerId.get(lever.name)!]!.state === 'open'
      )
        world.harm('the record calls a breaker open that was closed with a permit', lever.name)
  }
  const harms = [...world.harms]
  if (harms.length > 0) return { steps: done, harms, deadlock: null, counts: stage.counts }
  const deadlock = windDown(stage)
  return { steps: done, harms: world.harms, deadlock, counts: stage.counts }
}
