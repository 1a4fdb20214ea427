import type { SiteState } from '../../site/state'
import { pairingOf } from '../pairing/pairing-of'
import type { JobState } from '../state'

/** The network that devices of this home are on, by what was said of it or by how the last one was paired; empty: nobody said. */
export function homeNetworkOf(job: JobState, site: SiteState): string {
  const said = pairingOf(job).accounts?.network
  if (said) return said
  const paired = Object.values(job.units).findLast(({ pairing }) => pairing?.result === 'joined' && pairing.network)
  if (paired) return paired.pairing!.network
  return Object.values(site.networks).find(({ kind }) => kind !== 'hub')?.name ?? ''
}
