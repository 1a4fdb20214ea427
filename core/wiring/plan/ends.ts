import { counted } from '../../units/counted'
import { isNeutral } from '../identify/roles'
import { neutralSees } from './outside'
import type { Judged } from './verdicts'

/** Every end has its place, and every connector carries what it is listed for. */
export function checkEnds({ plan, wires, say }: Judged) {
  const laid = [...plan.devices, ...plan.kept].flatMap(({ terminals }) => Object.values(terminals) as string[][])
  const placed = new Set([...plan.capped, ...plan.splices.flatMap((splice) => splice.letters), ...laid.flat()])
  for (const wire of wires)
    if (!placed.has(wire.letter)) say('block', 'leftBare', `${wire.letter} is left bare: cap it, also when it is spare.`)
  for (const splice of plan.splices) {
    const pigtails = laid.filter((letters) => letters.some((letter) => splice.letters.includes(letter))).length
    const jumpers = plan.jumpers.filter((jumper) => [jumper.from, jumper.to].some((end) => splice.letters.includes(end))).length
    const count = splice.letters.length + pigtails + jumpers
    const name = splice.letters.join(' + ')
    if (splice.holds !== null && count > splice.holds)
      say(
        'block',
        'outsideListing',
        `${name} with ${counted(pigtails + jumpers, 'pigtail')} is ${counted(count, 'conductor')}; the connector is listed for ${splice.holds}.`,
      )
    else if (splice.holds === null)
      say('warn', 'listingUnknown', `${name}: look up what the connector is listed for, ${counted(count, 'conductor')} here.`)
  }
  const neutralsOf = (letters: string[]) =>
    letters.flatMap((letter) => wires.filter((wire) => wire.letter === letter && isNeutral(wire.role))).map(neutralSees)
  const mixed = plan.splices.find(({ letters }) => {
    const sets = neutralsOf(letters)
    return sets.some((one) => sets.some((other) => !one.some((circuit) => other.includes(circuit))))
  })
  if (mixed) say('block', 'neutralOfOther', `Neutrals of two circuits are spliced together: ${mixed.letters.join(' + ')}.`)
}
