import { loadTerminalOf, fixtureRelay, wiredCompanion } from '../terminal-model'
import type { KnownCable, Outside } from './outside'
import { isNeutral, wholeChain, type WireRole } from '../identify/roles'
import { otherLocationPlace, otherLocationWord, lowerFirst, type OtherLocationStep } from './other-location-words'
import type { WiringPlan } from './plan-schema'

/** A relay at a fixture: its part, the light it carries, and the sender's input it answers to. */
export interface FixtureRelay {
  id: string
  letter: string
  lightId: string
  gang: number
  input: string
}

/** What lies outside of the box after the plan is carried out there too: other locations rewired, relays at the fixtures. */
export function rebuiltOutside(
  outside: Outside,
  plan: WiringPlan,
  cables: KnownCable[] = [],
): { outside: Outside; relays: FixtureRelay[] } {
  const out: Outside = { ...outside, parts: [...outside.parts], joins: [...outside.joins], farSwitches: [...outside.farSwitches] }
  const far = (letter: string) => `${letter}.far`
  for (const other of plan.elsewhere) {
    // Of a chain the 3-way at its end is what is rewired; the 4-way before it goes as well.
    const chain = other.far === wholeChain
    const id = chain ? 'far1' : `far${other.far}`
    if (other.becomes === 'asItWas' || !outside.farSwitches.includes(id)) continue
    const gone = chain ? ['far0', 'far1'] : [id]
    out.parts = out.parts.filter((part) => !gone.includes(part.id))
    const lineThere = cables.filter((cable) => cable.far === other.far).map(lineAt)[0] ?? null
    if (other.through) out.joins.push([`${id}:common`, far(other.through)])
    if (other.becomes === 'sensed') {
      out.farSwitches = out.farSwitches.filter((one) => one === id || !gone.includes(one))
      out.parts.push({ id, kind: 'switch', contacts: 'single' })
      out.joins.push([`${id}:a`, lineThere ? far(lineThere) : `${id}:common`], ...(other.sense ? [[`${id}:b`, far(other.sense)]] : []))
      continue
    }
    out.farSwitches = out.farSwitches.filter((one) => !gone.includes(one))
    if (other.becomes === 'companion') {
      out.parts.push({ id, kind: 'device', model: wiredCompanion })
      if (other.sense) out.joins.push([`${id}:sense`, far(other.sense)])
      if (other.neutral) out.joins.push([`${id}:neutral`, far(other.neutral)])
    }
  }
  const relays = plan.fixtureRelays.flatMap(({ letter, gang, input }): FixtureRelay[] => {
    const light = out.lights.find((one) => one.letter === letter)
    return light ? [{ id: `relay${letter}`, letter, lightId: light.id, gang, input }] : []
  })
  for (const relay of relays) {
    const hot = `${relay.lightId}:hot`
    out.joins = out.joins.map((join) => join.map((point) => (point === hot ? `${relay.id}:line` : point)))
    out.joins.push([`${relay.id}:${loadTerminalOf(fixtureRelay, 0)}`, hot], [`${relay.id}:neutral`, `${relay.lightId}:cold`])
    out.parts.push({ id: relay.id, kind: 'device', model: fixtureRelay })
  }
  return { outside: out, relays }
}

/**
 * Conductors to another location that a plan may use anew. In the older way (line and neutral on one switch) that is the
 * line alone: the neutral there goes on as the light's return. A line that only passes on stays what it is.
 */
export const freedBy = (cable: KnownCable): string[] =>
  cable.wires
    .filter(
      ({ role }) =>
        role === 'traveler' ||
        role === 'farCommon' ||
        role === 'loadOn' ||
        ((cable.run === 'farCarter' || cable.run === 'farStraps') && role === 'lineOn'),
    )
    .map((wire) => wire.letter)

/** The conductor that brings the line to another location, or comes from its line: a plain switch there can be fed from it. */
export const lineAt = (cable: KnownCable): string | null =>
  (cable.run === 'farCarter' ? undefined : cable.wires.find(({ role }) => role === 'line' || role === 'lineOn'))?.letter ?? null
