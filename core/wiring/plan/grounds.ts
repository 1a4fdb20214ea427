import { terminalWords } from '../../connect'
import type { TerminalKey } from '../../fit'
import { Ties } from '../model'
import { deviceId, laidIn } from './plan'
import { nameOfDevice, type Judged } from './verdicts'

/** Every ground is joined to the ground of the supply, to nothing else, and to every device that takes one. */
export function checkGrounds({ found, plan, home, wires, rows, say }: Judged) {
  const grounds = wires.filter((wire) => wire.role === 'ground').map((wire) => wire.letter)
  const isGround = (letter: string) => grounds.includes(letter)
  for (const splice of plan.splices) {
    const [some, others] = [splice.letters.filter(isGround), splice.letters.filter((letter) => !isGround(letter))]
    if (some.length && others.length)
      say('block', 'groundOnOther', `${some.join(' + ')} is {ground} and is spliced with ${others.join(' + ')}, which is not.`)
  }
  const laid = [...plan.devices, ...plan.kept].flatMap(({ terminals }) => Object.entries(terminals) as [TerminalKey, string[]][])
  for (const [name, letters] of laid) {
    const wrong = letters.filter((letter) => isGround(letter) !== (name === 'ground'))
    const word = terminalWords[name] ?? 'an old switch'
    if (wrong.length && name === 'ground') say('block', 'groundOnOther', `${wrong.join(' + ')} is no {ground} and is on {ground}.`)
    else if (wrong.length) say('block', 'groundOnOther', `${wrong.join(' + ')} is {ground} and is on ${word}.`)
    const unspliced = letters.filter((letter) => isGround(letter) && !plan.splices.some((splice) => splice.letters.includes(letter)))
    if (name === 'ground' && unspliced.length > 1)
      say('block', 'groundThroughDevice', `${unspliced.join(' + ')} meet on a device only: splice them, with a pigtail.`, 'NEC 250.148')
  }
  // Which cable brings the ground does not matter if all of them are one metal in this box.
  const inBox = new Ties()
  for (const join of laidIn(found, plan).joins) for (const point of join.slice(1)) inBox.tie(join[0]!, point)
  const apart = grounds.slice(1).filter((letter) => !inBox.same(`${letter}.near`, `${grounds[0]!}.near`))
  for (const letter of apart)
    say(
      'block',
      'groundMissing',
      `${letter}, {a ground}, is ${plan.capped.includes(letter) ? 'under a cap' : 'not joined to the other {grounds}'}.`,
      'NEC 250.148',
    )
  // Without a ground from the supply there is nothing to be joined to.
  const supplied = home.wiring.joins.some((join) => join.includes('earth') && join.some((point) => isGround(point.replace('.far', ''))))
  const solved = rows.all[0]?.home
  if (!solved) return
  for (const device of home.devices) {
    if (!device.model.terminals.includes('ground')) continue
    const name = nameOfDevice(home, device)
    if (!supplied) say('warn', 'noGround', `${name} has {a ground} and this box has none: ask what the local rules allow here.`)
    else if (!solved.touching(`${deviceId(device.gang)}:ground`, 'earth'))
      say('block', 'groundMissing', `${name}: its {ground} is not connected.`)
  }
}
