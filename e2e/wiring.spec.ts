import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { bench, jobFor, openAndTag, prove, twoCables } from './support/box'
import { desk, faultsOf, person, phone, pick, test } from './support/people'

const sentence = (page: Page) => page.getByTestId('wiring-sentence')
/** Does what the bench says, with the simulated meter, until every conductor is known. */
async function findOut(page: Page): Promise<void> {
  const probe = page.getByRole('button', { name: /^(Put the probes there|Take the \d+ readings)$/ })
  const readings = page.locator('summary').filter({ hasText: /^\d+ readings$/ })
  for (let step = 0; step < 25; step++) {
    await expect(probe.or(page.getByTestId('verdicts'))).toBeVisible()
    if (await page.getByTestId('verdicts').isVisible()) return
    const before = (await readings.count()) ? await readings.textContent() : ''
    await probe.click()
    await expect(readings).not.toHaveText(before || 'none')
    await expect(page.getByText('Computing …')).toBeHidden()
  }
  throw new Error('It never ends.')
}
const role = (page: Page, letter: string) =>
  page
    .getByTestId('settled')
    .locator('li')
    .filter({ has: page.locator('b', { hasText: new RegExp(`^${letter}$`) }) })

test('two hidden boxes: the roles come out right, a wrong plan is caught, the right one works', async ({ browser }) => {
  const page = await person(browser, 'bram.ash', desk)

  await test.step('odd colours: red is the neutral, white the line', async () => {
    await page.goto('/practice')
    await page.getByRole('link', { name: /^Tide room/ }).click()
    await expect(sentence(page)).toContainText('0 of 6 conductors are settled')
    // Somebody points at two conductors: what the meter should show.
    await page.getByTestId('tag-A').click()
    await page.getByTestId('tag-B').click()
    await expect(page.getByTestId('pair')).toContainText('A to B')
    await expect(page.getByTestId('pair')).toContainText('nothing or full voltage')
    await findOut(page)
    await expect(sentence(page)).toHaveText('All 6 conductors are known.')
    await page.locator('summary', { hasText: 'What is settled' }).click()
    await expect(role(page, 'A')).toContainText('neutral, from the panel, circuit 11')
    await expect(role(page, 'B')).toContainText('line, circuit 11')
    await expect(role(page, 'E')).toContainText('load, to the light')
    await expect(page.getByTestId('verdicts')).toContainText('works in 2 of 2 positions')
  })

  await test.step('line and load exchanged by tap, by keyboard and by dragging: said at once', async () => {
    await page.getByTestId('tag-B').click()
    await page.getByRole('button', { name: /^Terminal load/ }).click()
    await page.getByTestId('tag-E').focus()
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: /^Terminal line/ }).focus()
    await page.keyboard.press('Enter')
    await expect(page.getByRole('button', { name: 'Terminal load: B' })).toBeVisible()
    await expect(page.getByTestId('verdicts')).toContainText('line and load are exchanged')
    // The fault is explained by what is seen, too.
    await page.getByTestId('tag-B').hover()
    await page.mouse.down()
    const target = (await page.getByRole('button', { name: /^Terminal line/ }).boundingBox())!
    await page.mouse.move(target.x + 10, target.y + 10, { steps: 8 })
    await page.mouse.move(target.x + target.width / 2, target.y + 20, { steps: 8 })
    await page.mouse.up()
    await expect(page.getByRole('button', { name: /^Terminal line: .*B/ })).toBeVisible()
    await page.getByRole('button', { name: 'Start from the proposal again' }).click()
    await expect(page.getByTestId('verdicts')).toContainText('works in 2 of 2 positions')
  })

  await test.step('what was seen is explained; then the breaker is closed and it works', async () => {
    const seen = page.getByRole('group', { name: /seen$/ })
    await expect(seen).toHaveCount(2)
    for (const group of await seen.all()) await group.getByRole('button', { name: 'off' }).click()
    await page.getByRole('button', { name: 'Explain what was seen' }).click()
    await expect(page.getByTestId('diagnosis')).toContainText(/1\. \d+ %/)
    await page.getByRole('button', { name: 'Close the breaker and look' }).click()
    await expect(page.getByTestId('tried')).toHaveText('It does what was foretold, in every position.')
    await expect(page.getByTestId('diagnosis')).toContainText('The wiring behaves as planned.')
  })

  await test.step('drawing, labels and wiring leave as files', async () => {
    const file = async (name: string) => {
      const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name }).click()])
      return readFileSync((await download.path())!, 'utf8')
    }
    expect(await file('Drawing (SVG)')).toContain('<svg')
    expect(await file('Label sheet (SVG)')).toContain('neutral')
    expect(JSON.parse(await file('Wiring (JSON)'))).toMatchObject({ format: 'circuitry-wiring', version: 1, name: 'Tide room' })
  })

  await test.step('the 3-way whose load leaves from the other box', async () => {
    await page.goto('/practice/landing')
    await findOut(page)
    await expect(page.getByTestId('verdicts')).toContainText('works in 4 of 4 positions')
    await page.getByRole('button', { name: 'Close the breaker and look' }).click()
    await expect(page.getByTestId('tried')).toHaveText('It does what was foretold, in every position.')
    await page.getByRole('link', { name: 'all boxes' }).click()
    await expect(page.getByRole('heading', { level: 1 })).toContainText('2 of 9 boxes are known and proven.')
  })
  expect(faultsOf(page)).toEqual([])
})

