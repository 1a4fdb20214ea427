// Fills a database with jobs of a given length, straight through the commands a crew gives.
import { createJiti } from 'jiti'

const jiti = createJiti(import.meta.url)

/** Opens a database, migrates it and returns the parts the benchmarks use. */
export async function openProject(env) {
  Object.assign(process.env, env)
  const load = (path) => jiti.import(`../../${path}`)
  const [database, company, intake, access, crewFile, homes, commands] = await Promise.all(
    [
      'server/database/index.ts',
      'server/services/setup.ts',
      'server/services/intake.ts',
      'server/services/access.ts',
      'server/database/demo/crew.ts',
      'server/database/demo/homes.ts',
      'server/services/commands.ts',
    ].map(load),
  )
  await database.migrate(database.database().sequelize)
  return { load, database, company, intake, access, crewFile, homes, commands }
}

/** People beside the lead, logged in as `bench.0` and so on with the same password. */
export const crewOfBench = 60
/**
 * 200 jobs of 300 events each: one is made by commands, the others are copies of its streams under new ids, since a
 * million commands would measure patience. The copies fold by the same reducer from the same tables.
 */
export async function fill({ database, company, intake, access, crewFile, homes }, { jobs, eventsPerJob }) {
  const { models, sequelize } = database.database()
  const lead = await company.setUp({
    company: 'Bench',
    branch: 'Bench',
    schemeId: 'na120',
    timezone: 'UTC',
    person: { name: 'Bench Lead', initials: 'BL', login: 'bench.lead', password: 'bench password', licensed: true },
  })
  const viewer = await access.viewerOf(lead)
  const { randomUUID } = await import('node:crypto')
  // Whoever has forty windows open gets no more: a crew is many people.
  const own = (await models.people.findByPk(lead.id)).get({ plain: true })
  const people = Array.from({ length: crewOfBench }, (_, index) => ({
    ...{ ...own, id: randomUUID(), login: `bench.${index}`, name: `Bench ${index}`, initials: 'BN', role: 'technician', licensed: true },
  }))
  await models.people.bulkCreate(people)
  const instrumentId = randomUUID()
  await models.instruments.create({
    id: instrumentId,
    companyId: viewer.companyId,
    branchId: viewer.branchId,
    name: 'Bench tester',
    serial: 'B',
    kind: 'both',
    calibrationDue: '2099-01-01',
    active: true,
  })
  const catalogue = await models.models.findAll({ raw: true })
  const modelId = catalogue.find((row) => row.name === 'Tide switch, with neutral').id
  const first = await intake.openJob(
    { source: { kind: 'json', text: JSON.stringify(homes.jobFileOf(homes.homes.netLoft)) }, branchId: viewer.branchId, siteId: null },
    viewer,
  )
  const crew = new crewFile.DemoCrew(first.jobId, first.siteId, viewer, instrumentId, new Date(Date.now() - 3 * 3_600_000), 'BN')
  for (const [box, point] of [
    ['store door', 'Store ceiling'],
    ['store bench', 'Bench strip'],
    ['porch', 'Porch lantern'],
  ]) {
    await crew.openAndTag(box, 'red')
    await crew.look(box, crewFile.usualConductors)
    await crew.prove(box)
    await crew.wire(box, 1, modelId, [point], crewFile.usualConductors)
    await crew.closeUp([box])
    await crew.test(point)
  }
  const seqOf = async (id) => (await models.streams.findByPk(id)).seq
  while ((await seqOf(first.jobId)) + (await seqOf(first.siteId)) < eventsPerJob) await crew.test('Store ceiling')
  const units = (await models.units.findAll({ where: { jobId: first.jobId }, raw: true })).map((row) => row.id)
  const copies = [first]
  /** Rows once more, but for these columns: whatever columns there are. */
  const copied = async (table, where, others) => {
    const [columns] = await sequelize.query(`SHOW COLUMNS FROM ${table}`)
    const names = columns.map(({ Field }) => Field)
    await sequelize.query(
      `INSERT INTO ${table} (${names.join()}) SELECT ${names.map((name) => others[name] ?? name).join()} FROM ${table} WHERE ${where}`,
    )
  }
  for (let index = 1; index < jobs; index++) {
    const copy = { siteId: randomUUID(), jobId: randomUUID() }
    copies.push(copy)
    // Ids and serials are unique in the whole database: each copy gets its own.
    const swaps = [
      [first.siteId, copy.siteId],
      [first.jobId, copy.jobId],
      ['BN-4', `B${index}-4`],
      ...units.map((id) => [id, randomUUID()]),
    ]
    const swapped = (column) => swaps.reduce((sql, [from, to]) => `REPLACE(${sql}, '${from}', '${to}')`, column)
    for (const [from, to] of [
      [first.siteId, copy.siteId],
      [first.jobId, copy.jobId],
    ]) {
      await copied('streams', `id = '${from}'`, { id: `'${to}'`, snapshot: swapped('snapshot') })
      await copied('events', `stream_id = '${from}'`, { stream_id: `'${to}'`, id: 'UUID()', payload: swapped('payload') })
    }
    await copied('sites', `id = '${first.siteId}'`, { id: `'${copy.siteId}'`, address: `CONCAT(address, ' ', '${2000 + index}')` })
    await copied('jobs', `id = '${first.jobId}'`, { id: `'${copy.jobId}'`, site_id: `'${copy.siteId}'`, number: 2000 + index })
  }
  return { viewer, copies, events: (await seqOf(first.jobId)) + (await seqOf(first.siteId)) }
}

