import { expect, test as base, type Browser, type BrowserContext, type BrowserContextOptions, type Page } from '@playwright/test'

export const phone: BrowserContextOptions = { viewport: { width: 390, height: 844 }, hasTouch: true, colorScheme: 'dark' }
/** A phone on a slow line: the record shows what was done before the answer to it arrives. No tap in between may be lost. */
export const slowPhone: Options = { ...phone, answersLateMs: 250 }
export const desk: BrowserContextOptions = { viewport: { width: 1280, height: 800 }, colorScheme: 'light' }

/** A phone that loses its network and opens all the same: it keeps the program, which takes a browser two seconds. */
export const lonePhone: Options = { ...phone, keepsProgram: true }

interface Options extends BrowserContextOptions {
  keepsProgram?: boolean
  /** Answers to everything but questions come so much later than the server gave them. CIRCUITRY_TEST_SLOW_MS says it for every page. */
  answersLateMs?: number
}
const opened: BrowserContext[] = []
/** Open pages keep their live connection: none outlives its test. */
export const test = base.extend<{ closing: undefined }>({
  closing: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads from this pattern which fixtures one needs: none.
    async ({}, use) => {
      await use(undefined)
      for (const context of opened.splice(0)) await context.close()
    },
    { auto: true },
  ],
})

/** A browser of one's own on one of the two servers. */
export async function browserOf(
  browser: Browser,
  { answersLateMs = Number(process.env.CIRCUITRY_TEST_SLOW_MS ?? 0), keepsProgram = false, ...options }: Options,
): Promise<Page> {
  const context = await browser.newContext({ serviceWorkers: keepsProgram ? 'allow' : 'block', ...options })
  opened.push(context)
  if (answersLateMs)
    await context.route('**/api/**', async (route) => {
      if (route.request().method() === 'GET') return route.fallback()
      const answer = await route.fetch()
      const given = { status: answer.status(), headers: answer.headers(), body: await answer.body() }
      await new Promise((go) => setTimeout(go, answersLateMs))
      // The page may be closed by now.
      await route.fulfill(given).catch(() => undefined)
    })
  await context.addInitScript(watchWords)
  const page = await context.newPage()
  watch(page)
  void watchFrames(page)
  return page
}

/** So long a page may show no new frame, and so often that is looked at, ms. */
const [longestStill, lookEvery] = [6_000, 8_000]
/**
 * A browser without a screen sometimes stops drawing a page, and then nothing on it ever holds still for a click. That is no
 * fault of the program: the page is brought to the front, which makes it draw again, and it is said, so that nobody wonders.
 */
async function watchFrames(page: Page): Promise<void> {
  const wait = (ms: number) => new Promise<'still'>((go) => setTimeout(() => go('still'), ms).unref())
  while (!page.isClosed()) {
    await wait(lookEvery)
    const drawn = page.evaluate(() => new Promise<'drawn'>((go) => requestAnimationFrame(() => go('drawn')))).catch(() => 'drawn' as const)
    if ((await Promise.race([drawn, wait(longestStill)])) === 'drawn' || page.isClosed()) continue
    process.stderr.write(`no frame for ${longestStill / 1000} s: ${page.url()}\n`)
    await page.bringToFront().catch(() => undefined)
    await page.screenshot({ timeout: longestStill }).catch(() => undefined)
  }
}

/** In the page: a word of the trade that a screen leaves in its braces is a fault. */
function watchWords(): void {
  const left = /\{(?:an? )?(?:breakers?|panels?|panel-tab|main|grounds?|hots|travelers?|[34]-way|rcd)\}/i
  const look = (said: string | null) => {
    if (left.test(said ?? '')) console.error(`left in braces: ${left.exec(said!)![0]} in ${said!.trim().slice(0, 80)}`)
  }
  const lookAt = (node: Node) => {
    look(node.textContent)
    if (node instanceof Element) for (const { value } of node.attributes) look(value)
  }
  new MutationObserver((changes) => {
    for (const { target, addedNodes, type, attributeName } of changes)
      if (type === 'attributes') look((target as Element).getAttribute(attributeName!))
      else if (type === 'characterData') look(target.textContent)
      else addedNodes.forEach(lookAt)
  }).observe(document, { subtree: true, childList: true, characterData: true, attributes: true })
}

