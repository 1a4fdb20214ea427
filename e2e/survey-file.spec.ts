import { expect, type Page } from '@playwright/test'
import { readJobFile, surveyTables } from '../core/format'
import { ask, desk, faultsOf, jobAt, loseNetwork, person, phone, lonePhone, tapStored, test } from './support/people'
import { openedFromSample, sampleText as text } from './support/sample'

const reading = readJobFile(text)
const file = (name: string, content: string | Buffer, mimeType = 'text/csv') => ({ name, mimeType, buffer: Buffer.from(content) })
const choose = (page: Page, files: ReturnType<typeof file>[]) => page.getByTestId('job-file').setInputFiles(files)
async function head(page: Page, name: string) {
  await page.getByLabel('What the job is').fill(`${name}, from tables`)
  await page.getByLabel('Customer').fill(`Nell of ${name}`)
  await page.getByLabel('What the crew calls the home').fill(name)
  await page.getByLabel('Address').fill(`${name} Lane 3`)
}

test('a survey goes out as paper, tables and file, and comes in again; what is wrong is said by table and line', async ({ browser }) => {
  const office = await person(browser, 'odo.reed', desk)
  const path = `/jobs/${await jobAt(office, 'The Net Loft')}`
  await office.goto(`${path}/survey`)
  for (const [label, type, begins] of [
    ['as a paper (PDF)', 'application/pdf', '%PDF-'],
    ['as tables (CSV)', 'application/zip', 'PK'],
    ['as a file (JSON)', 'application/json', '{"format":"circuitry.job","version":2'],
  ] as const) {
    const href = await office.getByRole('link', { name: label }).getAttribute('href')
    const answer = await office.request.get(href!)
    expect([answer.status(), answer.headers()['content-type']?.split(';')[0]]).toEqual([200, type])
    expect((await answer.body()).subarray(0, begins.length).toString()).toBe(begins)
  }

  const tables = surveyTables(reading.ok ? reading.value : (null as never))
  const files = Object.entries(tables).map(([name, content]) => file(`${name}.csv`, content))
  const name = `Gate ${Date.now() % 100_000}`
  await test.step('a fault in a table is said by its line, and nothing is imported', async () => {
    await office.goto('/jobs/new')
    const broken = files.map((one) =>
      one.name === 'boxes.csv' ? file(one.name, tables.boxes.replace('stair foot', 'stair foot,,,,')) : one,
    )
    await choose(office, [...broken, file('lamps.csv', 'a')])
    await expect(office.getByText(/12 tables|13 tables/)).toBeVisible()
    await head(office, name)
    await office.getByRole('button', { name: 'Check the file' }).click()
    await expect(office.getByText('boxes.csv, line 3')).toBeVisible()
    await expect(office.getByText('There is no such table.', { exact: false })).toBeVisible()
  })
  await test.step('whole, it opens a job with everything that was seen', async () => {
    await choose(office, files)
    await office.getByRole('button', { name: 'Check the file' }).click()
    await expect(office.getByTestId('file-found')).toContainText('2 points, 4 boxes in 2 rooms, 3 breakers. Nothing is wrong')
    await office.getByRole('button', { name: 'Open the job' }).click()
    await expect(office).toHaveURL(/jobs\/[0-9a-f-]{36}$/)
    const job = new URL(office.url()).pathname
    await office.goto(`${job}/survey`)
    await expect(office.getByText('Neutral seen; 16 of 18 in³ used.')).toBeVisible()
    await office.getByRole('button', { name: 'The home' }).click()
    await expect(office.getByLabel('Built by')).toHaveValue('Withy Bank Homes')
    await office.getByRole('button', { name: 'Networks' }).click()
    await expect(office.getByText(/still bound to a previous owner: plug in the hall/)).toBeVisible()
  })
  await test.step('two boxes that are one are put together, and taken apart again', async () => {
    await office
      .getByRole('navigation', { name: 'Rooms' })
      .getByRole('button', { name: /^Stair/ })
      .click()
    await office.getByRole('button', { name: /^stair foot, / }).click()
    await office.getByText('Put something right').click()
    await office.getByLabel('It is one box with').click()
    await office.getByRole('option', { name: 'stair head' }).click()
    await office.getByRole('button', { name: 'One box: put them together' }).click()
    await expect(office.getByRole('region', { name: 'Gang 2', exact: true })).toBeVisible()
    await expect(office.getByRole('button', { name: /^stair head, / })).toHaveCount(0)
    await office.getByLabel('Name of the box with the rest').fill('stair top')
    await office.getByRole('button', { name: 'It is two boxes' }).click()
    await expect(office.getByRole('button', { name: /^stair top, / })).toBeVisible()
    await expect(office.getByRole('region', { name: 'Gang 2', exact: true })).toHaveCount(0)
  })
  await test.step('what hangs at a fixture is tied to its box, and let go', async () => {
    await office.getByRole('navigation', { name: 'Rooms' }).getByRole('button', { name: /^Hall/ }).click()
    await office.getByRole('button', { name: /^hall ceiling, / }).click()
    const points = office.getByRole('group', { name: 'Points that hang here' })
    await expect(points.getByRole('button', { name: 'Hall light' })).toHaveAttribute('aria-pressed', 'true')
    await points.getByRole('button', { name: 'Hall light' }).click()
    await expect(points.getByRole('button', { name: 'Hall light' })).toHaveAttribute('aria-pressed', 'false')
  })
  expect(faultsOf(office)).toEqual([])
})

