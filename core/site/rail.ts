import { boxesBehind, permitOn, holds, inPanelOrder, looseSources, mainBreakers, protects, tagsOn } from './feeds'
import { breakerName, sentence } from './names'
import { canClose, canTouch, isEnergised, type Asker, type Vantage } from './permissions'
import { boxName, plateIsOff, unexplainedSign } from './proofs'
import type { BoxState, BreakerRecord, SiteState, Tag } from './state'

export type CircuitShape = 'live' | 'open' | 'dead' | 'unknown'

export interface CircuitTile {
  breaker: BreakerRecord
  shape: CircuitShape
  /** The word on the tile: LIVE · OPEN, NOT PROVEN · PROVEN DEAD · BEING CLOSED · TRIPPED · UNKNOWN. */
  word: string
  boxes: BoxState[]
  tags: Tag[]
  since: string | null
  grantBy: string | null
}

/**
 * One circuit as the power rail shows it to one person. PROVEN DEAD only when every opened box behind it has a
 * living proof that this person may rely on.
 */
export function circuitTile(site: SiteState, breaker: BreakerRecord, asker: Asker, vantage: Vantage): CircuitTile {
  const boxes = boxesBehind(site, breaker.id)
  const permit = permitOn(site, breaker.id)
  const base = { breaker, boxes, tags: tagsOn(site, breaker.id), since: breaker.since, grantBy: permit?.name ?? null }
  if (site.unknownEvent) return { ...base, shape: 'unknown', word: 'UNKNOWN, UPDATE NEEDED' }
  if (permit) return { ...base, shape: 'live', word: 'BEING CLOSED' }
  if (breaker.state === 'unknown') return { ...base, shape: 'live', word: 'UNKNOWN, TREAT AS LIVE' }
  if (isEnergised(site, breaker)) return { ...base, shape: 'live', word: 'LIVE' }
  const opened = boxes.filter((box) => box.closure === 'opened')
  const proven = opened.length > 0 && opened.every((box) => canTouch(site, box.id, asker, vantage).yes)
  if (breaker.state === 'tripped') return { ...base, shape: 'open', word: 'TRIPPED, NOT PROVEN' }
  if (proven) return { ...base, shape: 'dead', word: 'PROVEN DEAD' }
  return { ...base, shape: 'open', word: 'OPEN, NOT PROVEN' }
}

/** The circuits a set of boxes hangs on, in panel order; all mains too while a feed is unknown. */
export function railFor(site: SiteState, boxIds: string[], asker: Asker, vantage: Vantage): CircuitTile[] {
  const boxes = boxIds.flatMap((id) => site.boxes[id] ?? []).filter(({ retired }) => !retired)
  const ids = new Set(boxes.flatMap((box) => box.breakerIds))
  const unknown = boxes.some((box) => box.unknownFeed || box.breakerIds.length === 0)
  for (const breaker of Object.values(site.breakers)) {
    const held = tagsOn(site, breaker.id).length > 0 || permitOn(site, breaker.id) !== undefined
    if (held || (breaker.role === 'main' && (unknown || breaker.state !== 'closed'))) ids.add(breaker.id)
  }
  return [...ids]
    .flatMap((id) => site.breakers[id] ?? [])
    .sort(inPanelOrder)
    .map((breaker) => circuitTile(site, breaker, asker, vantage))
}

export interface NextStep {
  kind: 'open' | 'tag' | 'rehang' | 'cause' | 'plate' | 'conductors' | 'prove' | 'witness' | 'work' | 'wait'
  title: string
  why: string
  breakerId: string | null
}