/** A site with boxes, breakers, hanging tags and living proofs, made by the program's own commands. */
export async function bigSite({ stream, safety }, { boxes, breakers }) {
  const { randomUUID } = await import('node:crypto')
  const state = safety.emptySite('bench')
  const actor = { personId: randomUUID(), name: 'Bench Person', initials: 'BP', role: 'technician', licensed: true }
  const now = new Date().toISOString()
  const instrument = { name: 'tester', serial: '', kind: 'both', calibrationDue: '2099-01-01' }
  const give = (command) => {
    const decision = safety.decideSite(state, command, {
      actor: command.type === 'layOut' ? { ...actor, role: 'lead' } : actor,
      onCrew: true,
      basedOnSeq: state.seq,
      heldMs: 0,
      now,
      proofLimitMinutes: 240,
      instrument: () => instrument,
    })
    if (!decision.ok) throw new Error(JSON.stringify(decision.refusal))
    for (const draft of decision.events)
      stream.applyEvent(safety.siteStream.reducer, state, {
        id: randomUUID(),
        stream: 'site',
        streamId: 'bench',
        seq: state.seq + 1,
        commandId: randomUUID(),
        version: stream.currentVersion(safety.siteStream.reducer.upcasters, draft.type),
        at: now,
        receivedAt: now,
        actor,
        type: draft.type,
        payload: draft.payload,
      })
  }
  const [sourceId, panelId, roomId] = [randomUUID(), randomUUID(), randomUUID()]
  const breakerIds = Array.from({ length: breakers }, () => randomUUID())
  const boxIds = Array.from({ length: boxes }, () => randomUUID())
  give({
    type: 'layOut',
    schemeId: 'na120',
    sources: [{ id: sourceId, kind: 'service', name: 'service' }],
    panels: [{ id: panelId, name: 'panel', place: '' }],
    breakers: breakerIds.map((id, index) => ({
      id,
      panelId,
      role: index === 0 ? 'main' : 'branch',
      sourceId: index === 0 ? sourceId : null,
      suppliesPanelId: index === 0 ? panelId : null,
      number: String(index),
      poles: 1,
      amps: 15,
      labelAsFound: '',
      offLimits: null,
      state: 'closed',
    })),
    rooms: [{ id: roomId, name: 'hall' }],
    boxes: boxIds.map((id, index) => ({
      id,
      roomId,
      name: `box ${index}`,
      gangs: 1,
      volumeIn3: null,
      depthMm: null,
      material: 'unknown',
      internalClamps: 0,
      breakerIds: [breakerIds[1 + index]],
      unknownFeed: false,
      farBoxIds: [],
    })),
  })
  for (let index = 0; index < boxes; index += 2) {
    const breakerId = breakerIds[1 + index]
    const boxId = boxIds[index]
    const proofId = randomUUID()
    give({ type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' })
    give({ type: 'hangTag', tagId: randomUUID(), breakerId, lock: `red ${index}`, measure: '', company: false, notice: '' })
    give({
      type: 'recordConductors',
      boxId,
      conductors: ['A', 'B', 'C', 'D', 'E', 'F'].map((letter) => ({
        letter,
        colour: 'unknown',
        gaugeAwg: null,
        areaMm2: null,
        cable: '',
        course: 'ends',
      })),
    })
    give({ type: 'startProof', proofId, boxId, instrumentId: randomUUID(), source: { kind: 'provingUnit', name: 'unit' }, volts: 240 })
    const seen = { kind: 'continuity', ohms: 0.5, leadOhms: 0.3 }
    give({ type: 'seeReference', proofId, reference: 'wanderLead', letter: null, seen, again: false })
    const pairs = safety.pairStatuses(state, state.boxes[boxId], state.proofs[proofId]).map(({ a, b }) => ({ a, b }))
    give({ type: 'sweepReadings', proofId, pairs, position: [], impedance: 'low', highestVolts: 0.1 })
    give({ type: 'seeReference', proofId, reference: 'wanderLead', letter: null, seen, again: true })
    give({ type: 'finishProof', proofId, volts: 240 })
  }
  return {
    state,
    boxIds,
    breakerIds,
    openIds: Object.values(state.breakers).flatMap((breaker) => (breaker.state === 'open' ? [breaker.id] : [])),
    asker: actor,
    clock: { now, proofLimitMinutes: 240 },
  }
}
