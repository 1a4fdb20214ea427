import type { Crew, Stage } from './people'

type Task = Generator<void, void, void>

/**
 * Short stories that chance alone would tell too rarely: each brings two people close to one kind of accident. Everyone
 * still does only what the phone allows, so with all rules in place nothing happens.
 */
export function plot(stage: Stage, p: Crew): Task {
  const { chance, world, people } = stage
  const q = chance.pick(
    people.filter((mate) => mate !== p && mate.present && mate.phone.alive && mate.phone.online && mate.phone.outbox.length === 0),
  ) as Crew | undefined
  if (!q || !p.phone.alive || !p.phone.online) return p.inspect(chance.pick([...stage.breakerId.keys()]))
  const secrets = [...world.boxes.values()].flatMap((box) =>
    box.conductors.flatMap((conductor) => {
      const { from } = conductor
      if (!from || conductor.hidden || !stage.breakerId.has(from)) return []
      const known = stage.record.state.boxes[stage.boxId.get(box.name)!]!
      return known.breakerIds.length > 0 && !known.breakerIds.includes(stage.breakerId.get(from)!) ? [{ box: box.name, lever: from }] : []
    }),
  )
  const several = [...stage.boxId].filter(([, id]) => stage.record.state.boxes[id]!.breakerIds.length > 1).map(([name]) => name)
  const kinds = [
    'lunch',
    'unsent',
    'measure',
    'again',
    'lateClosed',
    'trip',
    'watch',
    'child',
    'unheardClear',
    'slowClear',
    'halted',
    'elsewhere',
    'guard',
    ...(several.length ? ['twoFeeds'] : []),
    ...(secrets.length ? ['secret', 'foundOff', 'moment', 'cellar', 'alarm', 'unheardClosed'] : []),
  ]
  const secret = secrets.length ? chance.pick(secrets) : null
  const any = chance.pick([...world.boxes.keys()])
  const wanted = stage.focus.plot
  switch (wanted && kinds.includes(wanted) ? wanted : chance.pick(kinds)) {
    case 'twoFeeds':
      return twoFeeds(stage, p, q, chance.pick(several))
    case 'secret':
      return secretFeed(p, q, secret!.box, secret!.lever)
    case 'foundOff':
      return foundOff(stage, p, q, secret!.box, secret!.lever)
    case 'moment':
      return moment(p, q, secret!.box, secret!.lever)
    case 'cellar':
      return cellar(p, q, secret!.box, secret!.lever)
    case 'alarm':
      return alarm(stage, p, q, secret!.box, secret!.lever)
    case 'trip':
      return trip(stage, q)
    case 'watch':
      return watch(p, q, any)
    case 'child':
      return child(stage, p, q, any)
    case 'guard':
      return leftCapped(stage, p, q, any)
    case 'elsewhere':
      return elsewhere(stage, p, q, any)
    case 'halted':
      return halted(p, q, any)
    case 'slowClear':
      return slowClear(stage, p, q, any)
    case 'unheardClear':
      return unheardClear(stage, p, q, any)
    case 'unheardClosed':
      return unheardClosed(p, q, secret!.box, secret!.lever)
    case 'lateClosed':
      return lateClosed(stage, p, q, any)
    case 'measure':
      return beside(p, q, any)
    case 'lunch':
      return longLunch(stage, p, any)
    case 'again':
      return hangAgain(stage, p, q, any)
    default:
      return unsent(stage, p, q, any)
  }
}

/** What a mate does in somebody else's story, for as long as they are there: who is on the way out is not called back by a story. */
export function* mate(q: Crew, task: Task): Task {
  while (q.present && q.phone.alive && !q.leaving && !task.next().done) yield
}

function* ready(p: Crew, box: string): Task {
  p.at = box
  yield* p.isolate(box)
  if (!p.mayTouch(box)) yield* p.prove(box, true)
}

/** Two known feeds, both off; a householder puts on what nobody locked. */
function* twoFeeds(stage: Stage, p: Crew, q: Crew, box: string): Task {
  const { world, record, boxId } = stage
  const levers = record.state.boxes[boxId.get(box)!]!.breakerIds.map((id) => stage.leverOf(id))
  for (const lever of levers) yield* mate(q, q.openLever(lever.name))
  yield* ready(p, box)
  if (!p.stay(box)) return

  yield
  for (const lever of levers) if (!lever.closed && lever.locks.length === 0 && !lever.fault) world.close(lever.name)
  world.look()
  p.handsOut()
}

