import { expect, type Locator } from '@playwright/test'
import { accessible } from './support/accessible'
import { dayThere, nobodyTwice, peopleOf, visitsOf, workedOut, zoneOf } from './support/day'
import { ask, browserOf, desk, faultsOf, loseNetwork, lonePhone, person, phone, test } from './support/people'

/** Homes that no other journey is about. */
const ofNoOtherJourney = /^(Curlew|Samphire|Oar|Lantern|Withy|Plover|Tern|Anchor|Bell|Cooper|Eel|Wicket|Barley|Osier|Kelp) /
/** Takes off the changes of a way that are not wanted. */
async function keepOf(ways: Locator, wanted: (words: string, kept: number) => boolean): Promise<void> {
  const lines = ways.getByRole('listitem').filter({ has: ways.page().getByRole('checkbox') })
  let kept = 0
  for (let index = 0; index < (await lines.count()); index++) {
    if (wanted((await lines.nth(index).innerText()).trim(), kept)) kept++
    else await lines.nth(index).getByRole('checkbox').click()
  }
  expect(kept).toBeGreaterThan(0)
}

test('a day: planned, accepted, a callback on the telephone, mended in part, customers told; phones follow, the one that was away too', async ({
  browser,
}) => {
  const office = await person(browser, 'lena.moss', desk)
  await office.goto('/day')
  await workedOut(office)
  const people = await peopleOf(office)
  const gus = people.find(({ login }) => login === 'gus.tolley')!
  const lew = await person(browser, 'lew.harker', phone, '/my-day')
  const away = await person(browser, gus.login, lonePhone, '/my-day')

  await test.step('two of what waits are placed: the afternoon keeps room for whoever calls', async () => {
    await office.getByRole('button', { name: 'Plan the day' }).click()
    const ways = office.getByRole('region', { name: 'Ways to plan the day' })
    await expect(ways.getByRole('button', { name: 'Leave the day as it is' })).toBeVisible({ timeout: 90_000 })
    await ways.getByRole('radio', { name: /Only place what waits/ }).click()
    await keepOf(ways, (words, kept) => kept < 2 && ofNoOtherJourney.test(words))
    await ways.getByRole('button', { name: /^Take over \d+ change/ }).click()
    await expect(office.getByRole('status').filter({ hasText: 'taken over' })).toBeVisible()
    // A job of this morning runs over all the same, and it is said.
    await expect(office.getByRole('heading', { level: 1 })).toContainText(/runs? over|hardly hold|missed|Nobody/)
  })
  // What was just taken over is on the board of everybody.
  await office.reload()
  await workedOut(office)
  const theirs = (await visitsOf(office)).find(({ status, personIds }) => status === 'planned' && personIds[0] === gus.id)!
  await test.step('one phone loses its network; meanwhile its visit is moved by the keys', async () => {
    await expect(away.getByRole('link', { name: new RegExp(theirs.siteName) })).toBeVisible()
    await loseNetwork(away)
    const visit = office.getByRole('button', { name: new RegExp(`^${theirs.siteName}, `) }).first()
    await visit.focus()
    await visit.press('ArrowRight')
    await expect(office.locator('p.said')).toContainText(theirs.siteName)
    await visit.press('Enter')
    const asked = office.getByRole('dialog')
    await expect(async () => {
      const anyway = asked.getByRole('button', { name: 'Move it all the same' })
      if (await anyway.isVisible()) await anyway.click()
      const now = (await visitsOf(office)).find(({ id }) => id === theirs.id)!
      expect(Date.parse(now.startsAt)).toBeGreaterThan(Date.parse(theirs.startsAt))
    }).toPass({ timeout: 60_000 })
  })
  const jobs = (await ask<{ jobs: { id: string; siteName: string }[] }>(office, '/api/jobs?status=handedOver')).jobs
  await test.step('a callback comes in; a window is offered and booked while the customer waits', async () => {
    const { units } = await ask<{ units: { id: string; jobId: string }[] }>(office, '/api/units?search=')
    const unit = units.find(({ jobId }) => jobs.some(({ id }) => id === jobId))!
    const home = jobs.find(({ id }) => id === unit.jobId)!.siteName
    await ask(office, '/api/commands', {
      id: crypto.randomUUID(),
      stream: 'job',
      streamId: unit.jobId,
      at: new Date().toISOString(),
      command: {
        ...{ type: 'openCallback', callbackId: crypto.randomUUID(), unitId: unit.id, what: 'Dead since this morning.' },
        ...{
          since: await dayThere(office),
          offlineInApp: true,
          wallSwitchFlipped: false,
          routerChanged: false,
          breakerTripped: false,
        },
      },
    })
    await office
      .getByRole('button', { name: `Windows for ${home}` })
      .first()
      .click()
    const sheet = office.getByRole('dialog')
    await sheet
      .getByRole('button', { name: /^Book / })
      .first()
      .click()
    await expect(sheet).toBeHidden()
    const booked = (await visitsOf(office)).find(({ siteName, status }) => siteName === home && status === 'planned')!
    // Whoever goes there has it on the phone without doing anything.
    const crew = booked.personIds.includes(people.find(({ login }) => login === 'lew.harker')!.id)
      ? lew
      : await person(browser, people.find(({ id }) => id === booked.personIds[0])!.login, phone, '/my-day')
    await expect(crew.getByRole('link', { name: new RegExp(home) }).first()).toBeVisible()
    // The customer is told, and reads it on their page.
    await office
      .getByRole('button', { name: new RegExp(`^${home}, .*callback`) })
      .first()
      .click()
    await sheet.getByRole('button', { name: 'Write to them' }).click()
    const to = sheet.getByRole('textbox', { name: 'Telephone' })
    const letter = sheet.getByRole('textbox', { name: /^To / })
    await expect(to.or(letter)).toBeVisible()
    if (await to.isVisible()) {
      await to.fill('555 0188')
      await sheet.getByRole('button', { name: 'Keep it' }).click()
    }
    await expect(letter).toHaveValue(/to mend\. What to prepare/)
    await sheet.getByRole('button', { name: /^Send/ }).click()
    await expect(sheet.locator('p').filter({ hasText: /Sent[\s\S]*what was booked/ })).toBeVisible()
    const customer = await browserOf(browser, { baseURL: process.env.CIRCUITRY_TEST_URL, ...phone })
    await customer.goto((await sheet.getByRole('link', { name: 'their page' }).getAttribute('href'))!)
    await expect(customer.getByRole('heading', { level: 1 })).toContainText('today between')
    await office.keyboard.press('Escape')
    expect(faultsOf(customer)).toEqual([])
  })
  await test.step('somebody falls ill: who goes instead is proposed, and taken over in part', async () => {
    await office.getByRole('button', { name: /Who is away|requests? waits? for you/ }).click()
    const sheet = office.getByRole('dialog')
    await sheet.getByRole('button', { name: 'Somebody is away' }).click()
    await sheet.getByRole('combobox', { name: 'Who' }).click()
    await office.getByRole('option', { name: 'Cato Fenn' }).click()
    await sheet.getByRole('button', { name: 'ill', exact: true }).click()
    await accessible(office, 'practice', '[role=dialog]')
    await sheet.getByRole('button', { name: 'Note it' }).click()
    await expect(sheet.getByText(/Cato Fenn: ill/)).toBeVisible()
    await office.keyboard.press('Escape')
    await expect(office.getByRole('heading', { level: 1 })).toContainText(/^Nobody goes to .*: Cato Fenn is away\./)
    await office.getByRole('button', { name: 'Plan the day' }).click()
    const ways = office.getByRole('region', { name: 'Ways to plan the day' })
    await expect(ways.getByRole('button', { name: 'Leave the day as it is' })).toBeVisible({ timeout: 90_000 })
    await ways.getByRole('radio').first().click()
    // Who is moved, and nothing new beside.
    await keepOf(ways, (words) => words.includes('instead of'))
    await ways.getByRole('button', { name: /^Take over \d+ change/ }).click()
    await expect(office.getByRole('status').filter({ hasText: 'taken over' })).toBeVisible()
  })
  await test.step('nobody is booked twice; the phone that was away has its visit as it is now', async () => {
    nobodyTwice(await visitsOf(office))
    await away.context().setOffline(false)
    const now = (await visitsOf(office)).find(({ id }) => id === theirs.id)!
    const clock = new Intl.DateTimeFormat('en-US', { timeZone: await zoneOf(office), timeStyle: 'short' })
      .format(Date.parse(now.startsAt))
      .replace(/\s/g, ' ')
    if (now.personIds.includes(gus.id))
      await expect
        .poll(async () => (await away.getByRole('link', { name: new RegExp(theirs.siteName) }).innerText()).replace(/\s/g, ' '), {
          timeout: 60_000,
        })
        .toContain(clock)
    else await expect(away.getByRole('link', { name: new RegExp(theirs.siteName) })).toHaveCount(0, { timeout: 60_000 })
  })
  // Well again: journeys after this one find the crews they know.
  const { requests } = await ask<{ requests: { id: string; kind: string; state: string }[] }>(office, '/api/requests')
  for (const { id, kind, state } of requests)
    if (kind === 'ill' && state === 'approved') await ask(office, `/api/requests/${id}/withdraw`, {})
  expect([...faultsOf(office), ...faultsOf(lew)]).toEqual([])
})

