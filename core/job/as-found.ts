import { switchTerminals } from '../wiring/model'
import type { WiringPlan } from '../wiring/plan/plan-schema'
import type { FoundGuess } from './guess-found'
import type { FoundNotes } from './state'

export type OldContacts = FoundNotes['oldSwitches'][number]['contacts']

/** The terminals of an old switch. Of something else nobody knows what its leads are; what hung on which is noted all the same. */
export const oldTerminalsOf = (contacts: OldContacts): readonly string[] =>
  contacts === 'other' ? ['a', 'b', 'c', 'd'] : switchTerminals[contacts]

/**
 * A box as it was found, in the form in which a drawing is changed: its old switches are what stays. A conductor that is in a
 * splice and on a terminal stands for a pigtail from that splice.
 * @param capped conductors that are loose or capped
 */
export const asFoundPlan = (
  { splices, oldSwitches }: Pick<FoundGuess, 'splices' | 'oldSwitches'>,
  switches: number,
  capped: string[],
): WiringPlan => ({
  devices: [],
  splices: splices.map((letters) => ({ letters: [...letters], holds: null })),
  capped,
  kept: Array.from({ length: switches }, (_, index) => ({
    old: index + 1,
    terminals: structuredClone(oldSwitches[index]?.terminals ?? {}),
  })),
  jumpers: [],
  elsewhere: [],
  fixtureRelays: [],
  feeds: [],
})

/** What such a drawing says: what is spliced, and what hung on which terminal. A switch of which nothing is known is left out. */
export function notesOfPlan(plan: WiringPlan, contacts: OldContacts[]): Pick<FoundNotes, 'splices' | 'oldSwitches'> {
  const splices = plan.splices.map(({ letters }) => [...letters])
  return {
    splices,
    oldSwitches: contacts.flatMap((kind, index) => {
      const on = (plan.kept.find(({ old }) => old === index + 1)?.terminals ?? {}) as Record<string, string[]>
      const terminals = Object.fromEntries(
        oldTerminalsOf(kind).map((name) => {
          const own = (letter: string) => splices.find((one) => one.includes(letter))?.[0] ?? letter
          return [name, [...new Set((on[name] ?? []).map(own))]]
        }),
      )
      const nothing = kind === 'other' && Object.values(terminals).every((letters) => !letters.length)
      return nothing ? [] : [{ contacts: kind, terminals }]
    }),
  }
}

/** Conductors of which nobody has said where they end. */
export const unsaidIn = (plan: WiringPlan, letters: string[]): string[] => {
  const said = new Set([
    ...plan.capped,
    ...plan.splices.flatMap((splice) => splice.letters),
    ...plan.kept.flatMap(({ terminals }) => Object.values(terminals).flat()),
  ])
  return letters.filter((letter) => !said.has(letter))
}
