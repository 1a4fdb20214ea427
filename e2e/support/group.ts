import type { Page } from '@playwright/test'
import { practiceBoxes } from '../../core/wiring/practice'
import { readToTheEnd } from '../../core/wiring/practice/read-to-the-end'
import { pairStatuses } from '../../core/site'
import { jobFor } from './box'
import { giving, type JobRecord } from './give'
import { ask } from './people'

/**
 * The home with two boxes that switch one light: “tide door” is wired like the practice box “Back stairs”, is proven, described
 * and read to the end, dead and live.
 */
export async function groupRead(office: Page, page: Page): Promise<{ jobId: string; boxes: { [name: string]: string } }> {
  const jobId = await jobFor(office, ['bram.ash', 'kit.ivers'], true)
  const record = () => ask<JobRecord>(page, `/api/jobs/${jobId}`)
  const { siteState } = await record()
  const give = giving(page, jobId)
  const site = (command: { type: string; [key: string]: unknown }) => give('site', command)
  const boxes = Object.fromEntries(Object.values(siteState.boxes).map(({ id, name }) => [name, id]))
  const boxId = boxes['tide door']!
  const breakerId = Object.values(siteState.breakers).find(({ number }) => number === '2')!.id
  const practice = practiceBoxes.find(({ id }) => id === 'back-stairs')!
  const { readings } = readToTheEnd(practice, 3)
  const { farSwitches, splices, oldSwitches, complete, cables } = practice.found
  const { people } = await ask<{ people: { id: string; login: string }[] }>(office, '/api/people')
  const mateId = people.find(({ login }) => login === 'kit.ivers')!.id
  const { instruments } = await ask<{ instruments: { id: string; kind: string; active: boolean; calibrationDue: string }[] }>(
    page,
    '/api/instruments',
  )
  const instrumentId = instruments.find((one) => one.kind === 'both' && one.active)!.id

  await site({ type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' })
  await site({ type: 'hangTag', tagId: crypto.randomUUID(), breakerId, lock: 'BA red 7', measure: '', company: false, notice: '' })
  await site({ type: 'openBox', boxId })
  await site({
    type: 'recordConductors',
    boxId,
    conductors: cables.flatMap((cable) =>
      cable.cores.map(({ letter, colour }) => ({ letter, colour, gaugeAwg: 14, areaMm2: null, cable: cable.id, course: 'ends' })),
    ),
  })
  const prove = async () => {
    const proofId = crypto.randomUUID()
    const seen = { kind: 'continuity', ohms: 0.6, leadOhms: 0.3 }
    const see = (again: boolean) => site({ type: 'seeReference', proofId, reference: 'wanderLead', letter: null, again, seen })
    await site({ type: 'startProof', proofId, boxId, instrumentId, source: { kind: 'provingUnit', name: 'unit' }, volts: 238 })
    await see(false)
    const now = (await record()).siteState
    const wanted = pairStatuses(now, now.boxes[boxId]!, now.proofs[proofId]!)
    for (const position of new Set(wanted.map((pair) => JSON.stringify(pair.position))))
      await site({
        type: 'sweepReadings',
        proofId,
        pairs: wanted.filter((pair) => JSON.stringify(pair.position) === position).map(({ a, b }) => ({ a, b })),
        position: JSON.parse(position),
        impedance: 'low',
        highestVolts: 0.2,
      })
    await see(true)
    await site({ type: 'finishProof', proofId, volts: 238 })
  }
  await prove()
  await give('job', { type: 'noteFound', boxId, notes: { farSwitches, splices, oldSwitches, complete } })
  const on2 = readings.map((reading) => ({ ...reading, closed: reading.closed.map(() => '2') }))
  const dead = on2.filter(({ closed }) => !closed.length)
  if (dead.length) await give('job', { type: 'readWires', boxId, readings: dead })
  const askId = crypto.randomUUID()
  const grantId = crypto.randomUUID()
  await site({ type: 'askEnergise', askId, breakerId, purpose: 'identify', note: '' })
  await site({ type: 'confirmClear', askId })
  await site({ type: 'startMeasuring', measureId: crypto.randomUUID(), boxId, warnedIds: [mateId] })
  await site({ type: 'requestClose', grantId, breakerId, clearanceId: askId })
  await site({ type: 'answerPermit', grantId, answer: 'closed' })
  await give('job', { type: 'readWires', boxId, readings: on2.filter(({ closed }) => closed.length) })
  await site({ type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' })
  const [tag] = Object.values((await record()).siteState.tags)
  await site({ type: 'rehangTag', tagId: tag!.id, cause: '' })
  await prove()
  return { jobId, boxes }
}
