import { deviceId, oldSwitchId } from './plan'
import type { WiringPlan } from './plan-schema'

/** Where a conductor is laid: on a terminal, into a splice, together with another one, or under a cap. */
export type PlaceTarget =
  { kind: 'terminal'; part: string; key: string } | { kind: 'splice'; index: number } | { kind: 'letter'; letter: string } | { kind: 'cap' }

const copyOf = (plan: WiringPlan): WiringPlan => JSON.parse(JSON.stringify(plan)) as WiringPlan

/** What is on the terminals of a part: a device, or an old switch that stays. Changing it changes the plan. */
function terminalsOf(plan: WiringPlan, part: string): Record<string, string[]> | undefined {
  return (
    plan.devices.find((device) => deviceId(device.gang) === part)?.terminals ??
    plan.kept.find((one) => oldSwitchId(one.old) === part)?.terminals
  )
}
function offTerminals(plan: WiringPlan, letter: string): void {
  for (const { terminals } of [...plan.devices, ...plan.kept] as { terminals: Record<string, string[]> }[])
    for (const key of Object.keys(terminals)) terminals[key] = terminals[key]!.filter((one) => one !== letter)
}
/** Without splices of one conductor. What had pigtails from such a one goes on one terminal by itself: the first. */
function withoutLonely(plan: WiringPlan): WiringPlan {
  for (const { letters } of plan.splices.filter((splice) => splice.letters.length === 1)) {
    const [letter] = letters
    let placed = false
    for (const { terminals } of [...plan.devices, ...plan.kept] as { terminals: Record<string, string[]> }[])
      for (const key of Object.keys(terminals)) {
        if (!terminals[key]!.includes(letter!)) continue
        if (placed) terminals[key] = terminals[key]!.filter((one) => one !== letter)
        placed = true
      }
  }
  return { ...plan, splices: plan.splices.filter((splice) => splice.letters.length > 1) }
}

/** A jumper between two ends, or the same one taken away again. Ends: a conductor's letter, or `gang1:sense`, `old1:a`. */
export function placeJumper(plan: WiringPlan, from: string, to: string): WiringPlan {
  if (from === to) return plan
  const same = (jumper: WiringPlan['jumpers'][number]) =>
    (jumper.from === from && jumper.to === to) || (jumper.from === to && jumper.to === from)
  return { ...plan, jumpers: plan.jumpers.some(same) ? plan.jumpers.filter((jumper) => !same(jumper)) : [...plan.jumpers, { from, to }] }
}

/** An old switch stays, or goes: with it go its jumpers. */
export function keepOldSwitch(plan: WiringPlan, old: number, stays: boolean): WiringPlan {
  const others = plan.kept.filter((one) => one.old !== old)
  if (stays) return { ...plan, kept: [...others, { old, terminals: {} }].sort((a, b) => a.old - b.old) }
  const its = `${oldSwitchId(old)}:`
  return { ...plan, kept: others, jumpers: plan.jumpers.filter((jumper) => !jumper.from.startsWith(its) && !jumper.to.startsWith(its)) }
}

/** A plan in which a conductor is nowhere. */
export function takeOff(plan: WiringPlan, letter: string): WiringPlan {
  const copy = copyOf(plan)
  offTerminals(copy, letter)
  for (const splice of copy.splices) splice.letters = splice.letters.filter((one) => one !== letter)
  copy.capped = copy.capped.filter((one) => one !== letter)
  copy.jumpers = copy.jumpers.filter((jumper) => jumper.from !== letter && jumper.to !== letter)
  return withoutLonely(copy)
}

/**
 * A plan in which a conductor is laid somewhere, and no longer where it was. A conductor that is in a splice and is laid on
 * a terminal stays in the splice: it stands for a pigtail from there. Laid on the same terminal again, it comes off.
 */
export function placeConductor(plan: WiringPlan, letter: string, target: PlaceTarget): WiringPlan {
  const spliced = plan.splices.some((splice) => splice.letters.includes(letter))
  if (target.kind === 'terminal') {
    const copy = copyOf(plan)
    const terminals = terminalsOf(copy, target.part)
    if (!terminals) return plan
    const on = terminals[target.key] ?? []
    copy.capped = copy.capped.filter((one) => one !== letter)
    if (on.includes(letter)) {
      terminals[target.key] = on.filter((one) => one !== letter)
      return copy
    }
    if (!spliced) offTerminals(copy, letter)
    // A terminal takes one pigtail: one from another splice makes room.
    const stays = (terminals[target.key] ?? []).filter((one) => !copy.splices.some((splice) => splice.letters.includes(one)))
    terminals[target.key] = [...stays, letter]
    return copy
  }
  const copy = { ...copyOf(takeOff(plan, letter)), ...(target.kind === 'cap' ? {} : { jumpers: plan.jumpers }) }
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
