import { expect, type Page } from '@playwright/test'
import { accessible } from './support/accessible'
import { desk, faultsOf, jobAt, loseNetwork, lonePhone, person, phone, test, visit } from './support/people'

async function boxPath(page: Page, site: string, name: string): Promise<string> {
  const id = await jobAt(page, site)
  const { siteState } = (await (await page.request.get(`/api/jobs/${id}`)).json()) as {
    siteState: { boxes: Record<string, { id: string; name: string }> }
  }
  return `/jobs/${id}/box/${Object.values(siteState.boxes).find((box) => box.name === name)!.id}`
}
/** What a lead sees that nobody else does. */
const leadsOwn = ['/settings', '/settings?part=people', '/settings?part=testers', '/settings?part=catalogue']
for (const [name, options, who] of [
  ['office', desk, 'lena.moss'],
  ['a lead’s own', desk, 'odo.reed'],
  ['field', phone, 'bram.ash'],
] as const) {
  test(`every screen is accessible and silent, light and dark: ${name}`, async ({ browser }) => {
    const page = await person(browser, who, options)
    const loft = `/jobs/${await jobAt(page, 'The Net Loft')}`
    const studio = `/jobs/${await jobAt(page, 'School studio 5')}`
    const heron = `/jobs/${await jobAt(page, 'Heron House')}`
    const everybody = [
      '/my-day',
      '/jobs',
      '/callbacks',
      '/call',
      loft,
      await boxPath(page, 'The Net Loft', 'stair head'),
      await boxPath(page, 'The Net Loft', 'nook arch'),
      `${studio}/tests`,
      `${studio}/handover`,
      `${loft}/history`,
      `${loft}/panel`,
      `${loft}/survey`,
      (await boxPath(page, 'The Net Loft', 'stair foot')).replace('/box/', '/survey?box='),
      `${loft}/tracing`,
      `${loft}/directory`,
      `${loft}/windows`,
      `${loft}/names`,
      `${loft}/schedules`,
      '/practice',
      '/practice/sail-room',
      (await boxPath(page, 'The Net Loft', 'stair head')).replace('/box/', '/wiring/'),
      `${heron}/parts?by=box`,
      '/stock',
      '/settings',
    ]
    const paths = who === 'odo.reed' ? leadsOwn : who === 'lena.moss' ? [...everybody, '/day', '/insights', '/jobs/new'] : everybody
    const given = options.colorScheme!
    for (const path of paths) {
      await page.emulateMedia({ colorScheme: given })
      await visit(page, path)
      await page.waitForTimeout(350)
      await accessible(page)
      const overflow = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)
      expect(`${path} overflows by ${Math.max(0, overflow)}`).toBe(`${path} overflows by 0`)
      // A phone looks at what everybody sees by night; a desk by day, and at what is its own by night, too.
      if (options === phone || everybody.includes(path)) continue
      await page.emulateMedia({ colorScheme: given === 'dark' ? 'light' : 'dark' })
      // Colours that change slowly have changed.
      await page.waitForTimeout(350)
      await accessible(page, 'contrast')
    }
    expect(faultsOf(page)).toEqual([])
  })
}

test('big targets: whatever is pressed in the field is at least 44 px high on a phone', async ({ browser }) => {
  const page = await person(browser, 'bram.ash', phone)
  const arch = await boxPath(page, 'The Net Loft', 'nook arch')
  const loft = arch.split('/box/')[0]!
  const studio = `/jobs/${await jobAt(page, 'School studio 5')}`
  const small: string[] = []
  for (const path of [
    arch,
    arch.replace('/box/', '/wiring/'),
    loft,
    `${loft}/panel`,
    `${loft}/survey`,
    arch.replace('/box/', '/survey?box='),
    `${loft}/tracing`,
    `${studio}/tests`,
    `${studio}/handover`,
    `${loft}/windows`,
    `${loft}/names`,
    `${loft}/schedules`,
    '/my-day',
    '/callbacks',
    '/practice',
  ]) {
    await visit(page, path)
    await page.waitForTimeout(350)
    const found = await page.locator('main button:visible, main a[data-slot="base"]:visible, nav a:visible').evaluateAll((nodes) =>
      nodes
        // The box of a tick is pressed by its words, and they are as high as their row.
        .filter((node) => node.getAttribute('role') !== 'checkbox')
        .map((node) => ({ text: node.textContent!.trim() || node.getAttribute('aria-label'), height: node.getBoundingClientRect().height }))
        // What was replaced while it was looked at has no height any more.
        .filter((node) => node.height > 0 && node.height < 43.5)
        .map((node) => `${node.text} ${Math.round(node.height)}`),
    )
    small.push(...found.map((one) => `${path}: ${one}`))
  }
  expect(small).toEqual([])
})