test('time off is asked on a phone and approved by the office; a visit is handed over; the week and the calendar follow', async ({
  browser,
}) => {
  const office = await person(browser, 'lena.moss', desk)
  const crew = await person(browser, 'dilys.marsh', phone, '/my-day')
  await crew.getByText('Time off, handing a visit over, your calendar').click()
  await crew.getByRole('button', { name: 'Time off, or ill' }).click()
  await crew.getByRole('button', { name: 'Ask for it' }).click()
  await expect(crew.getByText(/asked · Time off/)).toBeVisible()
  await crew.getByRole('button', { name: 'Show the link' }).click()
  const link = await crew.getByTestId('calendar-link').innerText()
  const calendar = await crew.request.get(new URL(link).pathname)
  expect(calendar.headers()['content-type']).toContain('text/calendar')
  expect(await calendar.text()).toContain('BEGIN:VEVENT')
  await accessible(crew, 'practice')

  await office.goto('/day')
  await office.getByRole('button', { name: /requests? waits? for you|Who is away/ }).click()
  const sheet = office.getByRole('dialog')
  const asked = sheet.getByRole('region', { name: /^Dilys Marsh: time off/ })
  await asked.getByRole('button', { name: 'Approve' }).click()
  await expect(crew.getByText(/approved · Time off/)).toBeVisible()
  await expect(asked).toBeHidden()
  await office.keyboard.press('Escape')
  await office.getByRole('button', { name: /: show the week$/ }).click()
  const week = office.getByRole('region', { name: 'The week' })
  await expect(week.getByRole('button', { name: /away .*DM/ })).toBeVisible()
  await accessible(office, 'practice')
  await week.getByRole('button').nth(1).click()
  await expect(week).toBeHidden()

  await office.getByRole('button', { name: 'Files of the day' }).click()
  const files = office.getByRole('dialog')
  const table = await files.getByRole('link', { name: /^Visits \(CSV\)/ }).getAttribute('href')
  const text = await (await office.request.get(table!)).text()
  expect(text.split('\n')[0]).toBe('visit,job,home,kind,day,from,to,promised_from,promised_to,people')
  await files.locator('input[type=file]').setInputFiles({ name: 'visits.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await expect(files.getByText(/0 visits move, 0 would be made/)).toBeVisible()
  await accessible(office, 'practice', '[role=dialog]')
  expect([...faultsOf(office), ...faultsOf(crew)]).toEqual([])
})