test('with a plate off a second feed is found: whoever has hands in is alarmed, and answers', async ({ browser }) => {
  const lead = await person(browser, 'odo.reed', desk)
  const { jobId, siteId } = await openedFromSample(lead, `Weir ${Date.now() % 100_000}`)
  const path = `/jobs/${jobId}`
  // Nobody of another journey: an alarm there would stand here, too.
  const mate = await person(browser, 'cato.fenn', phone)
  interface Home {
    siteState: { seq: number; boxes: Record<string, { id: string; name: string; breakerIds: string[] }>; alarms: Record<string, unknown> }
  }
  const doorOf = async () => Object.values((await ask<Home>(lead, `/api${path}`)).siteState.boxes).find(({ name }) => name === 'hall door')!
  const door = await doorOf()
  const id = () => crypto.randomUUID()
  const command = { type: 'openBox', boxId: door.id }
  const given = {
    id: id(),
    stream: 'site',
    streamId: siteId,
    at: new Date().toISOString(),
    basedOnSeq: 0,
    jobSeq: null,
    heldMs: 0,
    command,
  }
  expect(await ask(mate, '/api/commands', given)).toMatchObject({ status: 'accepted' })
  await mate.goto(`${path}/box/${door.id}`)
  await expect(mate.getByTestId('sync')).toHaveText('live')
  await lead.goto(`${path}/survey?box=${door.id}`)
  await lead.getByText('Put something right').click()
  await lead.getByLabel('Another breaker that feeds it').click()
  await lead.getByRole('option', { name: '4' }).click()
  await lead.getByRole('button', { name: 'Add the feed' }).click()
  await expect(mate.getByText('found another feed to your box.')).toBeVisible()
  await tapStored(mate, 'I have stopped')
  await expect(mate.getByTestId('alarm')).toHaveCount(0)
  expect((await doorOf()).breakerIds).toHaveLength(2)
  await lead.goto(`${path}/history`)
  await expect(lead.getByText(/set the feeds of hall door to .* – found in the survey/)).toBeVisible()
  expect([faultsOf(lead), faultsOf(mate)]).toEqual([[], []])
})

test('four hundred facts that waited are on the server soon after the network is back', async ({ browser }) => {
  const office = await person(browser, 'odo.reed', desk)
  const { jobId } = await openedFromSample(office, `Reach ${Date.now() % 100_000}`)
  const field = await person(browser, 'odo.reed', lonePhone)
  await field.goto(`/jobs/${jobId}/survey`)
  await field.getByRole('button', { name: /^hall door, / }).click()
  await field.getByText('Material, clamps, splices, plate, what is wrong').click()
  await loseNetwork(field)
  const group = field.getByRole('group', { name: 'clamps' })
  // As fast as the page draws: each tap once the one before it is seen.
  await group.evaluate(async (buttons) => {
    for (let tap = 0; tap < 400; tap++) {
      const name = tap % 2 ? 'One clamp less' : 'One clamp more'
      const before = buttons.textContent
      buttons.querySelector<HTMLButtonElement>(`button[aria-label="${name}"]`)!.click()
      while (buttons.textContent === before) await new Promise((drawn) => setTimeout(drawn, 5))
    }
  })
  await expect(field.getByTestId('sync')).toContainText('with 400 pending', { timeout: 60_000 })
  const back = Date.now()
  await field.context().setOffline(false)
  await expect(field.getByTestId('sync')).toHaveText('live', { timeout: 60_000 })
  console.log(`400 facts on the server after ${((Date.now() - back) / 1000).toFixed(1)} s`)
  const { siteState } = await ask<{ siteState: { boxes: Record<string, { name: string; internalClamps: number }> } }>(
    office,
    `/api/jobs/${jobId}`,
  )
  expect(Object.values(siteState.boxes).find(({ name }) => name === 'hall door')!.internalClamps).toBe(1)
  expect(faultsOf(field)).toEqual([])
})
