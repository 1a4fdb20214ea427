import { wiringOf } from '../job/box-wiring'
import { currentUnits, pointsInOrder, testResults } from '../job/progress'
import type { JobState } from '../job/state'
import type { SiteState } from '../site/state'

/** What a household needs when the internet is away, from what was installed. */
export function withoutInternet(job: JobState, site: SiteState): string[] {
  const models = currentUnits(job).map((unit) => unit.model)
  const lines = [
    'Every wall control keeps working: on, off and dimming do not need the internet.',
    'The app and voice control may not answer away from home; some answer at home on the same Wi-Fi.',
    'Timers kept in the device itself keep running; timers kept in an online account do not.',
  ]
  if (models.some((model) => model.needsHub))
    lines.push('The hub must stay plugged in at the router. Without it the app does not reach the devices behind it.')
  const withRelays = job.boxIds.filter((id) => wiringOf(job, id).plan?.fixtureRelays.length)
  for (const id of withRelays)
    lines.push(
      `What ${site.boxes[id]?.name ?? 'a wall control'} switches has its relay at the fixture: it stays live there when it is off. Open its {breaker} before changing a lamp holder.`,
    )
  if (models.some((model) => model.kind === 'dimmer' || model.kind === 'relayModule'))
    lines.push(
      'A dimmer or a relay that is off does not isolate anything. Before work on a fixture open its {breaker} and have a qualified person test it.',
    )
  for (const point of pointsInOrder(job).filter((one) => one.mustRun)) {
    const power = testResults(job, site, point).power
    lines.push(
      power?.result === 'pass'
        ? `${point.name} must not stay off: it came back as set after a power interruption when it was tested. Check it after each one anyway.`
        : `${point.name} must not stay off: check it after each power cut, and switch it on at its wall control.`,
    )
  }
  const eachModel = [...new Map(models.map((one) => [one.id, one])).values()]
  // How a device is paired again is a property of its model; nothing is said of one whose maker's steps are not on record.
  for (const model of eachModel)
    if (model.restart) lines.push(`${model.maker} ${model.name}, to start it anew, which loses nothing: ${model.restart}`)
  for (const model of eachModel)
    if (model.pairingSteps.length)
      lines.push(
        `${model.maker} ${model.name}, to pair it again, which loses its present pairing: ${model.pairingSteps.map((step) => step.replace(/\.$/, '')).join('; ')}.`,
      )
  return lines
}