/** A feed nobody knows of is off while the box is proven; a mate wants it on again. */
function* secretFeed(p: Crew, q: Crew, box: string, lever: string): Task {
  yield* mate(q, q.openLever(lever))
  yield* ready(p, box)
  if (!p.stay(box)) return

  yield
  yield* mate(q, q.close(lever))
  p.handsOut()
}

/** The same, but a householder had switched it off, and the mate only finds it. */
function* foundOff(stage: Stage, p: Crew, q: Crew, box: string, lever: string): Task {
  if (stage.world.levers.get(lever)!.locks.length > 0) return
  stage.world.open(lever)
  yield* ready(p, box)
  if (!p.stay(box)) return

  yield
  yield* mate(q, q.tidy(lever))
  p.handsOut()
}

/** Said clear to power for a moment, and reaching in again. */
function* moment(p: Crew, q: Crew, box: string, lever: string): Task {
  yield* mate(q, q.openLever(lever))
  yield* ready(p, box)
  const asking = q.moment(lever)
  for (let turns = 0; turns < 80; turns++) {
    if (!q.present || asking.next().done) break
    yield* p.answerAsks()
    if (p.stay(box)) yield
    p.reflex()
  }
  p.handsOut()
  yield
  if (p.stay(box)) p.handsOut()
}

/** "Clear" arrives, and the network is gone before its answer: the own phone still shows the tag. */
function* unheardClear(stage: Stage, p: Crew, q: Crew, box: string): Task {
  yield* ready(p, box)
  const own = Object.values(p.phone.known.tags).find((tag) => tag.personId === p.id && !tag.company)
  if (!own || !p.mayTouch(box)) return
  p.cutNext = true
  const asking = q.moment(stage.leverOf(own.breakerId).name)
  for (let turns = 0; turns < 80; turns++) {
    if (!q.present || asking.next().done) break
    if (p.phone.online) yield* p.answerAsks()
    if (p.stay(box)) yield
    p.reflex()
  }
  p.cutNext = false
  p.handsOut()
}

/** A mate stops the work while hands are in; hands go in again only once it goes on. */
function* halted(p: Crew, q: Crew, box: string): Task {
  yield* ready(p, box)
  if (!p.stay(box)) return
  yield* mate(q, q.halt())
  for (let turns = 0; turns < 12; turns++) {
    yield
    p.reflex()
    if (p.mayTouch(box)) p.stay(box)
  }
  yield* mate(q, q.goOn())
  yield* p.goOn()
  p.handsOut()
}

/** "Clear" is said on a slow line by somebody whose hands go on while the answer is on its way. */
function* slowClear(stage: Stage, p: Crew, q: Crew, box: string): Task {
  yield* ready(p, box)
  const own = Object.values(p.phone.known.tags).find((tag) => tag.personId === p.id && !tag.company)
  if (!own || !p.mayTouch(box)) return
  const asking = q.moment(stage.leverOf(own.breakerId).name)
  for (let turns = 0; turns < 80; turns++) {
    if (!q.present || asking.next().done) break
    p.slowAnswers = 2
    const answering = p.answerAsks()
    while (!answering.next().done) {
      if (p.stay(box)) yield
      p.reflex()
    }
  }
  p.slowAnswers = 0
  p.handsOut()
}

/** "Closed up" arrives, and the network is gone before its answer; one thing was forgotten, and the box is proven again. */
function* unheardClosed(p: Crew, q: Crew, box: string, lever: string): Task {
  yield* mate(q, q.openLever(lever))
  yield* ready(p, box)
  if (!p.mayTouch(box)) return
  p.cutNext = true
  yield* p.closeUp(box)
  p.cutNext = false
  p.phone.online = false
  yield* p.openBox(box)
  yield* p.prove(box, true)
  if (!p.stay(box)) return

  yield
  yield* mate(q, q.close(lever))
  p.handsOut()
}

/** Below, without signal, while others work above. */
function* cellar(p: Crew, q: Crew, box: string, lever: string): Task {
  yield* mate(q, q.openLever(lever))
  yield* p.isolate(box)
  p.phone.online = false
  yield* p.prove(box, true)
  if (!p.stay(box)) return

  yield
  yield* mate(q, q.close(lever))
  p.handsOut()
}

function* beside(p: Crew, q: Crew, box: string): Task {
  yield* ready(p, box)
  if (!p.stay(box)) return

  yield
  yield* mate(q, q.measure(box))
  p.handsOut()
}