/** The one thing that is needed next before this person may work in this box. */
export function nextPowerStep(site: SiteState, boxId: string, asker: Asker, vantage: Vantage): NextStep {
  const box = site.boxes[boxId]!
  const answer = canTouch(site, boxId, asker, vantage)
  if (answer.yes)
    return { kind: 'work', title: 'You may work in this box', why: `Rests on: ${answer.restsOn.join('; ')}.`, breakerId: null }
  const why = answer.reasons.join(' ')
  if (answer.code === 'notIsolated') {
    if (looseSources(site).length > 0 && box.breakerIds.length === 0)
      return {
        kind: 'wait',
        title: 'A source cannot be switched off yet',
        why: [...answer.reasons, ...answer.toYes].join(' '),
        breakerId: null,
      }
    const candidates =
      box.breakerIds.length && !box.unknownFeed
        ? box.breakerIds.flatMap((id) => site.breakers[id] ?? [])
        : Object.values(site.breakers).filter((breaker) => breaker.role === 'main')
    const closed = candidates.find((breaker) => breaker.state !== 'open')
    if (closed) return { kind: 'open', title: `Open ${breakerName(site, closed)}`, why, breakerId: closed.id }
    const suspended = candidates.find((breaker) =>
      tagsOn(site, breaker.id).some((tag) => tag.personId === asker.personId && !tag.company && !holds(tag)),
    )
    if (suspended) {
      const defeated = tagsOn(site, suspended.id).some((tag) => tag.personId === asker.personId && tag.defeated)
      return {
        kind: 'rehang',
        title: `Hang your tag again on ${breakerName(site, suspended)}`,
        why: defeated
          ? 'The lever was found closed under it. Check your lock, record what happened, then prove again.'
          : 'It was suspended for a moment of power. Lock on, then prove again.',
        breakerId: suspended.id,
      }
    }
    const untagged = candidates.find((breaker) => !tagsOn(site, breaker.id).some((tag) => protects(tag, asker.personId)))
    if (untagged) return { kind: 'tag', title: `Hang your tag on ${breakerName(site, untagged)}`, why, breakerId: untagged.id }
    return { kind: 'wait', title: 'Not isolated yet', why: [...answer.reasons, ...answer.toYes].join(' '), breakerId: null }
  }
  if (answer.code === 'notProven') {
    const sign = unexplainedSign(site, boxId)
    if (sign)
      return {
        kind: 'cause',
        title: 'Record what the voltage was',
        why: 'No box it could affect can be proven until its cause is recorded.',
        breakerId: null,
      }
  }
  if (answer.code === 'notProven' && box.conductors.length === 0)
    return {
      kind: 'conductors',
      title: 'Record the conductors you see',
      why: 'Plate off, hands out. Every conductor gets a letter, and each one is tested.',
      breakerId: null,
    }
  if ((answer.code === 'notProven' || answer.code === 'proofExpired') && !plateIsOff(box))
    return {
      kind: 'plate',
      title: 'Take the plate off',
      why: 'Hands out. Look at what is in the box; touch nothing yet.',
      breakerId: null,
    }
  if (answer.code === 'notProven' || answer.code === 'proofExpired') return { kind: 'prove', title: 'Prove it dead', why, breakerId: null }
  if (answer.code === 'notWitnessed' || answer.code === 'needsWitness')
    return {
      kind: 'witness',
      title: answer.code === 'needsWitness' ? 'A licensed person must witness' : 'Witness the proof',
      why: [...answer.reasons, ...answer.toYes].join(' '),
      breakerId: null,
    }
  return { kind: 'wait', title: 'Wait', why: [...answer.reasons, ...answer.toYes].join(' '), breakerId: null }
}

/** What comes after a box is closed up, for this person: their tag off, the breaker closed, the points tested. */
export interface AfterClosing {
  kind: 'untag' | 'askClose' | 'answer' | 'wait' | 'test'
  title: string
  why: string
  breakerId: string | null
  /** The own tag that comes off, or the permit that is answered. */
  id: string | null
  /** The box that keeps the breaker off. */
  boxId: string | null
}

/** The one thing that is next once a box is closed up: it never offers to undo what was just finished. */
export function stepAfterClosing(site: SiteState, boxId: string, asker: Asker): AfterClosing {
  const box = site.boxes[boxId]!
  const feeds = (box.breakerIds.length ? box.breakerIds.flatMap((id) => site.breakers[id] ?? []) : mainBreakers(site)).sort(inPanelOrder)
  const step = (kind: AfterClosing['kind'], title: string, why: string, rest: Partial<AfterClosing> = {}): AfterClosing => ({
    kind,
    title,
    why,
    breakerId: null,
    id: null,
    boxId: null,
    ...rest,
  })
  for (const breaker of feeds) {
    const name = breakerName(site, breaker)
    const breakerId = breaker.id
    const permit = permitOn(site, breakerId)
    if (permit?.personId === asker.personId)
      return step('answer', `You may close ${name}`, 'It counts as live until you record its position.', { breakerId, id: permit.id })
    const own = tagsOn(site, breakerId).find((tag) => tag.personId === asker.personId && !tag.company)
    const open = boxesBehind(site, breakerId).find((one) => plateIsOff(one))
    if (own && open)
      return step('wait', `${sentence(name)} stays off`, `${sentence(boxName(site, open))} is open behind it.`, {
        breakerId,
        boxId: open.id,
      })
    if (own) return step('untag', `Take your tag off ${name}`, 'Nothing behind it is open.', { breakerId, id: own.id })
    if (breaker.state === 'closed') continue
    const may = canClose(site, breakerId, asker)
    if (may.yes) return step('askClose', `Ask to close ${name}`, 'No tag hangs there, and every box behind it is closed up.', { breakerId })
    return step('wait', `${sentence(name)} stays off`, may.reasons.join(' '), { breakerId, boxId: open?.id ?? null })
  }
  return step('test', 'Test its points', 'The power is back.')
}
