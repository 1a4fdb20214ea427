import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { ask, enter } from './people'

let homes = 0
interface Home {
  boxes: { name: string; breakers: string[]; gangs?: number }[]
  /** Every box switches one light, together. */
  together?: boolean
}
/** A small home of boxes with a light at each gang. Each home has an address of its own: one address is one home. */
function home({ boxes, together = false }: Home): string {
  const file = JSON.parse(readFileSync('core/format/testing/gate-house-v1.json', 'utf8'))
  file.job.title = boxes.map(({ name }) => name).join(' and ')
  file.site = {
    ...file.site,
    name: 'Tide Room Cottage',
    address: `${100 + homes++}-${Date.now() % 100_000} Withy Bank, Port Sallow`,
    doorCode: '',
  }
  file.panels[0].breakers[2].offLimits = null
  const keyOf = (name: string) => name.replaceAll(' ', '-')
  const lightOf = (name: string) => `${name.charAt(0).toUpperCase()}${name.slice(1).split(' ')[0]} light`
  file.rooms = boxes.map(({ name }) => ({ key: `${keyOf(name)}-room`, name: `${name.split(' ')[0]} room` }))
  file.boxes = boxes.map(({ name, breakers, gangs = 1 }) => ({
    ...file.boxes[0],
    key: keyOf(name),
    room: `${keyOf(name)}-room`,
    name,
    gangs,
    volumeIn3: 18 * gangs,
    feeds: breakers.map((breaker) => ({ panel: 'panel', breaker })),
  }))
  const controls = boxes.flatMap(({ name, gangs = 1 }) =>
    Array.from({ length: gangs }, (_, index) => ({ box: keyOf(name), gang: index + 1, room: `${keyOf(name)}-room`, of: name })),
  )
  const control = ({ box, gang }: (typeof controls)[number]) => ({ box, gang })
  file.points = together
    ? [{ ...file.points[0], name: lightOf(controls[0]!.of), room: controls[0]!.room, controls: controls.map(control) }]
    : controls.map((one) => ({
        ...file.points[0],
        name: `${lightOf(one.of)}${one.gang > 1 ? ` ${one.gang}` : ''}`,
        room: one.room,
        controls: [control(one)],
      }))
  return JSON.stringify(file)
}

/** One box behind the wall, one in the cellar; `together` they switch one light. */
export const jobFor = (office: Page, logins: string[], together = false): Promise<string> =>
  homeJob(office, logins, {
    boxes: [
      { name: 'tide door', breakers: ['2'] },
      { name: 'cellar light', breakers: [together ? '2' : '4'] },
    ],
    together,
  })
/** A home as a job, with a visit of these people today. */
export async function homeJob(office: Page, logins: string[], of: Home): Promise<string> {
  const { branches } = await ask<{ branches: { id: string; name: string }[] }>(office, '/api/branches')
  const { people } = await ask<{ people: { id: string; login: string }[] }>(office, '/api/people')
  const opened = await ask<{ jobId: string }>(office, '/api/jobs/import', {
    branchId: branches.find((branch) => branch.name === 'Port Sallow')!.id,
    newHome: true,
    source: { kind: 'json', text: home(of) },
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
      // The demo’s crews have a day of their own.
      alsoBooked: true,
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
  for (let cable = 0; cable < 2; cable++) await page.getByRole('button', { name: 'two and ground' }).click()
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
/** Opens a circuit: by its tile, or on a phone by the line of feeds that stays in sight. What it says stands over the page. */
export async function circuit(page: Page, number: string): Promise<void> {
  await page
    .getByTestId(new RegExp(`^(circuit|strip)-${number}$`))
    .filter({ visible: true })
    .first()
    .click()
  await expect(page.getByRole('dialog')).toBeVisible()
}
