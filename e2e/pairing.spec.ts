import { expect, type Page } from '@playwright/test'
import zxing from '@zxing/library'
import { inventedCode } from '../core/testing/codes'
import { accessible } from './support/accessible'
import { homeJob } from './support/box'
import { giving, type JobRecord } from './support/give'
import { ask, desk, person, phone, test } from './support/people'

/** The published sample of the open home standard’s reference SDK. */
const publishedCode = 'MT:Y.K9042C00KA0648G00'
/** What a camera reads from the square code on a page: its modules drawn on a grid, four points each. */
async function squareRead(page: Page): Promise<string> {
  const modules = await page
    .getByRole('img', { name: 'Square code' })
    .locator('rect')
    .evaluateAll((nodes) => nodes.map((node) => ['x', 'y', 'width', 'height'].map((name) => Number(node.getAttribute(name)))))
  const side = 260
  const light = new Uint8ClampedArray(side * side).fill(255)
  for (const [x, y, width, height] of modules)
    for (let row = Math.round(y!); row < Math.round(y! + height!); row++)
      light.fill(0, row * side + Math.round(x!), row * side + Math.round(x! + width!))
  const { BinaryBitmap, HybridBinarizer, QRCodeReader, RGBLuminanceSource } = zxing
  const source = new RGBLuminanceSource(light, side, side)
  return new QRCodeReader().decode(new BinaryBitmap(new HybridBinarizer(source))).getText()
}
const now = (page: Page) => page.getByTestId('pair-now')
const strip = (page: Page, serial: string) => page.getByTestId(`strip-${serial}`)