/** What a page did that no page may do: errors on the console, requests to anywhere else. */
const faults = new WeakMap<Page, string[]>()

function watch(page: Page): void {
  const list: string[] = []
  faults.set(page, list)
  page.on('console', (message) => {
    // The browser itself logs answers like 409; they are shown in the interface and are no fault of the page.
    if (message.type() === 'error' && !/Failed to load resource/.test(message.text())) list.push(`console: ${message.text()}`)
  })
  page.on('pageerror', (error) => list.push(`error: ${error.message}`))
  page.on('request', (request) => {
    const { hostname, protocol } = new URL(request.url())
    if (hostname !== '127.0.0.1' && protocol !== 'data:' && protocol !== 'blob:') list.push(`outside: ${request.url()}`)
  })
}

export const faultsOf = (page: Page): string[] => faults.get(page) ?? []

/**
 * A person in a browser of their own, logged in without the page for it, which has a journey of its own: nothing of the program is
 * open yet, and the first `goto` opens it, or `at` does.
 */
export async function person(browser: Browser, login: string, options: Options, at?: string): Promise<Page> {
  const page = await browserOf(browser, { baseURL: process.env.CIRCUITRY_TEST_URL, ...options })
  await page.goto('/mark.svg')
  expect(await ask(page, '/api/auth/login', { login, password: 'tide-and-lantern' })).toHaveProperty('viewer')
  if (at) await page.goto(at)
  return page
}
/** Goes to a place as by a link: the program stays. Opens it where none is open yet. */
export async function visit(page: Page, path: string): Promise<void> {
  interface Program {
    $router: { push(to: string): Promise<unknown> }
    _route: { fullPath: string }
  }
  const open = await page.evaluate(() => 'useNuxtApp' in window)
  if (open)
    await page.evaluate(async (to) => {
      await (window as unknown as { useNuxtApp(): Program }).useNuxtApp().$router.push(to)
    }, path)
  else await page.goto(path)
  await page.waitForFunction((to) => (window as unknown as { useNuxtApp(): Program }).useNuxtApp()._route.fullPath === to, path)
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
}
export async function fillPassword(page: Page): Promise<void> {
  await page.getByLabel('Password').fill('tide-and-lantern')
  await page.getByRole('button', { name: 'Log in' }).click()
  await expect(page).toHaveURL(/day$/)
}

/** Asks the server as this page's person, from the page itself. */
export const ask = <T>(page: Page, path: string, body?: unknown): Promise<T> =>
  page.evaluate(
    async ([url, data]) =>
      (
        await fetch(url as string, {
          method: data ? 'POST' : 'GET',
          headers: data ? { 'content-type': 'application/json' } : {},
          body: data ? JSON.stringify(data) : undefined,
        })
      ).json(),
    [path, body ?? null] as const,
  ) as Promise<T>

/** Types a number on the big keys and presses the button below them. */
export async function enter(page: Page, value: string, button: RegExp | string): Promise<void> {
  const field = page.locator('.entry input')
  const keys = async () => {
    for (const key of value) await page.getByRole('button', { name: key === '.' ? 'point' : key, exact: true }).click()
  }
  await keys()
  // As a person does it: looks at what stands there. A machine that is busy with much else may not take a key.
  if ((await field.count()) === 1 && (await field.inputValue()) !== value) {
    console.log(`typed again: ${await field.inputValue()} stood there for ${value}`)
    await field.fill('')
    await keys()
    await expect(field).toHaveValue(value)
  }
  await page.getByRole('button', { name: button }).click()
}

/** Picks an entry of a select. */
export async function pick(page: Page, label: string | RegExp, option: string | RegExp): Promise<void> {
  const list = page.getByRole('combobox', { name: label })
  if (await list.evaluate((element) => element instanceof HTMLSelectElement)) {
    await list.selectOption({ label: String(option) })
    return
  }
  await list.click()
  await page.getByRole('option', { name: option }).first().click()
}

