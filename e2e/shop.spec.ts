import { chromium, expect } from '@playwright/test'
import { inventedCode } from '../core/testing/codes'
import { practiceMeter } from '../core/wiring/practice'
import { accessible } from './support/accessible'
import { Follower } from './support/follow'
import { homeJob } from './support/box'
import { filmBars } from './support/bars'
import { ask, desk, faultsOf, person, phone, test } from './support/people'
import { oneSwitch } from './support/worlds'

const twoAndGround = 'two and ground'

test('made ready in the shop, on a phone: what failed stays there, at the wall no code is asked, and its own tests are done', async ({
  browser,
}) => {
  const office = await person(browser, 'lena.moss', desk)
  const bram = await person(browser, 'bram.ash', phone)
  const jobId = await homeJob(office, ['bram.ash', 'kit.ivers'], { boxes: [{ name: 'tide door', breakers: ['2'] }] })
  const { jobState, siteState } = await ask<{
    jobState: { points: Record<string, { id: string }> }
    siteState: { boxes: Record<string, { id: string }> }
  }>(office, `/api/jobs/${jobId}`)
  const { catalogue } = await ask<{ catalogue: { id: string; name: string }[] }>(office, '/api/catalogue')
  // Codes belong to one device each, also where a server is tried more than once.
  const tag = Date.now() % 8_000
  await ask(bram, '/api/commands', {
    id: crypto.randomUUID(),
    stream: 'job',
    streamId: jobId,
    at: new Date().toISOString(),
    basedOnSeq: 0,
    jobSeq: 0,
    heldMs: 0,
    command: {
      type: 'chooseDevice',
      boxId: Object.keys(siteState.boxes)[0],
      gang: 1,
      modelId: catalogue.find(({ name }) => name === 'Tide switch, with neutral')!.id,
      pointIds: Object.keys(jobState.points),
    },
  })

  const bag = bram.getByTestId('bag-tide door')
  const prepare = async (serial: string, code: string, lamp: 'Good' | 'Not good') => {
    await bag.getByRole('button', { name: 'Prepare gang 1 of tide door' }).click()
    const form = bram.getByRole('form', { name: /^Prepare / })
    await form.getByLabel('Serial').fill(serial)
    for (const part of ['screws', /^leads/, 'plate of its row', /^code card/])
      await form.getByRole('group', { name: 'In the carton' }).getByRole('button', { name: part, pressed: false }).click()
    await form.getByLabel(/code, 11 or 21|^Another code/).fill(code)
    await form.getByLabel('Runs, after its update').fill('3.1.4')
    await form.getByLabel('Set for this place').fill('off after an interruption')
    await form
      .getByRole('group', { name: /test lamp/ })
      .getByRole('button', { name: lamp, exact: true })
      .click()
    if (lamp === 'Good')
      await form
        .getByRole('group', { name: /Comes back/ })
        .getByRole('button', { name: 'Good', exact: true })
        .click()
    else await form.getByLabel('What did you see?').fill('flickers when warm')
    await form.getByRole('button', { name: 'Store what was done' }).click()
    await expect(form).toHaveCount(0)
  }
  await test.step('the first one fails the lamp, the second is ready', async () => {
    await bram.goto(`/jobs/${jobId}/parts`)
    await bram.getByRole('button', { name: 'By box' }).click()
    await expect(bram.getByRole('heading', { level: 1 })).toHaveText('0 of 1 bag ready.')
    await prepare(`BAD-${tag}`, inventedCode(tag), 'Not good')
    await expect(bag.getByText('left: it failed: flickers when warm')).toBeVisible()
    await bag.getByRole('button', { name: 'Prepare gang 1 of tide door' }).click()
    await accessible(bram)
    await bag.getByRole('button', { name: 'Prepare gang 1 of tide door' }).click()
    await prepare(`GOOD-${tag}`, inventedCode(tag + 1), 'Good')
    await expect(bram.getByRole('heading', { level: 1 })).toHaveText('The bag is ready.')
    const labels = await office.request.get(`/api/jobs/${jobId}/bag-labels`)
    expect([labels.status(), (await labels.body()).subarray(0, 5).toString()]).toEqual([200, '%PDF-'])
  })

  await test.step('at the wall', async () => {
    const worlds = { 'tide door': { cables: [twoAndGround, twoAndGround], meter: practiceMeter(oneSwitch(), 7) } }
    await bram.goto(`/jobs/${jobId}`)
    const hand = new Follower(bram, jobId, worlds, [])
    await hand.until(() => bram.getByRole('link', { name: 'Test its points' }).isVisible())
    expect(hand.path).toContain('It is this one')
  })

  await test.step('the site repeats what depends on the home', async () => {
    await bram.goto(`/jobs/${jobId}/tests`)
    await expect(bram.getByText(`in the shop, as it was set, with serial GOOD-${tag}`)).toBeVisible()
    await expect(bram.getByRole('button', { name: 'Comes back as configured after a power interruption: pass' })).toBeVisible()
  })
  for (const page of [office, bram]) expect(faultsOf(page)).toEqual([])
})

test('the camera reads the bars: a kit comes in as what is in it, though nobody ordered it', async ({ browser }, info) => {
  const office = await person(browser, 'odo.reed', desk)
  const { branches } = await ask<{ branches: { id: string; name: string }[] }>(office, '/api/branches')
  const branchId = branches.find(({ name }) => name === 'Port Sallow')!.id
  type Listed = { id: string; kind: string; gtin: string; contents: { articleId: string; quantity: number }[] }
  const { articles } = await ask<{ articles: Listed[] }>(office, `/api/articles?branchId=${branchId}`)
  const kit = articles.find(({ kind }) => kind === 'kit')!
  const lying = async () => {
    const { lines } = await ask<{ lines: { articleId: string; at: Record<string, number> }[] }>(office, `/api/stock?branchId=${branchId}`)
    return kit.contents.map(({ articleId }) =>
      Object.values(lines.find((line) => line.articleId === articleId)?.at ?? {}).reduce((sum, one) => sum + one, 0),
    )
  }
  const before = await lying()
  const film = info.outputPath('bars.y4m')
  filmBars(kit.gtin.slice(-13), film)
  const withCamera = await chromium.launch({
    executablePath: process.env.CIRCUITRY_CHROMIUM ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-video-capture=${film}`,
    ],
  })
  try {
    const page = await person(withCamera, 'odo.reed', { ...phone, permissions: ['camera'] })
    await page.goto('/stock')
    await page.getByRole('button', { name: /camera/i }).click()
    const sheet = page.getByRole('dialog', { name: /starter kit/ })
    // Of what nobody ordered it is said so first.
    const allTheSame = page.getByRole('button', { name: 'Receive it all the same' })
    await expect(sheet.or(allTheSame)).toBeVisible()
    if (await allTheSame.isVisible()) await allTheSame.click()
    await expect(sheet.getByText(/^Each comes in as /)).toBeVisible()
    await expect(sheet.getByRole('group', { name: 'What is done' }).getByRole('button')).toHaveText(['received'])
    await sheet.getByRole('button', { name: 'Store it' }).click()
    await expect(sheet).toHaveCount(0)
    expect(await lying()).toEqual(before.map((many, at) => many + kit.contents[at]!.quantity))
    expect(faultsOf(page)).toEqual([])
  } finally {
    await withCamera.close()
  }
})
