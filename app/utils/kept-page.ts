import { plainModel } from '../../core/fit/plain-model'
import { emptyJob, type JobState } from '../../core/job'
import { emptySite, type SiteState } from '../../core/site'

/** What an earlier program kept on this device, perhaps: what it did not know of is empty. */
export const keptJobState = (jobId: string, kept: JobState): JobState => ({
  ...emptyJob(jobId),
  ...kept,
  units: Object.fromEntries(
    Object.entries(kept.units).map(([id, unit]) => [
      id,
      { ...unit, channelNames: unit.channelNames ?? {}, model: { ...plainModel, ...unit.model } },
    ]),
  ),
})
export const keptSiteState = (siteId: string, kept: SiteState): SiteState => ({
  ...emptySite(siteId),
  ...kept,
  networks: Object.fromEntries(Object.entries(kept.networks ?? {}).map(([id, one]) => [id, { ...one, bound: one.bound ?? [] }])),
})
