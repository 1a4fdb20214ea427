import { expect, type Page } from '@playwright/test'
import { ask } from './people'

export interface Visit {
  id: string
  jobId: string
  siteName: string
  startsAt: string
  endsAt: string
  personIds: string[]
  status: string
}
async function branchOf(page: Page): Promise<{ id: string; timezone: string }> {
  const { branches } = await ask<{ branches: { id: string; name: string; timezone: string }[] }>(page, '/api/branches')
  return branches.find(({ name }) => name === 'Port Sallow')!
}
export const portSallow = async (page: Page): Promise<string> => (await branchOf(page)).id
export const zoneOf = async (page: Page): Promise<string> => (await branchOf(page)).timezone
/** The branch’s day so many days from now, as YYYY-MM-DD: hours away from the day in Greenwich. */
export const dayThere = async (page: Page, days = 0): Promise<string> =>
  new Intl.DateTimeFormat('en-CA', { timeZone: await zoneOf(page) }).format(Date.now() + days * 86_400_000)
/** Today’s visits of the branch, as the server has them. */
export async function visitsOf(page: Page): Promise<Visit[]> {
  const branchId = await portSallow(page)
  const from = new Date(Date.now() - 14 * 3_600_000).toISOString()
  const to = new Date(Date.now() + 14 * 3_600_000).toISOString()
  return (await ask<{ visits: Visit[] }>(page, `/api/visits?${new URLSearchParams({ from, to, branchId })}`)).visits
}
export const nobodyTwice = (visits: Visit[]) => {
  for (const one of visits)
    for (const other of visits)
      if (one.id < other.id && one.status !== 'done' && other.status !== 'done' && one.personIds.some((id) => other.personIds.includes(id)))
        expect(
          Date.parse(one.endsAt) <= Date.parse(other.startsAt) || Date.parse(other.endsAt) <= Date.parse(one.startsAt),
          `${one.siteName} and ${other.siteName}`,
        ).toBe(true)
}
/** The day has been worked out. */
export const workedOut = (page: Page) => expect(page.getByRole('button', { name: 'Plan the day' })).toBeEnabled({ timeout: 60_000 })
export interface Person {
  id: string
  login: string
  name: string
}
export const peopleOf = async (page: Page): Promise<Person[]> => (await ask<{ people: Person[] }>(page, '/api/people')).people
