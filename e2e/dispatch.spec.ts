import { expect } from '@playwright/test'
import { accessible } from './support/accessible'
import { nobodyTwice, peopleOf, visitsOf, workedOut } from './support/day'
import { ask, browserOf, desk, faultsOf, person, phone, pick, test } from './support/people'
import { openedFromSample } from './support/sample'

test('the day: planned, taken over in part, seen at once by another office and the crew, and taken back', async ({ browser }, info) => {
  const office = await person(browser, 'lena.moss', desk)
  const other = await person(browser, 'odo.reed', desk)
  await Promise.all([office.goto('/day'), other.goto('/day')])
  await workedOut(office)
  const before = await visitsOf(office)
  await expect(office.getByRole('heading', { level: 1 })).toContainText(/visits of \d+ crews|will hardly hold|missed|over/)
  // Twelve crews stand on one screen.
  const board = office.getByRole('group', { name: 'Crews against time' })
  const box = (await board.boundingBox())!
  expect(box.y + box.height).toBeLessThan(800)

  await office.getByRole('button', { name: 'Plan the day' }).click()
  const ways = office.getByRole('region', { name: 'Ways to plan the day' })
  await expect(ways.getByRole('button', { name: 'Leave the day as it is' })).toBeVisible({ timeout: 90_000 })
  const way = ways.getByRole('radio', { name: /Only place what waits/ })
  await expect(way).toContainText(/Places \d+ of \d+/)
  await way.click()
  const boxes = ways.getByRole('checkbox')
  const count = await boxes.count()
  expect(count).toBeGreaterThan(1)
  // All but one.
  const left = (await ways.getByRole('listitem').first().locator('label').innerText()).split(':')[0]!
  await boxes.first().click()
  await info.attach('ways', { body: await office.screenshot(), contentType: 'image/png' })
  await accessible(office, 'practice')
  await ways.getByRole('button', { name: `Take over ${count - 1} change` }).click()
  await expect(office.getByRole('status').filter({ hasText: 'taken over' })).toBeVisible()
  const after = await visitsOf(office)
  const fresh = after.filter(({ id }) => !before.some((one) => one.id === id))
  expect(fresh).toHaveLength(count - 1)
  expect(fresh.map(({ siteName }) => siteName)).not.toContain(left)
  nobodyTwice(
    fresh.concat(
      after.filter(
        ({ id }) =>
          !fresh.some((one) => one.id === id) &&
          fresh.some((one) => one.personIds.some((who) => after.find((its) => its.id === id)!.personIds.includes(who))),
      ),
    ),
  )
  // The other office sees it without doing anything.
  await expect(other.getByRole('button', { name: new RegExp(`^${fresh[0]!.siteName}, `) }).first()).toBeVisible()

  await office.getByRole('button', { name: 'Take it back' }).click()
  await expect.poll(async () => (await visitsOf(office)).length).toBe(before.length)
  expect([...faultsOf(office), ...faultsOf(other)]).toEqual([])
})

test('a callback on the telephone: three windows, one is booked, and the crew has it', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  await office.goto('/day')
  await workedOut(office)
  await office.getByRole('button', { name: 'Windows for Tide House' }).click()
  const sheet = office.getByRole('dialog')
  const offers = sheet.getByRole('button', { name: /^Book / })
  await expect(offers.first()).toBeVisible()
  expect(await offers.count()).toBeLessThanOrEqual(3)
  await offers.first().click()
  await expect(sheet).toBeHidden()
  await expect(office.getByRole('status').filter({ hasText: 'Tide House booked.' })).toBeVisible()
  const visit = (await visitsOf(office)).find(({ siteName, status }) => siteName === 'Tide House' && status === 'planned')!
  const people = await peopleOf(office)
  const crew = await person(browser, people.find(({ id }) => id === visit.personIds[0])!.login, phone, '/my-day')
  await expect(crew.getByRole('link', { name: /Tide House/ })).toBeVisible()
  await expect(office.getByRole('button', { name: 'Windows for Tide House' })).toBeHidden()
  expect([...faultsOf(office), ...faultsOf(crew)]).toEqual([])
})

