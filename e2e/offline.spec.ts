import { expect, type Page } from '@playwright/test'
import { ask, browserOf, desk, faultsOf, fillPassword, jobAt, loseNetwork, lonePhone, person, test } from './support/people'

interface UnitHere {
  id: string
  serial: string
  name: string
  pairing: { result: string } | null
  removedAt: string | null
}
/** A job of the demo at which this person may work, with a device that has joined its network. */
async function jobWithUnit(page: Page): Promise<{ jobId: string; unit: UnitHere }> {
  const { jobs } = await ask<{ jobs: { id: string; status: string }[] }>(page, '/api/jobs')
  for (const job of jobs.reverse()) {
    const { jobState } = await ask<{ jobState: { units: Record<string, UnitHere> } }>(page, `/api/jobs/${job.id}`)
    const unit = Object.values(jobState.units).find((one) => one.pairing?.result === 'joined' && !one.removedAt)
    if (unit) return { jobId: job.id, unit }
  }
  throw new Error('The demo has no joined device.')
}
const sync = (page: Page, words: string | RegExp) => expect(page.getByTestId('sync')).toContainText(words, { timeout: 30_000 })
async function comeBack(page: Page): Promise<void> {
  await page.context().setOffline(false)
  await live(page)
}
const live = (page: Page) => expect(page.getByTestId('sync')).toHaveText('live', { timeout: 30_000 })

test('a device without room says that nothing was stored, and keeps what was typed', async ({ browser }) => {
  const page = await browserOf(browser, { baseURL: process.env.CIRCUITRY_TEST_URL, ...lonePhone })
  await page.addInitScript(() => {
    const add = IDBObjectStore.prototype.add
    IDBObjectStore.prototype.add = function (...args: Parameters<typeof add>) {
      if (this.name === 'entries' && localStorage.getItem('no-room')) throw new DOMException('no room', 'QuotaExceededError')
      return add.apply(this, args)
    }
  })
  await page.goto('/login')
  await page.getByLabel('Login').fill('odo.reed')
  await fillPassword(page)
  await page.goto(`/jobs/${await jobAt(page, 'Lock Cottage')}`)
  await page.getByRole('group', { name: 'Power at this site' }).getByRole('button').first().click()
  await page.evaluate(() => localStorage.setItem('no-room', 'yes'))
  await loseNetwork(page)
  const button = page.getByRole('button', { name: /^(Found it (CLOSED|open)|I opened breaker)$/ }).first()
  await button.click()
  await expect(page.getByTestId('refusal')).toContainText('This device has no room left: this was NOT stored.')
  await expect(page.getByTestId('sync')).not.toContainText('pending')
  await page.evaluate(() => localStorage.removeItem('no-room'))
  await button.click()
  await sync(page, 'with 1 pending')
  await comeBack(page)
  expect(faultsOf(page)).toEqual([])
})

test('a refused entry stays in sight with its reason, what depends on it waits, the rest goes out', async ({ browser }) => {
  const away = await person(browser, 'odo.reed', lonePhone)
  const path = `/jobs/${await jobAt(away, 'The Boathouse')}`
  await away.goto(path)
  const rail = away.getByRole('group', { name: 'Power at this site' })
  const tile = rail.getByRole('button', { name: /: LIVE$/ }).last()
  const name = (await tile.getAttribute('aria-label'))!.split(':')[0]!
  const circuit = rail.getByRole('button', { name: new RegExp(`^${name}:`) })
  await loseNetwork(away)
  await circuit.click()
  await away.getByRole('button', { name: /^I opened breaker/ }).click()
  await away.getByLabel('Your lock').fill('OR blue 7')
  await away.getByRole('button', { name: 'Hang my tag' }).click()
  await sync(away, 'with 2 pending')
  // Somebody else finds it closed meanwhile: the older "open" changes nothing, and a tag cannot hang on it.
  const mate = await person(browser, 'lena.moss', desk)
  const { siteState } = await ask<{
    siteState: { siteId: string; seq: number; breakers: Record<string, { id: string; number: string }> }
  }>(mate, `/api${path}`)
  const told = await ask<{ status: string }>(mate, '/api/commands', {
    id: crypto.randomUUID(),
    stream: 'site',
    streamId: siteState.siteId,
    at: new Date().toISOString(),
    basedOnSeq: siteState.seq,
    command: {
      type: 'observeBreaker',
      breakerId: Object.values(siteState.breakers).find((breaker) => breaker.number === name)!.id,
      state: 'closed',
      how: 'found',
      note: '',
    },
  })
  expect(told.status).toBe('accepted')
  await away.keyboard.press('Escape')
  await away.context().setOffline(false)
  await sync(away, '1 refused')
  await expect(circuit).toHaveAccessibleName(`${name}: LIVE`)
  await away.getByTestId('sync').click()
  const entry = away.getByTestId('kept-entry')
  await expect(entry).toHaveCount(1)
  await expect(entry).toContainText('refused')
  await expect(entry).toContainText('was found closed')
  // It outlives a reload; a person decides what becomes of it.
  await away.reload()
  await sync(away, '1 refused')
  await away.getByTestId('sync').click()
  await entry.getByRole('button', { name: 'Dismiss' }).click()
  await expect(away.getByText('Everything has been sent.')).toBeVisible()
  await away.keyboard.press('Escape')
  await live(away)
  expect(faultsOf(away)).toEqual([])
})

