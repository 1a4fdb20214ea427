// Takes docs/screenshots/ anew from a running demo (npm start -- --fresh --years first: insights need a past). Look at each one afterwards.
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { root, say } from './lib/host.mjs'

const base = process.argv[2] ?? 'http://127.0.0.1:4620'
const folder = join(root, 'docs/screenshots')
mkdirSync(folder, { recursive: true })
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
})

async function person(login, options) {
  const context = await browser.newContext({ baseURL: base, ...options })
  const page = await context.newPage()
  await page.goto('/login')
  await page.getByLabel('Login').fill(login)
  await page.getByLabel('Password').fill('tide-and-lantern')
  await page.getByRole('button', { name: 'Log in' }).click()
  await page.waitForURL(/day$/)
  const { jobs } = await (await page.request.get('/api/jobs')).json()
  const job = (title) => `/jobs/${jobs.find((entry) => entry.title.startsWith(title)).id}`
  const box = async (title, name) => {
    const { siteState } = await (await page.request.get(`/api${job(title)}`)).json()
    return `${job(title)}/box/${Object.values(siteState.boxes).find((entry) => entry.name === name).id}`
  }
  const shoot = async (name, path, prepare) => {
    await page.goto(path)
    await page.getByRole('heading', { level: 1 }).waitFor()
    await page.waitForTimeout(1200)
    await prepare?.(page)
    await page.waitForTimeout(400)
    await page.screenshot({ path: join(folder, `${name}.png`) })
    say(name)
  }
  return { page, job, box, shoot }
}

const desk = { viewport: { width: 1280, height: 800 }, colorScheme: 'light' }
const phone = { viewport: { width: 390, height: 844 }, colorScheme: 'dark', hasTouch: true }
const office = await person('lena.moss', desk)
await office.shoot('day', '/day', (page) =>
  page
    .getByRole('button', { name: 'Show the map' })
    .waitFor()
    .then(() => page.waitForTimeout(2500)),
)
await office.shoot('insights', '/insights', (page) => page.getByRole('button', { name: /Rowan/ }).first().click())
const bram = await person('bram.ash', desk)
await bram.shoot('job', bram.job('Net loft'))
await bram.shoot('survey', `${(await bram.box('Net loft', 'nook arch')).replace('/box/', '/survey?box=')}`)
await bram.shoot('bench', await bram.box('Net loft', 'stair head'))
const odo = await person('odo.reed', desk)
await odo.shoot('tests', `${odo.job('Studio 5')}/tests`)
await odo.shoot('windows', `${odo.job('Ferry Office')}/windows`, (page) => page.getByText('Take it up').click())
await odo.shoot('schedules', `${odo.job('Net loft')}/schedules`, (page) =>
  page.getByRole('button', { name: 'Look at the day' }).first().waitFor(),
)
await odo.shoot('handover', `${odo.job('Studio 5')}/handover`)
await office.shoot('call', '/call', async (page) => {
  await page.getByLabel('Which device? Customer, street, room, name or serial').fill('tide house tide room')
  await page.locator('.pick').first().click()
  await page.getByRole('button', { name: 'the app does not reach it' }).click()
})
const field = await person('bram.ash', phone)
await field.shoot('phone-my-day', '/my-day')
await field.shoot('phone-visit', `${field.job('Net loft')}/visit`, async (page) => {
  await page.getByRole('region', { name: 'Enough for today' }).waitFor()
  await page.getByRole('region', { name: 'Enough for today' }).scrollIntoViewIfNeeded()
})
await bram.shoot('panel', `${bram.job('Net loft')}/panel`)
const lead = await person('odo.reed', phone)
await lead.shoot('phone-tracing', `${lead.job('Lock Cottage')}/tracing`)
await lead.shoot('phone-offline', lead.job('Heron House'), async (page) => {
  await page.waitForTimeout(4000)
  await page.context().setOffline(true)
  await page.getByTestId('sync').filter({ hasText: 'offline' }).waitFor({ timeout: 40_000 })
  await page.getByRole('group', { name: 'Power at this site' }).getByRole('button').last().click()
  await page.getByRole('button', { name: /^I opened breaker/ }).click()
  await page.keyboard.press('Escape')
  await page.getByTestId('sync').filter({ hasText: '1 pending' }).waitFor()
})
const quay = await person('sefa.vale', phone)
await quay.shoot('phone-proof', await quay.box('Lamp Store', 'till'), async (page) => {
  await page.getByTestId('last-reading').scrollIntoViewIfNeeded()
  await page.evaluate(() =>
    window.scrollTo(0, document.querySelector('[data-testid=proof-stage]').getBoundingClientRect().top + window.scrollY - 130),
  )
})
// A plan that was worked out to its end, and what a customer sees of it.
await office.shoot('plan', office.job('Net loft') + '/plan', async (page) => {
  await page.getByTestId('buys').waitFor()
  await page.waitForTimeout(2500)
})
await office.page.getByRole('radio', { name: 'least money now' }).check()
await office.page.getByLabel('Options to tick come from').click()
await office.page.getByRole('option', { name: 'most comfort' }).click()
await office.page.getByRole('button', { name: 'Make the offer' }).click()
const link = await office.page.getByRole('link', { name: 'Customer’s page' }).getAttribute('href')
const customer = await browser.newContext({ baseURL: base, ...phone, colorScheme: 'light' })
const offer = await customer.newPage()
await offer.goto(link)
await offer.getByTestId('offer-total').waitFor()
await offer.getByRole('checkbox', { name: /^Porch lantern/ }).click()
await offer.screenshot({ path: join(folder, 'phone-offer.png') })
say('phone-offer')
await office.shoot('stock', '/stock')
await browser.close()
