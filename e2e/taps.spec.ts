import { expect, type Browser, type Page } from '@playwright/test'
import type { SiteState } from '../core/site'
import { inventedCode } from '../core/testing/codes'
import { practiceMeter } from '../core/wiring/practice'
import { Follower, type TrueBox } from './support/follow'
import { homeJob } from './support/box'
import { ask, desk, faultsOf, person, phone, test } from './support/people'
import { backStairsTerminals, oneSwitch, practice } from './support/worlds'

// Codes belong to one device each, also where a server is tried more than once.
let units = Date.now() % 8_000
const unit = (model: string) => ({ model, serial: `SN-${++units}`, code: inventedCode(units) })

/** Made at a desk that is left again: nobody has to draw it while the crew works. */
async function jobOfBoth(browser: Browser, of: Parameters<typeof homeJob>[2]): Promise<string> {
  const office = await person(browser, 'lena.moss', desk)
  const jobId = await homeJob(office, ['bram.ash', 'kit.ivers'], of)
  await office.context().close()
  return jobId
}

/** From arriving to power back on, by what the page says next: touches and seconds. */
async function followed(
  browser: Browser,
  of: Parameters<typeof homeJob>[2],
  worlds: Record<string, TrueBox>,
  devices: string[],
  most: number,
) {
  const page = await person(browser, 'bram.ash', phone)
  const jobId = await jobOfBoth(browser, of)
  await page.goto(`/jobs/${jobId}`)
  const hand = new Follower(page, jobId, worlds, devices.map(unit))
  const began = Date.now()
  await hand.until(() => page.getByRole('link', { name: 'Test its points' }).isVisible())
  const what = of.boxes.map(({ name }) => name).join(' and ')
  if (process.env.CIRCUITRY_TEST_PATH) console.log(hand.path.join('\n'))
  console.log(`${what}: ${hand.taps} taps, ${hand.readings} readings by the meter, ${Math.round((Date.now() - began) / 1000)} s`)
  expect(hand.taps, hand.path.join('\n')).toBeLessThanOrEqual(most)
  expect(faultsOf(page)).toEqual([])
  return { page, hand, jobId }
}
const twoAndGround = 'two and ground'
/** Two cables are written down, and the meter is linked: says how a reading is typed. */
async function linkMeter(page: Page): Promise<(value: string) => Promise<void>> {
  const dock = page.getByTestId('next-step')
  for (let cable = 0; cable < 2; cable++) await dock.getByRole('button', { name: twoAndGround }).click()
  await dock.getByRole('button', { name: 'Store 6 conductors' }).click()
  await dock.getByRole('checkbox', { name: 'My meter types its readings here' }).click()
  return async (value) => {
    await page.keyboard.type(value)
    await page.keyboard.press('Enter')
  }
}

test('a simple box, from arriving to power back on, with the wiring bench', async ({ browser }) => {
  const worlds = { 'tide door': { cables: [twoAndGround, twoAndGround], meter: practiceMeter(oneSwitch(), 7) } }
  const { hand } = await followed(browser, { boxes: [{ name: 'tide door', breakers: ['2'] }] }, worlds, ['Tide switch, with neutral'], 40)
  // With the roles known the bench is left out: what was touched from there to the way back is not.
  const touched = hand.path.filter((one) => !one.startsWith('meter'))
  const bench = touched.indexOf('Connect it at the box') - touched.indexOf('To the wiring bench') + 1
  console.log(`with roles known: ${hand.taps - bench} taps`)
  expect(hand.taps - bench).toBeLessThanOrEqual(30)
})

test('two gangs on two feeds', async ({ browser }) => {
  const cables = [twoAndGround, twoAndGround, twoAndGround, twoAndGround]
  const worlds = { 'sail room': { cables, meter: practiceMeter(practice('sail-room'), 7) } }
  const devices = ['Tide switch, with neutral', 'Tide switch, with neutral']
  await followed(browser, { boxes: [{ name: 'sail room', breakers: ['2', '4'], gangs: 2 }] }, worlds, devices, 90)
})

test('a 3-way pair, both boxes', async ({ browser }) => {
  const cables = [twoAndGround, 'three and ground']
  const worlds = {
    'back stairs': { cables, meter: practiceMeter(practice('back-stairs'), 7), circuits: { 2: '10' }, terminals: backStairsTerminals },
    'loft stairs': { cables },
  }
  const boxes = [
    { name: 'back stairs', breakers: ['2'] },
    { name: 'loft stairs', breakers: ['2'] },
  ]
  await followed(browser, { boxes, together: true }, worlds, ['Relay module, one channel'], 130)
})