test('a session that ended asks for the login, and what waited goes out', async ({ browser }) => {
  const page = await person(browser, 'odo.reed', lonePhone)
  const path = `/jobs/${await jobAt(page, 'Lock Cottage')}`
  await page.goto(path)
  await loseNetwork(page)
  await page.getByRole('group', { name: 'Power at this site' }).getByRole('button').first().click()
  await page
    .getByRole('button', { name: /^Found it|^I opened breaker/ })
    .first()
    .click()
  await page.keyboard.press('Escape')
  await sync(page, 'with 1 pending')
  await page.context().clearCookies()
  await page.context().setOffline(false)
  const again = page.getByRole('dialog', { name: 'Log in again' })
  await expect(again).toContainText('1 entry waits to be sent', { timeout: 30_000 })
  await again.getByLabel('Password').fill('wrong one')
  await again.getByRole('button', { name: 'Go on' }).click()
  await expect(again.getByRole('alert')).toBeVisible()
  await again.getByLabel('Password').fill('tide-and-lantern')
  await again.getByRole('button', { name: 'Go on' }).click()
  await expect(again).toBeHidden()
  await live(page)
})

/** Everything this device keeps, as somebody who holds it reads it: databases, caches, what pages keep. */
const leftHere = (page: Page) =>
  page.evaluate(async () => {
    const letters: string[] = []
    const read = (value: unknown): void => {
      if (typeof value === 'string') letters.push(value)
      else if (value instanceof ArrayBuffer || ArrayBuffer.isView(value)) letters.push(new TextDecoder('latin1').decode(value))
      else if (typeof value === 'object' && value !== null)
        for (const [name, part] of Object.entries(value)) {
          letters.push(name)
          read(part)
        }
    }
    for (const { name } of await indexedDB.databases()) {
      const base = await new Promise<IDBDatabase>((resolve, reject) => {
        const opening = indexedDB.open(name!)
        opening.onsuccess = () => resolve(opening.result)
        opening.onerror = () => reject(opening.error as Error)
      })
      for (const store of base.objectStoreNames)
        await new Promise<void>((resolve) => {
          const all = base.transaction(store).objectStore(store).getAll()
          all.onsuccess = () => resolve(read(all.result))
        })
      base.close()
    }
    for (const storage of [localStorage, sessionStorage]) read({ ...storage })
    for (const name of await caches.keys())
      for (const asked of await (await caches.open(name)).keys())
        if (new URL(asked.url).pathname.startsWith('/api/')) letters.push(asked.url)
    return letters.join('\n')
  })