/** Proven without signal, told much later, touched later still. */
function* longLunch(stage: Stage, p: Crew, box: string): Task {
  yield* ready(p, box)
  if (!p.mayTouch(box)) return
  yield* p.giveOwnUp(box)
  p.phone.online = false
  yield* p.prove(box, true)
  stage.world.now += 5400
  yield
  p.back()
  stage.world.now += 3600
  if (p.stay(box)) p.handsOut()
}

function* hangAgain(stage: Stage, p: Crew, q: Crew, box: string): Task {
  yield* p.isolate(box)
  const own = Object.values(p.phone.known.tags).find((tag) => tag.personId === p.id && !tag.company)
  if (!own) return
  const asking = q.moment(stage.leverOf(own.breakerId).name)
  for (let turns = 0; turns < 80; turns++) {
    if (!q.present || asking.next().done) break
    yield* p.answerAsks()
    yield* p.hangAgain()
    yield
  }
}

/** A tag that hangs and that the server has not heard of. */
function* unsent(stage: Stage, p: Crew, q: Crew, box: string): Task {
  yield* ready(p, box)
  if (!p.mayTouch(box)) return
  yield* p.closeUp(box)
  yield* p.takeTagsOff()
  p.phone.online = false
  yield* ready(p, box)
  if (!p.stay(box)) return

  yield
  for (const lever of stage.world.levers.values()) if (!lever.closed) yield* mate(q, q.tidy(lever.name))
  p.handsOut()
}

/** Alarmed while nobody can reach them: a mate wants something else on before they have answered. */
function* alarm(stage: Stage, p: Crew, q: Crew, box: string, lever: string): Task {
  const { record, boxId, breakerId, chance } = stage
  yield* mate(q, q.openLever(lever))
  yield* ready(p, box)
  p.phone.online = false
  if (!p.stay(box)) return
  yield
  const feed = record.state.boxes[boxId.get(box)!]!.breakerIds[0]
  const others = [...breakerId.values()].filter((id) => id !== feed && id !== breakerId.get(lever))
  if (feed && others.length > 0) yield* mate(q, q.findShared([feed, chance.pick(others)]))
  yield* mate(q, q.close(lever))
  p.handsOut()
}

/** "Closed up", told long after a mate has opened the box again. */
function* lateClosed(stage: Stage, p: Crew, q: Crew, box: string): Task {
  yield* ready(p, box)
  if (!p.mayTouch(box)) return
  p.phone.online = false
  yield* p.closeUp(box)
  yield* mate(q, q.openBox(box))
  p.back()
  yield* p.takeTagsOff()
  for (const lever of stage.world.levers.values()) if (!lever.closed) yield* mate(q, q.close(lever.name))
}

/** A breaker trips, and somebody would just like to try again. */
function* trip(stage: Stage, q: Crew): Task {
  const { world, chance } = stage
  const lever = chance.pick([...world.levers.values()].filter((one) => one.above.length > 0))
  yield* mate(q, q.openLever(lever.name))
  if (lever.closed) return
  lever.fault = true
  yield* mate(q, q.close(lever.name))
  yield
  yield* mate(q, q.close(lever.name))
}

/** A mate tests, one watches, and then the line is gone. */
function* watch(p: Crew, q: Crew, box: string): Task {
  yield* p.isolate(box)
  p.at = box
  yield* mate(q, q.isolate(box))
  yield* mate(q, q.prove(box, true))
  yield* p.watched(box)
  p.phone.online = false
  if (p.stay(box)) p.handsOut()
}

/**
 * A child closes a lever that only a note protects, while nobody's hands are in a box; a grown-up sees it and tells:
 * the record at once, those without network by calling out. A note nobody watches over would protect nobody.
 */
export function childCloses(stage: Stage, name: string, witness: Crew): boolean {
  const { world, record, people, breakerId } = stage
  const lever = world.levers.get(name)!
  if (lever.closed || lever.fault || lever.tripped || world.hands.size > 0 || lever.locks.some((lock) => lock.kind === 'lock')) return false
  const id = breakerId.get(name)!
  if (record.state.breakers[id]!.state !== 'open' || Object.keys(record.state.grants).length > 0) return false
  world.close(name)
  world.beat(name)
  const command = { type: 'observeBreaker', breakerId: id, state: 'closed', how: 'found', note: '' } as const
  record.give(
    { id: record.id(), actor: witness.actor, basedOnSeq: witness.phone.known.understoodSeq, command, givenAt: world.now },
    world.now,
  )
  for (const one of people as Crew[]) {
    one.phone.receive()
    if (!one.phone.online || !one.phone.alive) for (const box of world.boxes.keys()) one.heard.add(box)
    one.reflex()
  }
  return true
}