/** The newest job at a home of the demo. */
export async function jobAt(page: Page, site: string): Promise<string> {
  const { jobs } = (await (await page.request.get('/api/jobs')).json()) as { jobs: { id: string; siteName: string; title: string }[] }
  return jobs.find((job) => job.siteName === site && !job.title.startsWith('Seed'))!.id
}

/** The network goes, once this device keeps the newest record of the page's job and every file it opens later. */
export async function loseNetwork(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds))
    await Promise.race([
      navigator.serviceWorker.ready,
      pause(30_000).then(() => Promise.reject(new Error('This browser does not keep the program: it is no lonePhone.'))),
    ])
    const jobId = location.pathname.split('/')[2]
    if (!jobId || !location.pathname.startsWith('/jobs/')) return
    interface Page {
      jobState: { seq: number }
      siteState: { seq: number }
    }
    const kept = () =>
      new Promise<Page | null>((resolve) => {
        const opening = indexedDB.open('circuitry')
        opening.onerror = () => resolve(null)
        opening.onsuccess = () => {
          const base = opening.result
          const done = (page: Page | null) => (base.close(), resolve(page))
          if (!base.objectStoreNames.contains('jobs')) return done(null)
          const asking = base.transaction('jobs').objectStore('jobs').getAll()
          asking.onsuccess = () => done((asking.result as { jobId: string; page: Page }[]).find((one) => one.jobId === jobId)?.page ?? null)
          asking.onerror = () => done(null)
        }
      })
    const newest = ((await (await fetch(`/api/jobs/${jobId}`)).json()) as Page) ?? null
    for (let round = 0; round < 100; round++) {
      const page = await kept()
      if (page && page.jobState.seq >= newest.jobState.seq && page.siteState.seq >= newest.siteState.seq) return
      await pause(300)
    }
    throw new Error('This device does not keep the newest record.')
  })
  await page.waitForTimeout(2000)
  await page.context().setOffline(true)
  await expect(page.getByTestId('sync')).toContainText(/offline since \d+:\d\d/)
}

/** Schedules what the form says; the demo’s crews have a day of their own, and are booked all the same. */
export async function schedule(page: Page): Promise<void> {
  const button = page.locator('form').getByRole('button', { name: 'Schedule the visit' })
  const anyway = page.getByRole('button', { name: 'Book them anyway' })
  await button.click()
  await expect(async () => {
    if (await anyway.isVisible()) await anyway.click()
    expect(await button.isVisible()).toBe(false)
  }).toPass()
}

/** Somebody signs on the glass, with their whole name. */
export async function sign(page: Page): Promise<void> {
  const glass = page.getByTestId('signature')
  // To the middle, clear of what sticks to the edges, and where it comes to rest: what is above it may still be coming in.
  let last = ''
  await expect
    .poll(async () => {
      const before = last
      await glass.evaluate((node) => node.scrollIntoView({ block: 'center' }))
      last = JSON.stringify(await glass.boundingBox())
      return last === before
    })
    .toBe(true)
  const { x, y } = (await glass.boundingBox())!
  for (const top of [40, 100]) {
    await page.mouse.move(x + 20, y + top)
    await page.mouse.down()
    for (let step = 0; step < 24; step++) await page.mouse.move(x + 20 + step * 8, y + top + 18 * Math.sin(step / 2))
    await page.mouse.up()
  }
}

/** Taps, and waits until the server has it: leaving the page before would leave it undone. */
export async function tapStored(page: Page, button: string | RegExp): Promise<void> {
  const stored = page.waitForResponse((answer) => answer.url().includes('/api/commands') && answer.request().method() === 'POST')
  await page.getByRole('button', { name: button }).click()
  expect((await stored).ok()).toBe(true)
}
/** Waits until the server has what a page gave, before the page is left: it shows it sooner. */
export const atServer = async (page: Page, path: string, said: RegExp): Promise<void> => {
  await expect.poll(async () => JSON.stringify(await (await page.request.get(`/api${path}`)).json())).toMatch(said)
}