test('three devices are powered and paired inside their windows; one on the wrong band is rescued; the mate’s phone follows', async ({
  browser,
}) => {
  const office = await person(browser, 'lena.moss', desk)
  const bram = await person(browser, 'bram.ash', phone)
  const kit = await person(browser, 'kit.ivers', desk)
  const jobId = await homeJob(office, ['bram.ash', 'kit.ivers'], {
    boxes: ['tide door', 'sail arch', 'mud porch'].map((name) => ({ name, breakers: ['2'] })),
  })
  const give = giving(bram, jobId)
  const { siteState, jobState } = await ask<JobRecord>(bram, `/api/jobs/${jobId}`)
  const breakerId = Object.values(siteState.breakers).find(({ number }) => number === '2')!.id
  const { catalogue } = await ask<{ catalogue: { id: string; name: string }[] }>(bram, '/api/catalogue')
  const modelId = (name: string) => catalogue.find((model) => model.name === name)!.id
  const tag = Date.now() % 100_000
  const devices = [
    ['tide door', 'Tide switch, with neutral'],
    ['sail arch', 'Rowan dimmer, deep'],
    ['mud porch', 'Tide switch, with neutral'],
  ] as const
  await give('site', { type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' })
  for (const [index, [name, model]] of devices.entries()) {
    const boxId = Object.values(siteState.boxes).find((box) => box.name === name)!.id
    const pointIds = Object.values(jobState.points).flatMap((point) =>
      point.controls.some((one) => one.boxId === boxId) ? [point.id] : [],
    )
    await give('job', { type: 'chooseDevice', boxId, gang: 1, modelId: modelId(model), pointIds })
    const code = index === 2 ? publishedCode : inventedCode((tag % 8000) + index)
    const unit = { unitId: crypto.randomUUID(), boxId, gang: 1, serial: `WX-${tag}-${index}`, setupCode: code, setupCodeAgain: code }
    await give('job', { type: 'recordUnit', ...unit })
  }
  const serial = (index: number) => `WX-${tag}-${index}`

  await test.step('without power nothing burns; what is settled first is kept', async () => {
    for (const page of [bram, kit]) {
      await page.goto(`/jobs/${jobId}/tests`)
      await page.getByRole('link', { name: 'Pairing windows' }).click()
      await expect(page.getByTestId('windows-sentence')).toHaveText('3 devices wait for power.')
    }
    const before = kit.getByTestId('before-pairing')
    await before.getByRole('button', { name: 'Settle it' }).click()
    await before.getByLabel('Home that is selected in the app').fill('Cottage')
    await before.getByLabel('Network the phone is on').fill('withy-bank')
    await before.getByRole('button', { name: 'where the phone is' }).click()
    await before.getByRole('button', { name: 'Keep it' }).click()
    for (const page of [bram, kit]) await expect(page.getByTestId('before-pairing')).toContainText('Not allowed: where the phone is')
  })

  await test.step('the recorded closing starts the clocks; the shortest window comes first', async () => {
    await give('site', { type: 'observeBreaker', breakerId, state: 'closed', how: 'did', note: '' })
    for (const page of [bram, kit]) {
      await expect(now(page)).toContainText('Sail light')
      await expect(now(page)).toContainText(/11:\d\d left/)
      await expect(strip(page, serial(0))).toContainText(/14:\d\d left/)
    }
    await accessible(bram)
    // A code behind the plate is shown as it was scanned: a camera reads the same again.
    await strip(kit, serial(2)).getByRole('button', { name: 'Mud light first' }).click()
    await now(kit).getByRole('button', { name: 'Show it' }).click()
    await expect(kit.getByRole('img', { name: 'Square code' }).locator('rect').first()).toBeAttached()
    expect(await squareRead(kit)).toBe(publishedCode)
    // On every other page of the job it is one line.
    await kit.goto(`/jobs/${jobId}`)
    await expect(kit.getByTestId('window-open')).toContainText('left to pair Sail light')
    await kit.getByTestId('window-open').click()
  })

  await test.step('by hand in three taps', async () => {
    await now(bram).getByRole('button', { name: 'Saw it', exact: true }).click()
    await expect(now(bram)).toContainText('Give it two minutes')
    // What a mate joins is not offered to the other: the next one is.
    await expect(strip(kit, serial(1))).toContainText('BA is pairing it')
    await expect(now(kit)).not.toContainText('Sail light')
    await now(bram).getByRole('button', { name: 'It is paired' }).click()
    await expect(now(bram)).toContainText('On withy-bank.')
    await now(bram).getByRole('group', { name: 'Bars at the device' }).getByRole('button', { name: '3' }).click()
    await expect(now(bram)).not.toContainText('Sail light')
    await bram.getByRole('button', { name: /^“sail room sail light”$|^“.*sail light”$/ }).click()
    await expect(kit.getByText(/sail light/i).first()).toBeVisible()
  })

  await test.step('one finds no network: the band is looked at first, 5 GHz is paused, and it pairs', async () => {
    await now(bram).getByRole('button', { name: 'Saw it', exact: true }).click()
    await now(bram).getByRole('button', { name: 'Something else', exact: true }).click()
    await bram.getByTestId('something-else').getByRole('button', { name: 'the app finds no device' }).click()
    await expect(bram.getByTestId('advice')).toContainText('Likeliest')
    const advice = bram.getByTestId('advice')
    await expect(advice.getByRole('heading', { name: 'Phone onto 2.4 GHz' })).toBeVisible()
    await advice.getByRole('button', { name: /5 GHz is paused: start 10 minutes/ }).click()
    for (const page of [bram, kit]) await expect(page.getByTestId('band')).toContainText('5 GHz is paused by BA')
    await advice.getByRole('button', { name: 'Done: try it again' }).click()
    await now(bram).getByRole('button', { name: 'Saw it', exact: true }).click()
    await now(bram).getByRole('button', { name: 'It is paired' }).click()
    await now(bram).getByLabel('dBm at the device').fill('-61')
    await now(bram).getByRole('button', { name: 'Paired', exact: true }).click()
    await expect(kit.getByTestId('windows-sentence')).toContainText('1 device waits')
    await bram.getByTestId('band').getByRole('button', { name: 'It is back on' }).click()
    await expect(kit.getByTestId('band')).toHaveCount(0)
    const learnt = await ask<{ causes: { wifi?: { wrongBand?: number } } }>(bram, '/api/pairings')
    expect(learnt.causes.wifi?.wrongBand ?? 0).toBeGreaterThan(0)
  })

  await test.step('the last is left for later, and taken up again by the mate', async () => {
    const { jobState: then } = await ask<JobRecord>(bram, `/api/jobs/${jobId}`)
    const last = Object.values(then.units).find((unit) => unit.pairing?.result !== 'joined')!
    await now(bram).getByRole('button', { name: 'Saw something else' }).click()
    await bram.getByTestId('something-else').getByRole('button', { name: 'it shows nothing at all' }).click()
    await expect(bram.getByTestId('advice')).toContainText('Look at the power')
    await now(bram).getByRole('button', { name: 'Leave it for later' }).click()
    for (const page of [bram, kit]) {
      await expect(page.getByTestId('windows-sentence')).toHaveText('1 device is left for later.')
      await expect(page.getByTestId(`parked-${last.serial}`)).toContainText('it shows nothing at all; next: Look at the power')
    }
    await kit
      .getByTestId(`parked-${last.serial}`)
      .getByRole('button', { name: /^Take / })
      .click()
    await expect(now(bram)).toContainText('Look at the power')
    // One that is paired again is done with once it is.
    await kit.getByRole('button', { name: /^Pair sail .*again$/i }).click()
    await expect(kit.getByTestId('windows-sentence')).toContainText('again;')
    await now(kit).getByRole('button', { name: 'Saw it', exact: true }).click()
    await now(kit).getByRole('button', { name: 'It is paired' }).click()
    await now(kit).getByRole('group', { name: 'Bars at the device' }).getByRole('button', { name: '3' }).click()
    await expect(kit.getByTestId('windows-sentence')).not.toContainText('again')
    await kit.getByRole('button', { name: 'They are right' }).click()
    await expect(kit.getByRole('button', { name: 'They are right' })).toHaveCount(0)
    await kit.goto(`/jobs/${jobId}/history`)
    await expect(kit.getByText('so that').first()).toBeVisible()
  })
})