test('a visit moved by keys and by hand says first what it would break', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  await office.goto('/day')
  await workedOut(office)
  const visit = office.getByRole('button', { name: /^The Boathouse, / })
  await visit.focus()
  const [before] = (await visitsOf(office)).filter(({ siteName }) => siteName === 'The Boathouse')
  for (let step = 0; step < 14; step++) await visit.press('ArrowRight')
  const said = office.locator('p.said')
  await expect(said).toContainText(/The Boathouse: .* late/)
  await visit.press('Enter')
  const asked = office.getByRole('dialog')
  await expect(asked).toContainText('telephone first')
  await asked.getByRole('button', { name: 'Leave it' }).click()
  expect((await visitsOf(office)).find(({ id }) => id === before!.id)!.startsAt).toBe(before!.startsAt)

  // A quarter of an hour later no promise breaks: it is moved, and back again. What the day got since may make it a long one.
  await visit.focus()
  await visit.press('ArrowRight')
  await expect(said).toContainText(/Every promise holds\.|The crew would work overtime\./)
  const breaks = (await said.innerText()).includes('overtime')
  await visit.press('Enter')
  if (breaks) await asked.getByRole('button', { name: 'Move it all the same' }).click()
  await expect(office.getByRole('status').filter({ hasText: 'The Boathouse moved.' })).toBeVisible()
  const start = async () => (await visitsOf(office)).find(({ id }) => id === before!.id)!.startsAt
  expect(Date.parse(await start()) - Date.parse(before!.startsAt)).toBe(15 * 60_000)
  await office.getByRole('button', { name: 'Take it back' }).click()
  await expect.poll(start).toBe(before!.startsAt)

  // In the hand, over another crew, and let go where it was: nothing.
  const place = (await visit.boundingBox())!
  await office.mouse.move(place.x + place.width / 2, place.y + place.height / 2)
  await office.mouse.down()
  await office.mouse.move(place.x + place.width / 2 + 60, place.y + 140, { steps: 6 })
  await expect(said).toContainText(/The Boathouse: /)
  await office.mouse.move(place.x + place.width / 2, place.y + place.height / 2, { steps: 6 })
  await office.mouse.up()
  expect(await start()).toBe(before!.startsAt)
  expect(faultsOf(office)).toEqual([])
})

test('the map: ways of the crews; a home is shown to be elsewhere, and from its address again', async ({ browser }, info) => {
  const office = await person(browser, 'lena.moss', desk)
  await office.goto('/day')
  await workedOut(office)
  await office.getByRole('button', { name: 'Show the map' }).click()
  const map = office.getByRole('application', { name: 'Map of the day' })
  await expect(map.locator('path.route').first()).toBeAttached()
  await office.getByRole('combobox', { name: 'Home on the map' }).click()
  await office.getByRole('option', { name: 'The Boathouse' }).click()
  await expect(office.getByText('About, from its address.')).toBeVisible()
  await office.getByRole('button', { name: 'Show where it is' }).click()
  await map.click({ position: { x: 200, y: 260 } })
  await expect(office.getByText('Shown by somebody.')).toBeVisible()
  await info.attach('map', { body: await office.screenshot(), contentType: 'image/png' })
  await accessible(office, 'practice')
  await office.getByRole('button', { name: 'From its address again' }).click()
  await expect(office.getByText('About, from its address.')).toBeVisible()
  expect(faultsOf(office)).toEqual([])
})

