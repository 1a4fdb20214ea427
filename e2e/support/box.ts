import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { ask, enter } from './people'

let homes = 0
/** A small home: one box behind the wall, one in the cellar; `together` they switch one light. Each has an address of its own: one address is one home. */
function home(together: boolean): string {
  const file = JSON.parse(readFileSync('samples/gate-house.json', 'utf8'))
  file.job.title = 'Tide room and cellar'
  file.site = {
    ...file.site,
    name: 'Tide Room Cottage',
    address: `${100 + homes++}-${Date.now() % 100_000} Withy Bank, Port Sallow`,
    doorCode: '',
  }
  file.panels[0].breakers[2].offLimits = null
  file.rooms = [
    { key: 'tide', name: 'Tide room' },
    { key: 'cellar', name: 'Cellar' },
  ]
  const box = (key: string, room: string, name: string, breaker: string) => ({
    ...file.boxes[0],
    key,
    room,
    name,
    feeds: [{ panel: 'panel', breaker }],
  })
  file.boxes = [box('wall', 'tide', 'tide door', '2'), box('cellar', 'cellar', 'cellar light', '4')]
  const point = (name: string, room: string, key: string) => ({ ...file.points[0], name, room, controls: [{ box: key, gang: 1 }] })
  file.points = [point('Tide light', 'tide', 'wall'), point('Cellar light', 'cellar', 'cellar')]
  if (together) {
    file.points[0].controls.push({ box: 'cellar', gang: 1 })
    file.points.pop()
    file.boxes[1].feeds = file.boxes[0].feeds
  }
  return JSON.stringify(file)
}

/** That home as a job, with a visit of these people today. */
export async function jobFor(office: Page, logins: string[], together = false): Promise<string> {
  const { branches } = await ask<{ branches: { id: string; name: string }[] }>(office, '/api/branches')
  const { people } = await ask<{ people: { id: string; login: string }[] }>(office, '/api/people')
  const opened = await ask<{ jobId: string }>(office, '/api/jobs/import', {
    branchId: branches.find((branch) => branch.name === 'Port Sallow')!.id,
    newHome: true,
    source: { kind: 'json', text: home(together) },
  })
  const at = (minutes: number) => new Date(Date.now() + minutes * 60_000).toISOString()
  const outcome = await ask<{ status: string }>(office, '/api/commands', {
    id: crypto.randomUUID(),
    stream: 'job',
    streamId: opened.jobId,
    at: at(0),
    command: {
      type: 'scheduleVisit',
      visitId: crypto.randomUUID(),
      kind: 'install',
      startsAt: at(5),
      endsAt: at(180),
      windowFrom: at(0),
      windowTo: at(60),
      personIds: people.filter((one) => logins.includes(one.login)).map((one) => one.id),
    },
  })
  expect(outcome.status).toBe('accepted')
  return opened.jobId
}

export async function bench(page: Page, jobId: string, box: string): Promise<void> {
  await page.goto(`/jobs/${jobId}`)
  await page.getByRole('button', { name: new RegExp(`^${box}`) }).click()
  await page.getByRole('link', { name: 'Open the bench' }).click()
  await expect(page.getByRole('heading', { level: 1, name: box })).toBeVisible()
}
export async function openAndTag(page: Page, number: string, lock: string): Promise<void> {
  await page.getByRole('button', { name: `I opened breaker ${number}` }).click()
  await page.getByLabel('Your lock').fill(lock)
  await page.getByRole('button', { name: `Hang my tag on ${number}` }).click()
}
export async function twoCables(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Cable of three' }).click()
  await page.getByRole('button', { name: /Store 6 conductors/ }).click()
}
const stage = (page: Page, part: number) => expect(page.getByTestId('proof-stage')).toContainText(`${part} of 5`)
export const tester = (page: Page) => enter(page, '238', 'The tester works').then(() => stage(page, 2))
/** The ground of the box at a live point: line to neutral there, reference to line, reference to neutral. */
export async function reference(page: Page): Promise<void> {
  await enter(page, '121', 'Next')
  await enter(page, '120.4', 'Next')
  await enter(page, '0.5', 'The reference is good')
  await stage(page, 3)
}
export async function referenceAgain(page: Page): Promise<void> {
  await enter(page, '120.4', 'Next')
  await enter(page, '0.5', 'Still good')
  await stage(page, 5)
}
const sweepOnce = (page: Page) => enter(page, '0.2', /^All \d+ read, none higher/)
export const sweep = (page: Page) => sweepOnce(page).then(() => stage(page, 4))
/** With another switch: in both of its positions. */
export async function sweepBoth(page: Page): Promise<void> {
  const first = await page.getByTestId('proof-stage').textContent()
  await sweepOnce(page)
  await expect(page.getByTestId('proof-stage')).not.toHaveText(first!)
  await sweep(page)
}
export async function prove(page: Page, read = sweep): Promise<void> {
  await tester(page)
  await reference(page)
  await read(page)
  await referenceAgain(page)
  await enter(page, '238', 'The tester still works')
  await expect(page.getByText('You may work in this box.')).toBeVisible()
}
/** Opens a circuit: by its tile, or on a phone by the line of feeds that stays in sight. */
export const circuit = (page: Page, number: string) =>
  page
    .getByTestId(new RegExp(`^(circuit|strip)-${number}$`))
    .filter({ visible: true })
    .first()
    .click()
