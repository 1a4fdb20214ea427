import { schemeOf } from '../../units/scheme'
import { isNeutral } from '../identify/roles'
import { deviceId } from './plan'
import { nameOfDevice, type Judged } from './verdicts'

/** What the conductors of a box ask for by being what they are. */
export function checkConductors(judged: Judged) {
  checkTravelers(judged)
  checkShared(judged)
  checkTwoPole(judged)
  checkIdle(judged)
  checkMarks(judged)
}

function checkTravelers({ cables, plan, wires, say }: Judged) {
  const joined = (letter: string) =>
    [...plan.devices, ...plan.kept].some(({ terminals }) => Object.values(terminals).some((letters) => letters?.includes(letter))) ||
    plan.splices.some((splice) => splice.letters.includes(letter)) ||
    plan.jumpers.some(({ from, to }) => from === letter || to === letter)
  for (const wire of wires)
    if (['traveler', 'farCommon', 'loadOn'].includes(wire.role) && !joined(wire.letter))
      say('block', 'travelerLoose', `${wire.letter} goes to the switch at the other location, which stays, and is on nothing here.`)
  for (const cable of cables)
    if (cable.run === 'farTravelersToLight')
      say(
        'warn',
        'returnElsewhere',
        `The light behind ${cable.wires
          .filter(({ role }) => role === 'traveler')
          .map(({ letter }) => letter)
          .join(
            ' and ',
          )} comes back by a neutral that is not in this box: no meter here shows whose it is. Make sure that it is of the same circuit.`,
      )
}

/** A neutral shared by two circuits: their lines on two legs, opened together, and the neutral never through a device. */
function checkShared({ found, cables, plan, wires, say }: Judged) {
  for (const cable of cables.filter(({ run }) => run === 'sharedFeed')) {
    const neutral = cable.wires.find(({ role }) => role === 'sharedNeutral')!.letter
    const circuits = cable.wires.flatMap(({ circuit }) => circuit ?? [])
    const both = circuits.join(' and ')
    const amps = circuits.reduce((sum, id) => sum + (found.amps?.[id] ?? 15), 0)
    if (cable.legs === 'together')
      say(
        'block',
        'sharedOneLeg',
        `Circuits ${both} are on one leg and share the neutral ${neutral}: it can carry ${amps} A, the sum of both, and no {breaker} would notice.`,
        'NEC 210.4(B)',
      )
    else if (cable.legs === 'apart')
      say(
        'good',
        'sharedNeutral',
        `${neutral} is the neutral of circuits ${both}; their lines are on two legs, so it carries the difference.`,
      )
    else say('warn', 'legsUnread', `${neutral} is shared by circuits ${both}: read between their lines whether they are on two legs.`)
    say(
      'warn',
      'openTogether',
      `Circuits ${both} open together: a two-pole {breaker}, or a handle tie. With one of them closed the neutral ${neutral} can be live when it is opened.`,
      'NEC 210.4(B)',
    )
    const spliced = (letter: string) => plan.splices.some((splice) => splice.letters.includes(letter))
    for (const { terminals } of plan.devices) {
      const on = (terminals.neutral ?? []).filter((letter) => !spliced(letter))
      const neutrals = wires.filter(({ letter, role }) => on.includes(letter) && (isNeutral(role) || role === 'neutralOn'))
      if (neutrals.length > 1 && on.includes(neutral))
        say('block', 'neutralThroughDevice', `${on.join(' + ')} meet on a device only: splice them, with a pigtail to it.`, 'NEC 300.13(B)')
    }
  }
}

function checkTwoPole({ cables, home, say }: Judged) {
  if (home.devices.length && cables.some(({ run }) => run === 'twoPoleLoad'))
    say(
      'block',
      'twoPole',
      'Both conductors of this load go over a two-pole control: a single-pole device would leave one of them live. Take a two-pole control, or leave it.',
      'NEC 404.2(B)',
    )
}

/** A device that moves no light is in the wrong place, or not connected. */
function checkIdle({ home, plan, actuators: hands, moves, say }: Judged) {
  if (!home.outside.lights.length || plan.elsewhere.some((other) => other.becomes === 'partner')) return
  for (const device of home.devices) {
    const mine = hands.filter((hand) => hand.id === deviceId(device.gang))
    if (mine.length && !mine.some((hand) => home.outside.lights.some((light) => moves(hand, light.id))))
      say('block', 'movesNothing', `${nameOfDevice(home, device)} operates no light of this box.`)
  }
}

/** A conductor with the colour of a neutral that carries a line is marked anew. */
function checkMarks({ found, wires, say }: Judged) {
  const na = schemeOf(found.nominalVolts) === 'na120'
  const neutralColours = na ? ['white', 'grey'] : ['blue']
  for (const wire of wires)
    if (neutralColours.includes(wire.colour) && ['line', 'lineOn', 'load', 'loadOn', 'traveler', 'farCommon'].includes(wire.role))
      say(
        'warn',
        'remark',
        `${wire.letter} is ${wire.colour} and no neutral: ${na ? 'mark it with tape or paint' : 'sleeve it'} at both ends.`,
        'NEC 200.7(C)',
      )
}
