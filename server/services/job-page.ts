import { historyLine, type HistoryLine, type JobState, type StoredCode } from '../../core/job'
import type { JobPage } from '../../core/protocol'
import { database } from '../database'
import { jobFor, peopleNames, siteFor, type Viewer } from './access'
import { homesAlike } from './homes-alike'
import { positionOf } from './dispatch-day'
import { otherRecordsOf } from './home-links'
import { eventsAfter, readState } from './streams'

export async function jobPage(viewer: Viewer, jobId: string): Promise<JobPage> {
  const job = await jobFor(viewer, jobId)
  const [site, customer, jobState, siteState] = await Promise.all([
    siteFor(viewer, job.siteId),
    database().models.customers.findByPk(job.customerId),
    readState('job', job.id),
    readState('site', job.siteId),
  ])
  return {
    job: { id: job.id, number: job.number, title: job.title, branchId: job.branchId, siteId: job.siteId },
    site: {
      id: site.id,
      name: site.name,
      address: site.address,
      yearBuilt: site.yearBuilt,
      position: (await positionOf(site)).position,
      hasDoorCode: site.doorCodeSealed !== null,
      otherRecords: await otherRecordsOf(site),
      alike: await homesAlike(site, siteState.home.builder),
    },
    customer: { name: customer!.name, phone: customer!.phone, email: customer!.email },
    erasedAt: customer!.erasedAt?.toISOString() ?? null,
    jobState: withoutSeals(jobState),
    siteState,
  }
}

/** Sealed codes stay on the server: only their endings leave it, and the whole code by its own, logged route. */
function withoutSeals(job: JobState): JobState {
  const unsealed = <T extends { code: StoredCode | null }>(all: Record<string, T>): Record<string, T> =>
    Object.fromEntries(Object.entries(all).map(([id, one]) => [id, { ...one, code: one.code && { ...one.code, sealed: null } }]))
  return { ...job, units: unsealed(job.units), prepared: unsealed(job.prepared) }
}

/** Everything that happened on the job and, since it was opened, to the power of its site: newest first. */
export async function jobHistory(viewer: Viewer, jobId: string): Promise<{ lines: HistoryLine[] }> {
  const job = await jobFor(viewer, jobId)
  const [jobState, siteState, names, jobEvents, siteEvents] = await Promise.all([
    readState('job', job.id),
    readState('site', job.siteId),
    peopleNames(viewer.companyId),
    eventsAfter(job.id, 0),
    eventsAfter(job.siteId, 0),
  ])
  const lines = [...jobEvents, ...siteEvents].map((event) => historyLine(event, jobState, siteState, (id) => names.get(id) ?? 'somebody'))
  // Order by the server's time, then by seq within a stream: client clocks order nothing.
  lines.sort((a, b) => b.receivedAt.localeCompare(a.receivedAt) || b.stream.localeCompare(a.stream) || b.seq - a.seq)
  return { lines }
}

/** The whole record of a job as an open document. Sealed codes are left out. */
export async function exportJob(viewer: Viewer, jobId: string) {
  const job = await jobFor(viewer, jobId)
  const [jobEvents, siteEvents] = await Promise.all([eventsAfter(job.id, 0), eventsAfter(job.siteId, 0)])
  const strip = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(strip)
      : value && typeof value === 'object'
        ? Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, key === 'sealed' ? null : strip(inner)]))
        : value
  return {
    format: 'circuitry.record' as const,
    version: 1 as const,
    exportedAt: new Date().toISOString(),
    job: { id: job.id, number: job.number, title: job.title, siteId: job.siteId },
    jobEvents: strip(jobEvents),
    siteEvents: strip(siteEvents),
  }
}