/** Another location a cable leads to: the conductors a plan may use there, and the ones it begins with. Null: it leads to none. */
export function placeOf(cable: KnownCable) {
  if (typeof cable.far !== 'number') return null
  const neutral = cable.wires.find((wire) => isNeutral(wire.role) || wire.role === 'neutralOn')?.letter ?? null
  const roleOf = (letter: string) => cable.wires.find((wire) => wire.letter === letter)!.role
  const travelers = freedBy(cable).filter((letter) => roleOf(letter) !== 'farCommon')
  if (cable.run === 'farStraps' || cable.run === 'farStrapsEnd') {
    // The strap between the commons is free to be heard; the line there stays the line.
    const letters = travelers.filter((letter) => roleOf(letter) !== 'lineOn').sort((a) => (roleOf(a) === 'traveler' ? -1 : 1))
    return { far: cable.far, letters, neutral, through: null, sense: letters[0] ?? null }
  }
  // The older way: the light's return stays on the neutral, and the other conductor is free.
  const letters = cable.run === 'farCarter' && neutral ? [neutral, ...travelers] : travelers
  const [through = null, sense = null] = cable.run === 'farReturn' ? [null, letters[0]] : letters
  return { far: cable.far, letters, neutral, through, sense }
}

/** A conductor's role after the other locations are rewired: `sense` and `unused` are roles only a plan gives. */
export type PlanRole = WireRole | 'sense' | 'unused'
export type PlanWire = { letter: string; colour: string; role: PlanRole; circuit: string | null; cable: KnownCable }

/** Roles by conductor as the plan makes them: a traveler spliced to a common that is fed becomes a line, and so on. */
export function rolesInPlan(cables: KnownCable[], plan: Pick<WiringPlan, 'elsewhere'>, usual: string): PlanWire[] {
  return cables.flatMap((cable) => {
    const other = plan.elsewhere.find((one) => one.far === cable.far && one.becomes !== 'asItWas')
    const fed = ['farFeed', 'farFeedAndLight', 'farTravelersFromFeed'].includes(cable.run)
    const lit = ['farLight', 'farLineAndLight', 'farTravelersToLight'].includes(cable.run)
    return cable.wires.map((wire): PlanWire => {
      let { role, circuit }: { role: PlanRole; circuit: string | null } = wire
      if (other && freedBy(cable).includes(wire.letter)) {
        const common = role === 'farCommon' || wire.letter === other.through
        if (wire.letter === other.sense) role = 'sense'
        else if (common && fed) [role, circuit] = ['line', cable.wires.find((one) => one.circuit)?.circuit ?? usual]
        else if (common && lit) role = 'load'
        else if (wire.letter === lineAt(cable) && other.becomes === 'sensed') role = 'lineOn'
        else if (common && cable.run === 'farReturn' && other.becomes === 'sensed') role = 'lineOn'
        else role = 'unused'
      }
      return { ...wire, role, circuit, cable }
    })
  })
}

/** What is to be done at the other locations and at the fixtures. */
export function otherLocationSteps(cables: KnownCable[], plan: WiringPlan): OtherLocationStep[] {
  const steps: OtherLocationStep[] = []
  for (const other of plan.elsewhere) {
    if (other.becomes === 'asItWas') continue
    const say = (work: OtherLocationStep['work']) => steps.push({ far: other.far, work })
    const there = cables.filter((cable) => cable.far === other.far)
    if (other.far === wholeChain) say({ does: 'spliceChain' })
    if (there.some(({ run }) => run === 'farStrapsEnd')) say({ does: 'spliceStraps' })
    const common = there.flatMap((cable) => cable.wires).find((wire) => wire.role === 'farCommon')?.letter ?? null
    const line = there.map(lineAt)[0] ?? null
    const { through, sense, neutral } = other
    const used = [through, sense, common, other.becomes === 'sensed' ? line : null]
    const idle = there.flatMap(freedBy).filter((one) => !used.includes(one))
    if (there.some((cable) => cable.run === 'farCarter')) say({ does: 'licensedOnly' })
    if (through) say({ does: 'spliceCommon', through })
    if (other.becomes === 'sensed') say({ does: 'plainSwitch', line, through, common, sense })
    if (other.becomes === 'companion') say({ does: 'companion', sense, neutral })
    if (other.becomes === 'through') say({ does: 'noSwitch' })
    if (other.becomes === 'partner') say({ does: 'partner', sense })
    if (idle.length) say({ does: 'cap', letters: idle })
  }
  return [
    ...steps,
    ...plan.fixtureRelays.map((relay): OtherLocationStep => ({ far: null, work: { does: 'fixtureRelay', letter: relay.letter } })),
  ]
}

/** What is to be done at the other locations and at the fixtures, in words. */
export function otherLocationStepWords(cables: KnownCable[], plan: WiringPlan): string[] {
  const several = plan.elsewhere.length > 1
  return otherLocationSteps(cables, plan).map((step) => {
    const place = otherLocationPlace(step, several)
    return `${place}: ${lowerFirst(otherLocationWord(step, (letter) => letter))}`
  })
}
