import type { WiringPlan } from './plan-schema'

/** Where a conductor is laid: on a terminal, into a splice, together with another one, or under a cap. */
export type LayTarget =
  { kind: 'terminal'; gang: number; key: string } | { kind: 'splice'; index: number } | { kind: 'letter'; letter: string } | { kind: 'cap' }

const copyOf = (plan: WiringPlan): WiringPlan => JSON.parse(JSON.stringify(plan)) as WiringPlan
type Key = keyof WiringPlan['devices'][number]['terminals']

function offTerminals(plan: WiringPlan, letter: string): void {
  for (const device of plan.devices)
    for (const key of Object.keys(device.terminals) as Key[]) device.terminals[key] = device.terminals[key]!.filter((one) => one !== letter)
}
const withoutLonely = (plan: WiringPlan): WiringPlan => ({ ...plan, splices: plan.splices.filter((splice) => splice.letters.length > 1) })

/** A plan in which a conductor is nowhere. */
export function takeOff(plan: WiringPlan, letter: string): WiringPlan {
  const copy = copyOf(plan)
  offTerminals(copy, letter)
  for (const splice of copy.splices) splice.letters = splice.letters.filter((one) => one !== letter)
  copy.capped = copy.capped.filter((one) => one !== letter)
  return withoutLonely(copy)
}

/**
 * A plan in which a conductor is laid somewhere, and no longer where it was. A conductor that is in a splice and is laid on
 * a terminal stays in the splice: it stands for a pigtail from there. Laid on the same terminal again, it comes off.
 */
export function layConductor(plan: WiringPlan, letter: string, target: LayTarget): WiringPlan {
  const spliced = plan.splices.some((splice) => splice.letters.includes(letter))
  if (target.kind === 'terminal') {
    const copy = copyOf(plan)
    const device = copy.devices.find((one) => one.gang === target.gang)
    if (!device) return plan
    const key = target.key as Key
    const on = device.terminals[key] ?? []
    copy.capped = copy.capped.filter((one) => one !== letter)
    if (on.includes(letter)) {
      device.terminals[key] = on.filter((one) => one !== letter)
      return copy
    }
    if (!spliced) offTerminals(copy, letter)
    // A terminal takes one pigtail: one from another splice makes room.
    const stays = (device.terminals[key] ?? []).filter((one) => !copy.splices.some((splice) => splice.letters.includes(one)))
    device.terminals[key] = [...stays, letter]
    return copy
  }
  const copy = copyOf(takeOff(plan, letter))
  if (target.kind === 'cap') copy.capped.push(letter)
  else {
    const partner = target.kind === 'letter' ? target.letter : plan.splices[target.index]?.letters.find((one) => one !== letter)
    if (!partner || partner === letter) return plan
    const there = copy.splices.find((splice) => splice.letters.includes(partner))
    if (there) there.letters.push(letter)
    else {
      copy.capped = copy.capped.filter((one) => one !== partner)
      copy.splices.push({ letters: [partner, letter], holds: null })
    }
  }
  return copy
}