test('a double tap and a hurried meter: nothing counts that nobody has read', async ({ browser }) => {
  const page = await person(browser, 'bram.ash', { ...phone, answersLateMs: 250 })
  const jobId = await jobOfBoth(browser, { boxes: [{ name: 'sail room', breakers: ['2', '4'], gangs: 2 }] })
  const record = () => ask<{ siteState: SiteState }>(page, `/api/jobs/${jobId}`).then(({ siteState }) => siteState)
  const breaker = async (number: string) => Object.values((await record()).breakers).find((one) => one.number === number)!.state
  await page.goto(`/jobs/${jobId}`)
  const dock = page.getByTestId('next-step')
  await dock.getByRole('button', { name: 'I have arrived' }).click()
  await dock.getByRole('link', { name: 'Go to sail room' }).click()

  await test.step('the second half of a double tap opens no other breaker in the record', async () => {
    const opened = dock.getByRole('button', { name: /^I opened breaker/ })
    const at = (await opened.boundingBox())!
    const [x, y] = [at.x + at.width / 2, at.y + at.height / 2]
    // As fast as the next one comes to stand there.
    await page.mouse.click(x, y)
    await expect(dock.getByRole('button', { name: 'I opened breaker 4' })).toBeVisible()
    await page.mouse.click(x, y)
    await page.keyboard.press('Enter')
    await page.waitForTimeout(700)
    expect([await breaker('2'), await breaker('4')]).toEqual(['open', 'closed'])
    await dock.getByRole('button', { name: 'I opened breaker 4' }).click()
    for (const number of ['2', '4']) {
      await dock.getByLabel('Your lock').fill(`BA red ${number}`)
      await dock.getByRole('button', { name: `Hang my tag on ${number}` }).click()
    }
  })

  await test.step('readings that come faster than they are stored are taken in order, each for its own pair', async () => {
    const say = await linkMeter(page)
    for (const [label, value] of [
      ['It shows', '238'],
      ['Line to neutral there', '121'],
      ['Reference to that line', '120.4'],
      ['Reference to that neutral', '0.5'],
    ] as const) {
      await expect(dock.locator('label.entry b').first()).toContainText(label)
      await say(value)
    }
    await expect(dock.locator('label.entry b').first()).toContainText('A black → reference')
    for (const value of ['0.1', '0.2', '0.3', '0.4']) await say(value)
    await expect(dock.locator('label.entry b').first()).toContainText('F bare → reference')
    const readings = Object.values((await record()).proofs).at(-1)!.readings
    expect(readings.map(({ a, volts }) => `${a} ${volts}`)).toEqual(['A 0.1', 'B 0.2', 'D 0.3', 'E 0.4'])
    // One that is not dead stops the proof: what was read after it, at other places, is taken for none of them.
    for (const value of ['14.2', '0.2', '0.2']) await say(value)
    const proof = () => record().then(({ proofs }) => Object.values(proofs).at(-1)!)
    await expect.poll(() => proof().then(({ status }) => status)).toBe('void')
    await page.waitForTimeout(700)
    expect((await proof()).readings.slice(4).map(({ a, volts }) => `${a} ${volts}`)).toEqual(['F 14.2'])
  })
  expect(faultsOf(page)).toEqual([])
})

test('a linked meter: units count, what it cannot mean is not taken, nor anything after it; a reload loses nothing', async ({
  browser,
}) => {
  const page = await person(browser, 'bram.ash', phone)
  const jobId = await jobOfBoth(browser, { boxes: [{ name: 'tide door', breakers: ['2'] }] })
  const record = () => ask<{ siteState: SiteState }>(page, `/api/jobs/${jobId}`).then(({ siteState }) => siteState)
  const dock = page.getByTestId('next-step')
  const asked = dock.locator('label.entry b').first()
  await page.goto(`/jobs/${jobId}`)
  await dock.getByRole('button', { name: 'I have arrived' }).click()
  await dock.getByRole('link', { name: 'Go to tide door' }).click()
  await dock.getByRole('button', { name: 'I opened breaker 2' }).click()
  await dock.getByLabel('Your lock').fill('BA red 7')
  await dock.getByRole('button', { name: 'Hang my tag on 2' }).click()
  const say = await linkMeter(page)
  for (const [label, value] of [
    ['It shows', '238'],
    ['Line to neutral there', '0.121 kV'],
    ['Reference to that line', '1.204E+02'],
    ['Reference to that neutral', '500mV'],
    ['A black → reference', '0.1 V'],
  ] as const) {
    await expect(asked).toContainText(label)
    await say(value)
  }
  await expect(asked).toContainText('B white → reference')
  await page.reload()
  await expect(asked).toContainText('B white → reference')
  // Over the range is no zero; whoever holds the probes goes on, and what they read belongs to other places.
  for (const value of ['OL', '0.1', '0.2']) await say(value)
  await expect(page.getByTestId('unread')).toContainText('that can be full voltage')
  await page.getByRole('button', { name: 'I am back there' }).click()
  // A scanner is no meter, whatever digits it types: all of it in one burst, which a busy machine would draw apart.
  await page.evaluate(() => {
    for (const key of [...'SN:0.25', 'Enter']) document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
  })
  await expect(page.getByTestId('unread')).toContainText('SN:0.25')
  await page.getByRole('button', { name: 'I am back there' }).click()
  await say('300 mV')
  await expect(asked).not.toContainText('B white')
  const { readings, reference } = Object.values((await record()).proofs).at(-1)!
  expect(readings.map(({ a, volts }) => [a, Math.round(volts * 1000)])).toEqual([
    ['A', 100],
    ['B', 300],
  ])
  expect(reference!.seen).toMatchObject({ lineToNeutral: 121, referenceToLine: 120.4, referenceToNeutral: 0.5 })
  expect(faultsOf(page)).toEqual([])
})
