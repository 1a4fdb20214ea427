import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'
import { ask, desk, faultsOf, person, phone, test } from './support/people'

interface Visit {
  id: string
  siteName: string
  startsAt: string
  endsAt: string
  personIds: string[]
  status: string
}
/** Today’s visits of the branch, as the server has them. */
async function visitsOf(page: Page): Promise<Visit[]> {
  const { branches } = await ask<{ branches: { id: string; name: string }[] }>(page, '/api/branches')
  const branchId = branches.find(({ name }) => name === 'Port Sallow')!.id
  const from = new Date(Date.now() - 14 * 3_600_000).toISOString()
  const to = new Date(Date.now() + 14 * 3_600_000).toISOString()
  return (await ask<{ visits: Visit[] }>(page, `/api/visits?${new URLSearchParams({ from, to, branchId })}`)).visits
}
const nobodyTwice = (visits: Visit[]) => {
  for (const one of visits)
    for (const other of visits)
      if (one.id < other.id && one.status !== 'done' && other.status !== 'done' && one.personIds.some((id) => other.personIds.includes(id)))
        expect(
          Date.parse(one.endsAt) <= Date.parse(other.startsAt) || Date.parse(other.endsAt) <= Date.parse(one.startsAt),
          `${one.siteName} and ${other.siteName}`,
        ).toBe(true)
}
/** The day has been worked out. */
const workedOut = (page: Page) => expect(page.getByRole('button', { name: 'Plan the day' })).toBeEnabled({ timeout: 60_000 })

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
  expect((await new AxeBuilder({ page: office }).analyze()).violations).toEqual([])
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
  const { people } = await ask<{ people: { id: string; login: string }[] }>(office, '/api/people')
  const crew = await person(browser, people.find(({ id }) => id === visit.personIds[0])!.login, phone)
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

  // A quarter of an hour later nothing breaks: it is moved, and back again.
  await visit.focus()
  await visit.press('ArrowRight')
  await expect(said).toContainText('Every promise holds.')
  await visit.press('Enter')
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
  expect((await new AxeBuilder({ page: office }).analyze()).violations).toEqual([])
  await office.getByRole('button', { name: 'From its address again' }).click()
  await expect(office.getByText('About, from its address.')).toBeVisible()
  expect(faultsOf(office)).toEqual([])
})
