import { accept, refuse } from '../../stream/envelope'
import { boxAt, end, hasAnswered, voidProofs } from '../changes'
import { endOf, seenTooEarly } from '../consequence'
import { siteCommand, siteEvent } from '../define'
import { plainTester, withEnds } from '../lifts'
import { isIsolatedFor, minutesBetween, proofMinutesLeft } from '../permissions'
import { boxName, plateIsOff, unexplainedSign } from '../proofs'
import { noBox, refuseAnswer } from '../refusals'
import { causeMissing, instrumentProblem, sourceProblem } from './problems'
import type { ProofStarted, StartProof } from './start-proof.schema'

/** A mate may start over when an unfinished proof has rested this long. Common practice, no source. */
const takeOverMinutes = 10

export const startProof = siteCommand('startProof', {
  kind: 'work',
  queues: true,
  decide(site, command: StartProof, context) {
    const box = site.boxes[command.boxId]
    if (!box) return noBox()
    const name = boxName(site, box)
    if (site.proofs[command.proofId]) return refuse('proofExists', 'This proof already exists.')
    if (site.home.neutralEarthed === false)
      return refuse(
        'notCovered',
        'In this home neither conductor is tied to {ground}: both are live, and the dead test of this tool does not cover that.',
        'The licensed lead works there by their own procedure, with both poles switched off. If it was noted by mistake, a licensed person corrects it in the survey.',
      )
    const isolation = isIsolatedFor(site, box, context.actor.personId)
    if (!isolation.yes) return refuseAnswer(isolation)
    const sign = unexplainedSign(site, box.id)
    if (sign) return causeMissing(site, sign)
    // That a plate is off is a fact of its own: it stands even when the proof is refused.
    if (!plateIsOff(box)) return refuse('plateOn', `The record says that ${name} is closed.`, 'Take the plate off and say so, then prove.')
    const stale = seenTooEarly(site, box, context)
    if (stale) return stale
    if (box.conductors.length === 0)
      return refuse(
        'noConductors',
        'No conductors are recorded in this box yet.',
        'Look in and record every conductor you see. Do not touch.',
      )
    const instrument = context.instrument(command.instrumentId)
    const problem = instrumentProblem(site, command.instrumentId, instrument, context.today)
    if (problem) return problem
    const source = sourceProblem(site, command.source, command.volts)
    if (source.refused) return source.refused
    const replaced = box.proofId ? site.proofs[box.proofId] : undefined
    const lives = replaced?.status === 'living' && proofMinutesLeft(replaced, context) > 0
    if (lives && replaced.personId !== context.actor.personId)
      return refuse('provenAlready', `${replaced.name} has a valid proof here.`, 'Witness it instead.')
    const idleMinutes = replaced ? minutesBetween(replaced.touchedAt, context.now) : 0
    if (replaced?.status === 'open' && replaced.personId !== context.actor.personId && idleMinutes < takeOverMinutes)
      return refuse(
        'beingProven',
        `${replaced.name} is proving this box now.`,
        `Wait, then witness the proof. After ${takeOverMinutes} minutes without a reading you may start your own.`,
      )
    return accept(
      proofStarted({
        ...command,
        ...(lives ? endOf(site, [replaced], context.actor) : { voids: replaced ? [replaced.id] : [], alarms: [] }),
        instrument: instrument!,
        warning: source.warning,
        everyPair: context.everyPair,
        edition: 2,
      }),
    )
  },
  label: (submission) => `tester on a live source, ${submission.volts} V`,
})

export const proofStarted = siteEvent('proofStarted', {
  hands: true,
  // Proofs of the first edition's rules end: they say less than one relies on now.
  lifts: [
    (payload) => withEnds({ everyPair: true, edition: 1, ...payload }),
    // Of testers nothing more was known then.
    (payload) => ({ ...payload, instrument: { ...plainTester, ...(payload.instrument as object) } }),
  ],
  evolve(site, payload: ProofStarted, event) {
    const target = boxAt(site, payload.boxId)
    end(site, payload, { code: 'newProof' }, event)
    if (target.proofId) voidProofs(site, [target.proofId], { code: 'newProof' })
    target.proofId = payload.proofId
    if (target.closure === 'looking') Object.assign(target, { closure: 'opened', lastOpenedAt: event.receivedAt })
    site.instrumentGoodSeq[payload.instrumentId] = event.seq
    hasAnswered(site, event.actor.personId, payload.boxId)
    site.proofs[payload.proofId] = {
      id: payload.proofId,
      boxId: payload.boxId,
      personId: event.actor.personId,
      name: event.actor.name,
      initials: event.actor.initials,
      proverLicensed: event.actor.licensed,
      status: payload.edition === 1 ? 'void' : 'open',
      voidWhy: payload.edition === 1 ? { code: 'stricterRules' } : null,
      instrumentId: payload.instrumentId,
      instrument: payload.instrument,
      sourceName: payload.source.name,
      sourceVolts: payload.volts,
      sourceBreakerId: payload.source.kind === 'breaker' ? payload.source.breakerId : null,
      reference: null,
      referenceSeenAgain: false,
      everyPair: payload.everyPair,
      recheckVolts: null,
      readings: [],
      witnesses: [],
      startedAt: event.at,
      touchedAt: event.receivedAt,
      finishedAt: null,
      basedOnSeq: event.seq,
    }
  },
  say: (payload, { box }) =>
    `proved ${payload.instrument.name} on ${payload.source.name} (${payload.volts} V) to test ${box(payload.boxId)}`,
})