test('late, told, moved by the customer: a crew on its way, the office, and a page without an account', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  await office.goto('/day')
  await workedOut(office)
  const planned = (await visitsOf(office)).filter(
    ({ status, startsAt }) => status === 'planned' && Date.parse(startsAt) > Date.now() + 5_400_000,
  )
  const people = await peopleOf(office)
  const fay = people.find(({ login }) => login === 'fay.holt')!.id
  const visit = planned.find(
    ({ personIds, siteName }) => personIds.length === 1 && personIds[0] !== fay && !['The Boathouse', 'Sedge House'].includes(siteName),
  )!
  const leader = people.find(({ id }) => id === visit.personIds[0])!
  const timesOf = async () =>
    (await ask<{ jobState: { visits: Record<string, { startsAt: string }> } }>(office, `/api/jobs/${visit.jobId}`)).jobState.visits[
      visit.id
    ]!.startsAt
  const before = await timesOf()

  // The office writes, and offers other times.
  await office
    .getByRole('button', { name: new RegExp(`^${visit.siteName}, `) })
    .first()
    .click()
  const sheet = office.getByRole('dialog')
  await sheet.getByRole('button', { name: 'Offer other times' }).click()
  await expect(sheet.getByText('They choose on their page')).toBeVisible({ timeout: 60_000 })
  const text = sheet.getByRole('textbox', { name: /^To / })
  await expect(text).toHaveValue(/We ask you for another time for our visit\. .*\/visit\//)
  await accessible(office, 'practice', '[role=dialog]')
  await sheet.getByRole('button', { name: /^Send/ }).click()
  await expect(sheet.getByText(/other times? offered; none chosen yet/)).toBeVisible()
  const link = (await sheet.getByRole('link', { name: 'their page' }).getAttribute('href'))!

  // The customer has no account.
  const customer = await browserOf(browser, { baseURL: process.env.CIRCUITRY_TEST_URL, ...phone })
  await customer.goto(link)
  await expect(customer.getByRole('heading', { level: 1 })).toContainText(`${leader.name.split(' ')[0]} comes today between`)
  await customer.getByRole('checkbox', { name: /Wi-Fi/ }).check()
  await expect(sheet.getByText(/1 of \d things are ready, they say/)).toBeVisible()
  await accessible(customer, 'practice')
  await customer
    .getByRole('button', { name: /^Take / })
    .last()
    .click()
  await expect(customer.getByText('You chose this time. Thank you.')).toBeVisible()
  expect(await timesOf()).not.toBe(before)
  // Another customer’s page is none of theirs.
  await customer.goto(`${link.slice(0, -1)}${link.endsWith('A') ? 'B' : 'A'}`)
  await expect(customer.getByRole('heading', { level: 1 })).toHaveText('There is no visit here.')

  // A crew that has not come says that it leaves, and that it comes later; the office and the customer see it at once.
  const driver = await person(browser, 'fay.holt', phone, '/my-day')
  const way = driver.getByRole('region', { name: /^The way to / })
  await way.getByRole('button', { name: 'I am leaving' }).click()
  await expect(way).toContainText(/On the way since .*, there about/)
  await expect(driver.getByRole('heading', { level: 1 })).toContainText(/^On the way to /)
  const home = (await driver.getByRole('heading', { level: 1 }).innerText()).replace(/^On the way to |\.$/g, '')
  await office.keyboard.press('Escape')
  await expect(office.getByRole('button', { name: new RegExp(`^${home}, .*(on the way|comes late|late)`) }).first()).toBeVisible()
  await way.getByRole('button', { name: 'Tell the customer' }).click()
  await way.getByRole('button', { name: 'the crew comes later' }).click()
  await expect(way.getByRole('textbox', { name: /^To / })).toHaveValue(/We are sorry: Fay comes later than we said, now between/)
  await accessible(driver, 'practice')
  await way.getByRole('button', { name: /^Send/ }).click()
  await expect(way.locator('p').filter({ hasText: /Sent[\s\S]*the crew comes later/ })).toBeVisible()
  const theirs = (await visitsOf(office)).find(({ siteName, status }) => siteName === home && status === 'planned')!
  await office.goto('/messages')
  await office.getByRole('button', { name: new RegExp(`${home} · the crew comes later`) }).click()
  const body = await office.locator('.letter').innerText()
  await customer.goto(new URL(/https?:\S+\/visit\/\S+/.exec(body)![0]).pathname)
  await expect(customer.getByRole('heading', { level: 1 })).toContainText(/^Fay is on the way, there about/)
  await accessible(office, 'practice')

  // At the door: what the program knows, what it asks; the crew decides, and with the first thing it does it has arrived.
  await driver.goto(`/jobs/${theirs.jobId}/visit`)
  await expect(driver.getByRole('heading', { level: 1 })).toHaveText(/things? to ask before anything is opened/)
  for (const what of ['An adult is at home and stays', /can be reached/, 'You asked what must not lose power'])
    await driver.getByRole('group', { name: what }).getByRole('button', { name: 'yes' }).click()
  await expect(driver.getByRole('region', { name: 'Enough for today' })).toContainText(/fit/)
  await expect(driver.getByRole('region', { name: 'What goes off' }).getByRole('listitem').first()).toContainText(/about \d+ min/)
  await accessible(driver, 'practice')
  await driver.getByRole('button', { name: 'We begin, something stays' }).click()
  await expect(driver.getByRole('heading', { level: 1 })).toHaveText(/^Decided at .* begins/)
  await expect.poll(async () => (await visitsOf(office)).find(({ id }) => id === theirs.id)!.status).toBe('onSite')
  expect([...faultsOf(office), ...faultsOf(customer), ...faultsOf(driver)]).toEqual([])
})

