import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { openPairing, pairingOf } from './pairing-of'
import type { BandRestored, RestoreBand } from './restore-band.schema'

/** The 5 GHz band is on again, as the household had it. */
export const restoreBand = jobCommand('restoreBand', {
  by: 'crew',
  queues: true,
  decide: (job, command: RestoreBand) =>
    pairingOf(job).band ? done(bandRestored(command)) : refuse('notPaused', 'By the record the 5 GHz band is not paused.'),
  label: () => '5 GHz back on',
})

export const bandRestored = jobEvent('bandRestored', {
  evolve(job, _: BandRestored) {
    openPairing(job).band = null
  },
  say: () => 'switched the 5 GHz band of the router back on',
})
