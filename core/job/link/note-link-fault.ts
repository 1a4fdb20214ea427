import { linkFaultWords } from '../../link/words'
import { alarm } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { pairable } from '../pairing/pairing-of'
import { signSeen } from '../pairing/see-sign'
import { noUnit } from '../refusals'
import { madeAt } from '../touch'
import type { LinkFailed, NoteLinkFault } from './note-link-fault.schema'
import { openLink } from './link-of'

const doing = {
  join: 'joining',
  check: 'testing',
  trace: 'reading the meter of',
  name: 'naming',
  open: 'opening',
  homes: 'asking',
  leave: 'leaving',
} as const
/** What the link could not do. Of joining, the advice on pairing goes on from what it saw. */
export const noteLinkFault = jobCommand('noteLinkFault', {
  by: 'system',
  decide(job, command: NoteLinkFault, context) {
    if (!job.units[command.unitId]) return noUnit()
    const { seen } = linkFaultWords[command.fault]
    const seenNow = command.doing === 'join' && seen && !('ok' in pairable(job, command.unitId))
    return done(linkFailed(command), ...(seenNow ? [signSeen({ unitId: command.unitId, seen, madeAt: madeAt(context) })] : []))
  },
})
export const linkFailed = jobEvent('linkFailed', {
  evolve(job, { unitId, ...fault }: LinkFailed, event) {
    openLink(job).faults[unitId] = { ...fault, at: event.at }
  },
  say: (payload, { unit }) => alarm(`${doing[payload.doing]} ${unit(payload.unitId)} over the link: ${linkFaultWords[payload.fault].what}`),
})
