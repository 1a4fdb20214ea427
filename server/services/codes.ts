import { jobFor, siteFor, type Viewer } from './access'
import { notFound } from './errors'
import { needCodes } from './need-to-know'
import { logSecretRead, unseal } from './secrets'
import { readState } from './streams'

/** Codes in the clear: each reading leaves a line. */
export async function setupCodeOf(viewer: Viewer, jobId: string, unitId: string, reason?: string): Promise<{ code: string }> {
  const job = await jobFor(viewer, jobId)
  const unit = (await readState('job', job.id)).units[unitId]
  if (!unit?.code.sealed) throw notFound('This code')
  await needCodes(viewer, job.siteId, reason)
  await logSecretRead(viewer, 'setupCode', unitId, reason)
  return { code: unseal(unit.code.sealed) }
}

export async function doorCodeOf(viewer: Viewer, siteId: string, reason?: string): Promise<{ code: string }> {
  const site = await siteFor(viewer, siteId)
  if (!site.doorCodeSealed) throw notFound('This code')
  await needCodes(viewer, site.id, reason)
  await logSecretRead(viewer, 'doorCode', siteId, reason)
  return { code: unseal(site.doorCodeSealed) }
}