test('keyboard: palette, key sheet, going places, the alarm', async ({ browser }) => {
  const page = await person(browser, 'lena.moss', desk, '/my-day')
  await expect(page.getByRole('navigation', { name: 'Main' })).toBeVisible()
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog')).toContainText('If something is wrong with the power')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await page.keyboard.press('g')
  await page.keyboard.press('j')
  await expect(page).toHaveURL(/\/jobs$/)
  await page.keyboard.press('/')
  await expect(page.getByRole('dialog')).toBeVisible()
  await expect(page.getByRole('dialog').getByPlaceholder(/^Number, home/)).toBeFocused()
  await page.keyboard.type('boathouse')
  await expect(page.getByRole('option')).toHaveCount(1)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('points in 2 boxes')
  await accessible(page)
  // Stop work is one key away on every job screen.
  await page.getByRole('button', { name: 'Stop', exact: true }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog')).toContainText('Hands off, step back.')
  await expect(page.getByTestId('stopped')).toContainText('Work is stopped.')
  await page.getByLabel('Why work restarts').fill('only a trial')
  await page.getByRole('button', { name: 'Restart work' }).click()
  await expect(page.getByTestId('stopped')).toBeHidden()
})

test('search and status find jobs; an unknown job says so', async ({ browser }) => {
  const page = await person(browser, 'lena.moss', desk)
  await page.goto('/jobs')
  await page.getByLabel('Find a job').fill('Schoolhouse Lane')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('2 jobs')
  await page.getByLabel('Find a job').fill('nothing like this')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('No job fits')
  await page.goto('/jobs/01890000-0000-7000-8000-000000000000')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('This job cannot be shown.')
})

test('a phone that was away catches up by itself, and says that it was away', async ({ browser }) => {
  const ben = await person(browser, 'kit.ivers', lonePhone)
  const odo = await person(browser, 'odo.reed', desk)
  const path = `/jobs/${await jobAt(odo, 'Heron House')}`
  await ben.goto(path)
  await expect(ben.getByRole('button', { name: /^15: LIVE/ })).toBeVisible()
  await odo.goto(path)
  await loseNetwork(ben)
  await odo.getByTestId('circuit-15').click()
  await odo.getByRole('button', { name: /^I opened breaker/ }).click()
  await expect(odo.getByTestId('circuit-15')).toContainText('OPEN, NOT PROVEN')
  // Without a connection nobody gets leave; what was seen waits on the phone and says so.
  await ben.getByRole('button', { name: /^15: LIVE/ }).click()
  await expect(ben.getByRole('button', { name: /^I opened breaker/ })).toBeVisible()
  await ben.getByRole('button', { name: 'Found it tripped' }).click()
  await expect(ben.getByTestId('sync')).toContainText('with 1 pending')
  await ben.keyboard.press('Escape')
  await ben.context().setOffline(false)
  await expect(ben.getByTestId('sync')).toHaveText('live', { timeout: 30_000 })
  await expect(ben.getByRole('button', { name: /^15: TRIPPED/ })).toBeVisible({ timeout: 30_000 })
  await odo.keyboard.press('Escape')
  await odo.getByTestId('circuit-15').click()
  // The late word makes it stricter: a trip has a cause, and it is written down before anyone closes.
  await odo.getByLabel('Why did it trip?').fill('thumbed by mistake in the dark')
  await odo.getByRole('button', { name: 'Record the cause' }).click()
  await odo.getByRole('button', { name: 'Ask to close breaker 15' }).click()
  await odo.getByRole('button', { name: 'It is closed' }).click()
  await expect(ben.getByRole('button', { name: /^15: LIVE/ })).toBeVisible()
})

/** Everything a page says: what is read, and what is read out. */
const saidOn = (page: Page): Promise<string> =>
  page.evaluate(() => {
    for (const details of document.querySelectorAll('details')) details.open = true
    const spoken = [...document.querySelectorAll('[aria-label], [title], [placeholder], [alt]')].flatMap((node) =>
      ['aria-label', 'title', 'placeholder', 'alt'].map((name) => node.getAttribute(name) ?? ''),
    )
    return `${document.title}\n${document.body.innerText}\n${[...document.querySelectorAll('svg text')].map((node) => node.textContent).join('\n')}\n${spoken.join('\n')}`
  })

for (const [branch, who, site, others] of [
  ['230 V', 'sefa.vale', 'The Lamp Store', /\b(breakers?|panels?|grounds?|travelers?|hots|gfci|[34]-way|\d+:\d\d\s[ap]m)\b/gi],
  ['120/240 V', 'bram.ash', 'The Net Loft', /\b(mcbs?|consumer units?|earths?|strappers?|rcds?|(1[3-9]|2[0-3]):\d\d)\b/gi],
] as const)
  test(`a branch at ${branch} reads the words and the clock of its own, on every screen`, async ({ browser }) => {
    const page = await person(browser, who, desk)
    const job = `/jobs/${await jobAt(page, site)}`
    const { siteState } = (await (await page.request.get(`/api${job}`)).json()) as { siteState: { boxes: Record<string, unknown> } }
    const boxes = Object.keys(siteState.boxes).slice(0, 2)
    const places = [
      '',
      '/panel',
      '/survey',
      '/tests',
      '/handover',
      '/history',
      '/tracing',
      '/directory',
      ...boxes.flatMap((id) => [`/box/${id}`, `/wiring/${id}`, `/survey?box=${id}`]),
    ]
    const found: string[] = []
    const look = async (place: string) => {
      const said = (await saidOn(page)).replace(/main earth bar/g, '')
      found.push(...[...(said.match(/\{[A-Za-z0-9 -]+\}/g) ?? []), ...(said.match(others) ?? [])].map((word) => `${place}: ${word}`))
    }
    for (const path of [
      '/my-day',
      '/jobs',
      '/callbacks',
      '/settings?part=testers',
      '/settings?part=catalogue',
      ...places.map((place) => `${job}${place}`),
    ]) {
      await visit(page, path)
      await page.waitForTimeout(350)
      await look(path)
    }
    await page.goto(`${job}/panel`)
    await page.getByTestId('panel-7').click()
    await expect(page.getByRole('dialog')).toBeVisible()
    await page.waitForTimeout(350)
    await look('the sheet of a circuit')
    await page.keyboard.press('Escape')
    await page.keyboard.press('?')
    await expect(page.getByRole('dialog')).toBeVisible()
    await look('the key sheet')
    expect(found).toEqual([])
    expect(faultsOf(page)).toEqual([])
  })
