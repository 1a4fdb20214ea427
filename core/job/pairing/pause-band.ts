import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { madeAt } from '../touch'
import type { BandPaused, PauseBand } from './pause-band.schema'
import { openPairing } from './pairing-of'

/** The 5 GHz band of the home’s router was switched off, so that phone and device meet at 2.4 GHz. Somebody has to switch it back. */
export const pauseBand = jobCommand('pauseBand', {
  by: 'crew',
  queues: true,
  decide: (_, command: PauseBand, context) => done(bandPaused({ ...command, madeAt: madeAt(context) })),
  label: () => '5 GHz paused',
})

export const bandPaused = jobEvent('bandPaused', {
  evolve(job, { minutes, madeAt: at }: BandPaused, event) {
    openPairing(job).band = { at, minutes, initials: event.actor.initials }
  },
  say: ({ minutes }) => `paused the 5 GHz band of the router for ${minutes} minutes`,
})
