import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { ask } from './people'

/** The home of the sample file, as text. */
export const sampleText = readFileSync('samples/gate-house.json', 'utf8')

/** A home of its own, from the sample, with a job that waits for a visit; the sample’s own address is another journey’s. */
export async function openedFromSample(office: Page, name: string, customer?: string): Promise<{ jobId: string; siteId: string }> {
  const { viewer } = await ask<{ viewer: { branchId: string } }>(office, '/api/auth/me')
  const given = JSON.parse(sampleText) as { site: object; customer: object }
  const source = {
    kind: 'json',
    text: JSON.stringify({
      ...given,
      ...(customer ? { customer: { ...given.customer, name: customer } } : {}),
      site: { ...given.site, name, address: `${60 + (Date.now() % 39)} Hill Road, Port Sallow` },
    }),
  }
  return ask(office, '/api/jobs/import', { branchId: viewer.branchId, newHome: true, source })
}