test('whom a job takes is said on booking; a van is not booked to two homes; the board finds who can', async ({ browser }) => {
  const lead = await person(browser, 'odo.reed', desk)
  // Dilys drives Odo’s van.
  await lead.goto('/settings')
  await lead.getByRole('group', { name: 'Settings' }).getByRole('button', { name: 'People' }).click()
  await lead.getByRole('button', { name: 'Change Dilys Marsh' }).click()
  await pick(lead, 'Van they drive', 'Van of Odo')
  await lead.getByRole('group', { name: 'Can do' }).getByRole('button', { name: 'high ladders' }).click()
  await lead.getByRole('button', { name: 'Save' }).click()
  await expect(lead.getByRole('row', { name: /Dilys Marsh/ })).toContainText('high ladders, Van of Odo')

  const office = await person(browser, 'lena.moss', desk)
  const home = `Reed Barn ${Date.now() % 100_000}`
  await openedFromSample(office, home)
  await office.goto('/day')
  await workedOut(office)
  await office.getByRole('button', { name: `Schedule ${home}` }).click()
  const sheet = office.getByRole('dialog')
  const crew = (name: string) => sheet.getByRole('checkbox', { name: new RegExp(name) })
  await sheet.getByText(/^Whom it takes: 1 person/).click()
  await sheet.getByRole('button', { name: 'One person more' }).click()
  await sheet.getByRole('group', { name: 'What one of them can do' }).getByRole('button', { name: 'high ladders' }).click()
  await expect(sheet.getByText('Whom it takes: 2 people, high ladders')).toBeVisible()
  await crew('Lew Harker').check()
  await expect(sheet.getByText('This crew lacks: 1 person more, somebody for high ladders.')).toBeVisible()
  await crew('Dilys Marsh').check()
  await expect(sheet.getByText('They go in Van of Odo.')).toBeVisible()
  await expect(sheet.getByText(/This crew lacks/)).toHaveCount(0)
  await accessible(office, 'practice', '[role=dialog]')
  await crew('Lew Harker').uncheck()
  await sheet.getByRole('button', { name: 'Schedule the visit' }).click()
  await expect(sheet.getByText(/Van of Odo is at Lock Cottage from .* to .*\./)).toBeVisible()
  await expect(sheet.getByRole('button', { name: 'Book them anyway' })).toBeVisible()
  await office.keyboard.press('Escape')

  await office.getByLabel('Find on the board').fill('high ladders')
  await expect(office.locator('.crew.able')).not.toHaveCount(0)
  await lead.getByRole('button', { name: 'Change Dilys Marsh' }).click()
  await pick(lead, 'Van they drive', 'none')
  await lead.getByRole('button', { name: 'Save' }).click()
  await expect(lead.getByRole('row', { name: /Dilys Marsh/ })).not.toContainText('Van of Odo')
  expect([...faultsOf(office), ...faultsOf(lead)]).toEqual([])
})