test('on a job: the box is described, read dead and live, and its flags say what the readings establish', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  const page = await person(browser, 'bram.ash', phone)
  const jobId = await jobFor(office, ['bram.ash', 'kit.ivers'])
  await bench(page, jobId, 'tide door')
  await openAndTag(page, '2', 'BA red 1')
  await twoCables(page)
  await prove(page)
  await page.getByRole('link', { name: 'Find out what each one is' }).click()

  // A, B, C come from the panel; D, E, F go to the light.
  await pick(page, 'Where A ends', 'screw 1')
  await pick(page, 'Where D ends', 'screw 2')
  for (const letter of ['B', 'E']) await pick(page, `Where ${letter} ends`, 'splice 1')
  for (const letter of ['C', 'F']) await pick(page, `Where ${letter} ends`, 'splice 2')
  await page.getByRole('button', { name: 'This is how it was' }).click()

  const metal = ['B', 'C', 'E', 'F', 'ground']
  const ohms = (a: string, b: string) => (metal.includes(a) && metal.includes(b) ? 'it beeps' : [a, b].includes('A') ? 'open' : 'some ohms')
  const volts = (a: string, b: string) => ([a, b].includes('A') && metal.includes(a === 'A' ? b : a) ? '121' : '0')
  const rows = page.getByTestId('next-test').locator('.entry')
  const storeAll = async () => {
    const title = await page.getByTestId('next-test').locator('h2').textContent()
    const count = await page
      .locator('summary')
      .filter({ hasText: /readings$/ })
      .allTextContents()
    for (const row of await rows.all()) {
      const [a, b] = (await row.locator('b').textContent())!.split('–') as [string, string]
      if (title!.startsWith('Continuity')) await row.getByRole('button', { name: ohms(a, b) }).click()
      else await row.getByRole('textbox').fill(volts(a, b))
    }
    await page.getByRole('button', { name: /^Store (the reading|\d+ readings)$/ }).click()
    await expect(page.locator('summary').filter({ hasText: /readings$/ })).not.toHaveText(count.at(-1) ?? 'none')
    await expect(page.getByText('Computing …')).toBeHidden()
  }
  await expect(rows.first()).toBeVisible()
  for (let step = 0; step < 12 && (await page.getByTestId('next-test').getByText('no power needed').isVisible()); step++) await storeAll()
  await expect(page.getByTestId('next-test')).toContainText('needs the power on')
  await expect(page.getByRole('button', { name: /^Store \d+ readings$/ })).toBeDisabled()

  // Power for a moment, announced to the mate.
  await page.getByRole('button', { name: 'Power for a moment' }).click()
  await page.getByRole('button', { name: 'Ask everyone to stand clear' }).click()
  await page.getByRole('button', { name: 'Hands out, ends safe: I am clear' }).click()
  await page.getByRole('button', { name: 'All clear: leave to close 2' }).click()
  await page.getByRole('button', { name: 'It is closed' }).click()
  await page.getByRole('button', { name: 'Measure live' }).click()
  await page.getByLabel('Kit Ivers is warned').click()
  await page.getByRole('button', { name: 'I measure live now' }).click()
  await expect(page.getByText('Probes only, no fingers.')).toBeVisible()
  for (let step = 0; step < 12 && (await page.getByTestId('next-test').isVisible()); step++) await storeAll()
  await expect(sentence(page)).toHaveText('All 6 conductors are known.')

  await page.getByRole('button', { name: 'Put the roles on the flags' }).click()
  await expect(page.getByText('Every flag says what the readings establish.')).toBeVisible()
  await page.goto(`/jobs/${jobId}/history`)
  await expect(page.getByText('established A as line at tide door (readings)')).toBeVisible()
  await expect(page.getByText(/read A–ground 121 V/).first()).toBeVisible()
  expect(faultsOf(page)).toEqual([])
})
