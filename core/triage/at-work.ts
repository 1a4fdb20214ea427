import type { JobState } from '../job/state'
import { plateIsOff } from '../site/proofs'
import type { SiteState } from '../site/state'

/**
 * Who works in the home now, in words: while somebody does, nobody there is told on the telephone to switch anything, for the
 * record knows of open boxes and tags, and the customer does not. Null: nobody, as far as is known.
 */
export function atWork(job: JobState, site: SiteState): string | null {
  const [tag] = Object.values(site.tags)
  if (tag) {
    const number = site.breakers[tag.breakerId]?.number ?? '?'
    return tag.company ? `The company’s lock holds {breaker} ${number} off.` : `${tag.name}’s tag hangs on {breaker} ${number}.`
  }
  const open = Object.values(site.boxes).find(plateIsOff)
  if (open) return `A box is open there: ${open.name}.`
  if (site.stop) return 'Work is stopped there, and nobody has restarted it.'
  const [person] = Object.keys(site.onSite)
  if (person) return `${site.people[person]?.name ?? 'Somebody of ours'} is in the home.`
  return Object.values(job.visits).some(({ status }) => status === 'onSite') ? 'A crew of ours is in the home.' : null
}
