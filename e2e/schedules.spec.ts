import { expect, type Page } from '@playwright/test'
import ICAL from 'ical.js'
import { readFile } from 'node:fs/promises'
import { accessible } from './support/accessible'
import { desk, faultsOf, jobAt, loseNetwork, lonePhone, person, test } from './support/people'

const sentence = (page: Page) => page.getByTestId('schedules-sentence')
const routine = (page: Page, name: string) => page.getByTestId('routine').filter({ hasText: name })
const wrong = (page: Page) => page.getByRole('region', { name: 'What goes wrong' })

test('schedules and rules: a year is played, what goes wrong is mended, the household gets its sheet; the other phone follows', async ({
  browser,
}) => {
  const lead = await person(browser, 'odo.reed', desk)
  const mate = await person(browser, 'kit.ivers', lonePhone)
  const jobId = await jobAt(lead, 'The Net Loft')
  await lead.goto(`/jobs/${jobId}/tests`)
  await lead.getByRole('link', { name: 'Schedules and rules' }).click()
  await mate.goto(`/jobs/${jobId}/schedules`)
  for (const page of [lead, mate]) await expect(sentence(page)).toHaveText(/^(1 thing goes|\d things go) wrong in a year of it\.$/)
  const finding = wrong(lead).getByText(/“Store closes” puts “.+” out while somebody is in the room/)
  await expect(finding).toBeVisible()

  await test.step('the day is looked at, then the fix is taken over', async () => {
    await wrong(lead).getByRole('button', { name: 'Look at the day' }).first().click()
    await expect(lead.getByTestId('year-map')).toBeVisible()
    await expect(lead.getByTestId('day-lanes')).toBeVisible()
    await lead.getByText('In words').click()
    await expect(lead.getByText(/on by .+, off by/).first()).toBeVisible()
    await wrong(lead)
      .getByRole('button', { name: /Only when “Store eye” has seen nobody for 20 minutes/ })
      .click()
    await expect(finding).toHaveCount(0)
    for (const page of [lead, mate]) await expect(routine(page, 'Store closes')).toContainText('if Store eye has seen nobody for 20 min')
  })
  for (const page of [lead, mate]) {
    await accessible(page)
  }

  await test.step('two rules that fight are found, and one of them is deleted', async () => {
    await lead.getByRole('button', { name: 'A rule', exact: true }).click()
    const sheet = lead.getByRole('dialog')
    await sheet.getByLabel('Name').fill('Gulls at dusk')
    await expect(sheet.getByTestId('routine-said')).toContainText('When it is sunset, every day')
    await sheet.getByRole('button', { name: 'Save it' }).click()
    await expect(sheet).toHaveCount(0)
    await expect(
      wrong(lead)
        .getByText(/“Gulls at dusk” switches/)
        .or(sentence(lead)),
    ).not.toHaveCount(0)
    await lead.getByRole('button', { name: 'A rule', exact: true }).click()
    await sheet.getByLabel('Name').fill('Gulls away')
    await sheet.getByLabel('What it does').click()
    await lead.getByRole('option', { name: 'switch off' }).click()
    await sheet.getByRole('button', { name: 'Save it' }).click()
    await expect(wrong(lead).getByText(/“Gulls at dusk” and “Gulls away” fight over/)).toBeVisible()
    await lead.getByRole('button', { name: 'Delete Gulls at dusk' }).click()
    await expect(wrong(lead).getByText(/fight over/)).toHaveCount(0)
    await lead.getByRole('button', { name: 'Delete Gulls away' }).click()
    await expect(routine(lead, 'Gulls')).toHaveCount(0)
  })
  await test.step('a name that is taken is refused, and what was entered stays', async () => {
    await lead.getByRole('button', { name: 'On and off by the sun' }).click()
    const sheet = lead.getByRole('dialog')
    await sheet.getByLabel('Name').fill('bedtime')
    await sheet.getByRole('button', { name: 'Save it' }).click()
    await expect(sheet.getByTestId('refusal')).toContainText('There is a “Bedtime” already.')
    await expect(sheet.getByLabel('Name')).toHaveValue('bedtime')
    await sheet.getByRole('button', { name: 'Close' }).click()
  })
  await test.step('what a device does by itself, and how the house is lived in', async () => {
    await lead
      .getByRole('button', { name: /Change what .+ does by itself/ })
      .first()
      .click()
    const sheet = lead.getByRole('dialog')
    await sheet.getByRole('button', { name: 'as it was' }).click()
    await sheet.getByRole('button', { name: 'Save it' }).click()
    await expect(lead.getByText('after an interruption as it was')).toBeVisible()
    await lead.getByRole('button', { name: 'Change how it is lived in' }).click()
    await sheet.getByLabel('weeks away a year').fill('99')
    await expect(sheet.getByText('From 0 to 20: weeks away a year.')).toBeVisible()
    await sheet.getByLabel('weeks away a year').fill('5')
    await sheet.getByRole('button', { name: 'Save it' }).click()
    await expect(lead.getByText(/2 people, 5 weeks away/)).toBeVisible()
  })
  await test.step('what must run is watched: its trace gives the lines, its effect is noted, its alert is tried', async () => {
    await lead
      .getByRole('button', { name: /Change what .+ does by itself/ })
      .first()
      .click()
    const sheet = lead.getByRole('dialog')
    await sheet.getByRole('checkbox', { name: 'It must run, whatever happens' }).check()
    await sheet.getByRole('button', { name: 'Save it' }).click()
    // What must run stands before everything else, three at a time.
    await expect(wrong(lead).getByText('Must run.').first()).toBeVisible()
    await wrong(lead)
      .getByRole('button', { name: /^All \d/ })
      .click()
    await expect(wrong(lead).getByText(/must run, and does not come back on by itself/)).toBeVisible()
    const motor = lead.getByRole('region', { name: 'What must run' })
    await expect(motor).toContainText('Nothing watches it yet.')
    const give = (text: string) =>
      motor.getByLabel(/Read its trace/).setInputFiles({ name: 'trace.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
    await give('a,b\n1,2')
    await expect(motor.getByText('The table needs a column “time” and a column “watts”.')).toBeVisible()
    // A day by the minute: off, a start, running with a little noise, and an hour in which it takes nothing.
    const watts = (index: number) =>
      index < 20 ? 0.3 : index < 22 ? 310 : index >= 900 && index < 960 ? 8 : 95 + 3 * Math.sin(index * 7.3)
    const rows = Array.from(
      { length: 1440 },
      (_, index) => `${new Date(1_760_000_000_000 + index * 60_000).toISOString()},${watts(index).toFixed(1)}`,
    )
    await give(['time,watts', ...rows].join('\n'))
    await expect(motor.getByText(/It takes 95 W, give or take \d.*and 310 W when it starts/)).toBeVisible({ timeout: 60_000 })
    await expect(motor.getByTestId('power-trace')).toBeVisible()
    const keep = motor.getByRole('button', { name: 'Keep it as its normal' })
    await expect(keep).toBeDisabled()
    await motor.getByLabel('What it does, beside its watts').fill('gauge by the vault')
    await motor.getByLabel('As read now').fill('45 %')
    await keep.click()
    await expect(motor).toContainText('Its alert is not tried to the end: 3 checks open.')
    await motor.getByRole('button', { name: 'Fail: it came again' }).click()
    await expect(motor.getByTestId('refusal')).toContainText('A fail needs a note.')
    for (const check of ['provoked, and it came', 'it came again', 'meant off, and it stayed away'])
      await motor.getByRole('button', { name: `Pass: ${check}` }).click()
    for (const page of [lead, mate])
      await expect(page.getByRole('region', { name: 'What must run' })).toContainText('Watched, and its alert was tried.')
  })
  await test.step('files: sheet, calendar, and out and in again', async () => {
    const pdf = await lead.request.get(`/api/jobs/${jobId}/schedules`)
    expect([pdf.status(), (await pdf.body()).subarray(0, 5).toString()]).toEqual([200, '%PDF-'])
    const ics = await lead.request.get(`/api/jobs/${jobId}/schedules?as=ics`)
    const calendar = new ICAL.Component(ICAL.parse(await ics.text()) as never)
    const events = calendar.getAllSubcomponents('vevent').map((one) => new ICAL.Event(one))
    // By the sun: an entry for each day of the year.
    expect(events.filter(({ summary }) => summary === 'Bench by evening').length).toBeGreaterThan(360)
    expect((await lead.request.get(`/api/jobs/${jobId}/schedules?as=doc`)).status()).toBe(400)
    const [file] = await Promise.all([lead.waitForEvent('download'), lead.getByRole('button', { name: 'All of it (JSON)' }).click()])
    const text = await readFile(await file.path(), 'utf8')
    // A finger that slipped, first.
    await lead.getByRole('button', { name: 'Delete Bedtime' }).click()
    await lead.getByRole('button', { name: 'Put it back' }).click()
    await expect(routine(lead, 'Bedtime')).toBeVisible()
    await lead.getByRole('button', { name: 'Delete Bedtime' }).click()
    await expect(routine(lead, 'Bedtime')).toHaveCount(0)
    const give = (name: string, content: string) =>
      lead.getByLabel(/Take in a file/).setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(content) })
    await give('broken.json', text.slice(0, 100))
    await expect(lead.getByText('This is no JSON that can be read.')).toBeVisible()
    await give('schedules.json', text)
    await lead.getByRole('button', { name: 'Take it in' }).click()
    for (const page of [lead, mate]) await expect(routine(page, 'Bedtime')).toBeVisible()
  })
  await test.step('without network the year is still played, and what is changed waits', async () => {
    await loseNetwork(mate)
    await mate.getByRole('button', { name: 'Pause Bench by evening' }).click()
    await expect(routine(mate, 'Bench by evening')).toContainText('paused')
    await mate.context().setOffline(false)
    await expect(routine(lead, 'Bench by evening')).toContainText('paused', { timeout: 30_000 })
    await lead.getByRole('button', { name: 'Go on with Bench by evening' }).click()
    await expect(routine(mate, 'Bench by evening')).not.toContainText('paused')
  })
  expect([...faultsOf(lead), ...faultsOf(mate)]).toEqual([])
})
