import type { JobState } from '../../core/job'
import type { SiteState } from '../../core/site'
import type { Symptom } from '../../core/triage'
import { wiringTold, type ToldWiring } from '../../core/triage/told-wiring'
import { inTrade } from '../../core/units'
import { answers } from './answers'

/** What of a box's wiring would look as it is told. Every single fault is played: too long for a page. */
export interface ToldWiringTalk {
  question: { job: JobState; site: SiteState; unitId: string; symptoms: Symptom[] }
  answer: { told: ToldWiring | null }
}
answers<ToldWiringTalk>(({ job, site, unitId, symptoms }) => {
  const unit = job.units[unitId]
  return { told: inTrade(unit ? wiringTold(job, site, unit, symptoms) : null, site.schemeId) }
})