/** Capped, guarded and gone home: a mate would like the light on again. */
function* leftCapped(stage: Stage, p: Crew, q: Crew, box: string): Task {
  yield* ready(p, box)
  yield* p.guard(box)
  yield* p.takeTagsOff()
  yield* p.leave()
  for (const id of stage.record.state.boxes[stage.boxId.get(box)!]!.breakerIds) yield* mate(q, q.close(stage.leverOf(id).name))
}

/**
 * Everything rests on the main, and only a note keeps it open: somebody closes it, and what tells is one reading in
 * another box. It is told by phone alone.
 */
function* elsewhere(stage: Stage, p: Crew, q: Crew, box: string): Task {
  const { world, record, chance, boxId, people } = stage
  p.at = box
  const mains = [...world.levers.values()].filter((lever) => lever.above.length === 0 && stage.breakerId.has(lever.name))
  for (const main of mains) {
    if (!main.closed && main.locks.length > 0) return
    yield* p.openLever(main.name)
    yield* p.hangTag(main.name)
  }
  const other = [...world.boxes.keys()].find((name) => name !== box)!
  yield* mate(q, q.openBox(other))
  if (!p.mayTouch(box)) yield* p.prove(box, true)
  const main = mains.find((one) => one.locks.length > 0 && one.locks.every((lock) => lock.kind === 'measure'))
  if (!p.mayTouch(box) || !main || !q.phone.online || q.phone.outbox.length > 0 || world.hands.size > 0 || main.fault) return
  if (Object.keys(record.state.grants).length > 0) return
  world.close(main.name)
  world.beat(main.name)
  if (world.isLive(other)) {
    const impedance = chance.is(0.5) ? ('high' as const) : ('low' as const)
    const command = { type: 'observeLive', boxId: boxId.get(other)!, what: 'meter', volts: 120, impedance, note: '' } as const
    record.give({ id: record.id(), actor: q.actor, basedOnSeq: q.phone.known.understoodSeq, command, givenAt: world.now }, world.now)
    for (const one of people as Crew[]) {
      one.phone.receive()
      // Whoever has no line was called out to.
      if (!one.phone.online || !one.phone.alive) for (const name of world.boxes.keys()) one.heard.add(name)
      one.reflex()
    }
    if (p.stay(box)) p.handsOut()
  }
  // Somebody goes and looks at the main.
  const found = { type: 'observeBreaker', breakerId: stage.breakerId.get(main.name)!, state: 'closed', how: 'found', note: '' } as const
  record.give({ id: record.id(), actor: q.actor, basedOnSeq: record.state.seq, command: found, givenAt: world.now }, world.now)
  for (const one of people as Crew[]) {
    one.phone.receive()
    if (!one.phone.online || !one.phone.alive) for (const name of world.boxes.keys()) one.heard.add(name)
    one.reflex()
  }
}

/** What a child closed is opened again, and one reaches in. */
function* child(stage: Stage, p: Crew, q: Crew, box: string): Task {
  const { world } = stage
  yield* ready(p, box)
  if (!p.mayTouch(box) || !q.present || !q.phone.alive || !q.phone.online || q.phone.outbox.length > 0) return
  const lever = [...world.levers.values()].find(
    (one) => one.locks.some((lock) => lock.owner === p.id) && one.locks.every((lock) => lock.kind === 'measure'),
  )
  if (!lever) return
  if (stage.chance.is(0.5)) {
    if (!childCloses(stage, lever.name, q)) return
    yield* p.openLever(lever.name)
  } else yield* closedUnseen(stage, p, lever.name)
  if (p.stay(box)) p.handsOut()
}

/** Nobody but p sees that a lever is closed; p opens it at once, calls out, and says "I opened it". */
function* closedUnseen(stage: Stage, p: Crew, name: string): Task {
  const { world, people, record } = stage
  const lever = world.levers.get(name)!
  if (lever.closed || lever.fault || world.hands.size > 0 || !p.phone.online || Object.keys(record.state.grants).length > 0) return
  world.close(name)
  world.beat(name)
  const others = (people as Crew[]).filter((one) => one !== p)
  for (const one of others) for (const box of world.boxes.keys()) one.heard.add(box)
  yield* p.openLever(name)
  for (const one of others)
    if (one.phone.alive && one.phone.online && p.phone.online) {
      one.phone.receive()
      one.heard.clear()
    }
}