test('two people share one phone: each has a queue of their own, and finds nothing of the other on it', async ({ browser }) => {
  const page = await person(browser, 'odo.reed', lonePhone)
  const path = `/jobs/${await jobAt(page, 'Lock Cottage')}`
  await page.goto(path)
  const { siteState } = await ask<{ siteState: { siteId: string } }>(page, `/api${path}`)
  // Of every window of this phone: another one sends what waits as well.
  await page.context().route('**/api/commands', (route) => route.abort())
  await page.getByRole('group', { name: 'Power at this site' }).getByRole('button').first().click()
  await page
    .getByRole('button', { name: /^Found it|^I opened breaker/ })
    .first()
    .click()
  await page.keyboard.press('Escape')
  await sync(page, '1 left')
  // What somebody was writing, and a network's name.
  const draft = 'a word for the customer'
  await page.evaluate(
    ([who, siteId, text]) => {
      localStorage.setItem(`circuitry-draft ${who} callback`, JSON.stringify({ at: new Date().toISOString(), value: { text } }))
      localStorage.setItem(`circuitry-network-${siteId}`, 'Lock Cottage guests')
    },
    [(await ask<{ viewer: { personId: string } }>(page, '/api/auth/me')).viewer.personId, siteState.siteId, draft] as const,
  )
  const change = async (login: string) => {
    await page.getByRole('button', { name: /: menu$/ }).click()
    await page.getByRole('menuitem', { name: 'Log out' }).click()
    await expect(page.getByTestId('waits-here')).toHaveText(/^1 entry waits on this device, sealed/)
    const left = await leftHere(page)
    for (const seen of ['Lock Cottage', siteState.siteId, 'observeBreaker', draft, 'Odo Reed', '/api/']) expect(left).not.toContain(seen)
    await page.getByLabel('Login').fill(login)
    await fillPassword(page)
  }
  const twin = await page.context().newPage()
  await twin.goto(path)
  await sync(twin, '1 left')
  await change('kit.ivers')
  await live(page)
  // What stood in another window of this phone is gone, too.
  await expect(twin.getByText('Lock Cottage')).toHaveCount(0)
  await twin.close()
  await page.getByTestId('sync').click()
  await expect(page.getByText('Everything has been sent.')).toBeVisible()
  await expect(page.getByTestId('others-wait')).toHaveText('1 entry of Odo Reed waits here, sealed: sent when they log in on this device.')
  await page.keyboard.press('Escape')
  await change('odo.reed')
  await sync(page, '1 left')
  expect(await leftHere(page)).toContain(draft)
  await page.context().unroute('**/api/commands')
  await live(page)
  // The login ends elsewhere while the page is away: whoever opens it next finds nothing either.
  await page.goto(path)
  await expect.poll(() => leftHere(page)).toContain('Lock Cottage')
  await page.context().clearCookies()
  await page.goto('/login')
  await expect(page.getByLabel('Login')).toBeVisible()
  expect(await leftHere(page)).not.toContain('Lock Cottage')
  expect(faultsOf(page)).toEqual([])
})

test('two names for one device, given without knowing of each other, stay both until a person picks', async ({ browser }) => {
  const away = await person(browser, 'odo.reed', lonePhone)
  const here = await person(browser, 'lena.moss', desk)
  const { jobId, unit } = await jobWithUnit(away)
  for (const page of [away, here]) {
    await page.goto(`/jobs/${jobId}/tests`)
    await expect(page.getByTestId(`unit-${unit.serial}`)).toBeVisible()
  }
  const rename = async (page: Page, name: string) => {
    await page.getByLabel(`Name of ${unit.serial}`).fill(name)
    await page.getByTestId(`unit-${unit.serial}`).getByRole('button', { name: 'Name it' }).click()
  }
  await loseNetwork(away)
  await rename(away, 'weather side lamp')
  await sync(away, 'with 1 pending')
  const answer = await ask<{ status: string }>(here, '/api/commands', {
    id: crypto.randomUUID(),
    stream: 'job',
    streamId: jobId,
    at: new Date().toISOString(),
    jobSeq: (await ask<{ jobState: { seq: number } }>(here, `/api/jobs/${jobId}`)).jobState.seq,
    command: { type: 'nameUnit', unitId: unit.id, name: 'harbour beacon', despiteClash: true },
  })
  expect(answer.status).toBe('accepted')
  await comeBack(away)
  for (const page of [away, here]) {
    const contested = page.getByTestId(`unit-${unit.serial}`).getByTestId('contested')
    if (page === away) {
      await expect(contested).toContainText('harbour beacon (LM)')
      await expect(contested).toContainText('weather side lamp (OR)')
    } else await expect(page.getByTestId(`unit-${unit.serial}`)).toContainText('harbour beacon')
  }
  await away
    .getByTestId('contested')
    .getByRole('button', { name: /weather side lamp/ })
    .click()
  await expect(away.getByTestId('contested')).toBeHidden()
  await expect(here.getByTestId(`unit-${unit.serial}`).getByRole('heading')).toContainText('weather side lamp')
})
