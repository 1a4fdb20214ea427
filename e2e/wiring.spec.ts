import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { accessible } from './support/accessible'
import { bench, jobFor, openAndTag, prove, sweepBoth, twoCables } from './support/box'
import { groupRead } from './support/group'
import { ask, desk, faultsOf, person, phone, pick, test } from './support/people'

const sentence = (page: Page) => page.getByTestId('wiring-sentence')
/** Does what the bench says, with the simulated meter, until every conductor is known. */
async function findOut(page: Page): Promise<void> {
  const probe = page.getByRole('button', { name: /^(Put the probes there|Take the \d+ readings)$/ })
  const readings = page.locator('summary').filter({ hasText: /^\d+ readings?$/ })
  for (let step = 0; step < 25; step++) {
    await expect(probe.or(page.getByTestId('verdicts'))).toBeVisible()
    if (await page.getByTestId('verdicts').isVisible()) return
    const before = (await readings.count()) ? await readings.textContent() : ''
    await probe.click()
    await expect(readings).not.toHaveText(before || 'none')
    await expect(page.getByText('Computing …')).toBeHidden()
  }
  throw new Error('It never ends.')
}
const role = (page: Page, letter: string) =>
  page
    .getByTestId('settled')
    .locator('li')
    .filter({ has: page.locator('b', { hasText: new RegExp(`^${letter}$`) }) })

test('two hidden boxes: the roles come out right, a wrong plan is caught, the right one works', async ({ browser }) => {
  const page = await person(browser, 'bram.ash', desk)

  await test.step('odd colours: red is the neutral, white the line', async () => {
    await page.goto('/practice')
    await page.getByRole('link', { name: /^Tide room/ }).click()
    await expect(sentence(page)).toContainText('0 of 6 conductors are settled')
    // Somebody points at two conductors: what the meter should show.
    await page.getByTestId('tag-A').click()
    await page.getByTestId('tag-B').click()
    await expect(page.getByTestId('pair')).toContainText('A to B')
    await expect(page.getByTestId('pair')).toContainText('nothing or full voltage')
    await findOut(page)
    await expect(sentence(page)).toHaveText('All 6 conductors are known.')
    await page.locator('summary', { hasText: 'What is settled' }).click()
    await expect(role(page, 'A')).toContainText('one metal with the neutral of circuit 11')
    await expect(role(page, 'B')).toContainText('line, circuit 11')
    await expect(role(page, 'E')).toContainText('load, to the light')
    await expect(page.getByTestId('verdicts')).toContainText('works in 2 of 2 positions')
  })

  await test.step('line and load exchanged by tap, by keyboard and by dragging: said at once', async () => {
    await page.getByTestId('tag-B').click()
    await page.getByRole('button', { name: /^Terminal load/ }).click()
    await page.getByTestId('tag-E').focus()
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: /^Terminal line/ }).focus()
    await page.keyboard.press('Enter')
    await expect(page.getByRole('button', { name: 'Terminal load: B' })).toBeVisible()
    await expect(page.getByTestId('verdicts')).toContainText('line and load are exchanged')
    // The fault is explained by what is seen, too.
    await page.getByTestId('tag-B').hover()
    await page.mouse.down()
    const target = (await page.getByRole('button', { name: /^Terminal line/ }).boundingBox())!
    await page.mouse.move(target.x + 10, target.y + 10, { steps: 8 })
    await page.mouse.move(target.x + target.width / 2, target.y + 20, { steps: 8 })
    await page.mouse.up()
    await expect(page.getByRole('button', { name: /^Terminal line: .*B/ })).toBeVisible()
    await page.getByRole('button', { name: 'Start again from the proposal' }).click()
    await expect(page.getByTestId('verdicts')).toContainText('works in 2 of 2 positions')
  })

  await test.step('what was seen is explained; then the breaker is closed and it works', async () => {
    const seen = page.getByRole('group', { name: /seen$/ })
    await expect(seen).toHaveCount(2)
    for (const group of await seen.all()) await group.getByRole('button', { name: 'off' }).click()
    await page.getByRole('button', { name: 'Explain what was seen' }).click()
    await expect(page.getByTestId('diagnosis')).toContainText(/1\. \d+ %/)
    await page.getByRole('button', { name: /^Close the (breaker|MCB) and look$/ }).click()
    await expect(page.getByTestId('tried')).toHaveText('Works as predicted, in every position.')
    await expect(page.getByTestId('diagnosis')).toContainText('The wiring behaves as planned.')
  })

  await test.step('drawing, labels and wiring leave as files', async () => {
    const file = async (name: string) => {
      const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name }).click()])
      return readFileSync((await download.path())!, 'utf8')
    }
    expect(await file('Drawing (SVG)')).toContain('<svg')
    expect(await file('Label sheet (SVG)')).toContain('neutral')
    expect((await file('Label sheet (PDF)')).slice(0, 5)).toBe('%PDF-')
    expect(JSON.parse(await file('Wiring (JSON)'))).toMatchObject({ format: 'circuitry-wiring', version: 1, name: 'Tide room' })
  })

  await test.step('the 3-way whose load leaves from the other box', async () => {
    await page.goto('/practice/landing')
    await findOut(page)
    await expect(page.getByTestId('verdicts')).toContainText('works in 4 of 4 positions')
    await page.getByRole('button', { name: /^Close the (breaker|MCB) and look$/ }).click()
    await expect(page.getByTestId('tried')).toHaveText('Works as predicted, in every position.')
    await page.getByRole('link', { name: 'all boxes' }).click()
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^2 of \d+ boxes are known and proven\./)
  })
  expect(faultsOf(page)).toEqual([])
})

test('a computation or a meter that fails says so, loses nothing, and can be begun again', async ({ browser }) => {
  const page = await person(browser, 'bram.ash', desk)
  // Workers whose file cannot be had, for as long as the test says so.
  await page.addInitScript(() => {
    const Real = Worker
    const test = Object.assign(window, { workersFail: true })
    window.Worker = class extends Real {
      constructor(url: string | URL, options?: WorkerOptions) {
        super(test.workersFail ? '/no-such-worker.js' : url, options)
      }
    }
  })
  const workersFail = (fail: boolean) => page.evaluate((now) => void Object.assign(window, { workersFail: now }), fail)
  await page.goto('/practice/tide-room')
  await expect(page.getByTestId('failed')).toContainText('This could not be computed here.')
  await page.getByRole('button', { name: 'Compute again' }).click()
  await expect(page.getByTestId('failed')).toBeVisible()
  await workersFail(false)
  await page.getByRole('button', { name: 'Compute again' }).click()
  await expect(sentence(page)).toContainText('0 of 6 conductors are settled')
  await expect(page.getByTestId('failed')).toBeHidden()

  const probe = page.getByRole('button', { name: /^(Put the probes there|Take the \d+ readings)$/ })
  await workersFail(true)
  await probe.click()
  await expect(page.getByText('The simulated meter did not answer. Ask it again.')).toBeVisible()
  await workersFail(false)
  await probe.click()
  await expect(page.locator('summary').filter({ hasText: /^\d+ readings?$/ })).toBeVisible()
  await expect(page.getByText('The simulated meter did not answer.')).toBeHidden()
})

test('old switches that stay, on a phone: a jumper is taken away and laid again, and it is said who is heard', async ({ browser }) => {
  const page = await person(browser, 'bram.ash', phone)
  await page.goto('/practice/weaving-room')
  await findOut(page)
  const verdicts = page.getByTestId('verdicts')
  await expect(verdicts).toContainText('The device sees old switch 1 on switch input 2.')
  await expect(verdicts).toContainText('The motor on D works in 16 of 16 positions.')
  const terminal = (name: string) => page.getByRole('button', { name: new RegExp(`^Terminal ${name}`) })

  await test.step('by tap: from terminal to terminal', async () => {
    await terminal('screw 2 of old switch 1').click()
    await expect(page.getByText('A jumper from screw 2 of old switch 1')).toBeVisible()
    await terminal('switch input 2').click()
    await expect(verdicts).toContainText('Old switch 1 does nothing: no input sees it.')
  })
  await test.step('by keyboard: the other way round', async () => {
    await terminal('switch input 2').focus()
    await page.keyboard.press('Enter')
    await terminal('screw 2 of old switch 1').focus()
    await page.keyboard.press('Enter')
    await expect(verdicts).toContainText('The device sees old switch 1 on switch input 2.')
  })
  await test.step('an old switch goes, and is missed; the proposal again', async () => {
    await page.getByLabel('Old switch 2 stays and signals a device').click()
    await expect(terminal('screw 1 of old switch 2')).toHaveCount(0)
    await page.getByRole('button', { name: 'Start again from the proposal' }).click()
    await expect(verdicts).toContainText('The device sees old switch 2 on switch input.')
    await page.getByRole('button', { name: /^Close the (breaker|MCB) and look$/ }).click()
    await expect(page.getByTestId('tried')).toHaveText('Works as predicted, in every position.')
  })
  await accessible(page)
  expect(faultsOf(page)).toEqual([])
})

test('the other location: the old 3-way left there is caught, a plain switch is heard', async ({ browser }) => {
  const page = await person(browser, 'bram.ash', desk)
  await page.goto('/practice/quay-stairs')
  await findOut(page)
  const verdicts = page.getByTestId('verdicts')
  await expect(verdicts).toContainText('The device sees the other switch on its switch input.')
  await expect(page.getByTestId('around')).toContainText('Other location: take the common off and splice it with B.')
  await pick(page, /^Other location 1$/, 'its two-way stays as it is')
  await expect(verdicts).toContainText('The device loses its power in 2 of 4 positions.')
  await pick(page, /^Other location 1$/, 'plain switch, seen by an input here')
  await expect(verdicts).toContainText('works in 4 of 4 positions')
  await page.getByRole('button', { name: /^Close the (breaker|MCB) and look$/ }).click()
  await expect(page.getByTestId('tried')).toHaveText('Works as predicted, in every position.')
  expect(faultsOf(page)).toEqual([])
})

test('a box of the record: its readings, one comparison with the functional tests, steps as they were laid', async ({ browser }) => {
  const page = await person(browser, 'kit.ivers', desk)
  const { jobs } = await ask<{ jobs: { id: string; title: string }[] }>(page, '/api/jobs')
  const id = jobs.find((job) => job.title.startsWith('Ferry Office'))!.id
  const { siteState } = await ask<{ siteState: { boxes: Record<string, { id: string; name: string }> } }>(page, `/api/jobs/${id}`)
  const box = Object.values(siteState.boxes).find((one) => one.name === 'counter end')!
  await page.goto(`/jobs/${id}/wiring/${box.id}`)
  await expect(sentence(page)).toHaveText('All 6 conductors are known.')
  await expect(page.getByTestId('functional')).toContainText('2 rows from the functional tests of the points.')
  await expect(page.getByTestId('diagnosis')).toContainText('The wiring behaves as planned.')
  // The visit is over: everything can be looked at, nothing laid.
  await expect(page.getByText('You are not on a visit of this job: you can look.')).toBeVisible()
  await expect(page.getByLabel('Point that D feeds')).toBeDisabled()
  await expect(page.getByRole('button', { name: 'Explain what was seen' })).toBeDisabled()
  await page.getByTestId('tag-D').click()
  await expect(page.getByText('selected. Tap a terminal')).toBeHidden()
  await page.getByRole('link', { name: 'back to the box' }).click()
  await expect(page.getByText('Pigtail from B + E to neutral. Three quarters round the screw')).toBeVisible()
  await page.goto(`/jobs/${id}/history`)
  await expect(page.getByText('established A as line at counter end (readings)')).toBeVisible()
  expect(faultsOf(page)).toEqual([])
})

test('on a job: the box is described, read dead and live, and its flags say what the readings establish', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  const page = await person(browser, 'bram.ash', phone)
  const jobId = await jobFor(office, ['bram.ash', 'kit.ivers'])
  await bench(page, jobId, 'tide door')
  await openAndTag(page, '2', 'BA red 1')
  await twoCables(page)
  await prove(page)
  await page.getByRole('link', { name: 'Identify the conductors' }).click()

  // A, B, C come from the panel; D, E, F go to the light.
  // What is usual for two such cables is said; each place can be said by itself.
  await expect(page.getByTestId('usual')).toContainText('A and D on its two screws')
  await page.getByRole('button', { name: 'Something is different' }).click()
  for (const [letter, screw] of [
    ['A', 2],
    ['D', 1],
  ] as const) {
    await page.getByTestId(`tag-${letter}`).click()
    await page.getByRole('button', { name: new RegExp(`^Terminal screw ${screw}`) }).click()
  }
  await page.getByRole('button', { name: 'This is how it was' }).click()

  const metal = ['B', 'C', 'E', 'F', 'ground']
  const ohms = (a: string, b: string) => (metal.includes(a) && metal.includes(b) ? 'it beeps' : [a, b].includes('A') ? 'open' : 'some ohms')
  const volts = (a: string, b: string) => ([a, b].includes('A') && metal.includes(a === 'A' ? b : a) ? '121' : '0')
  const rows = page.getByTestId('next-test').locator('.entry')
  const storeAll = async () => {
    const title = await page.getByTestId('next-test').locator('h2').textContent()
    const count = await page
      .locator('summary')
      .filter({ hasText: /readings?$/ })
      .allTextContents()
    for (const row of await rows.all()) {
      const [a, b] = (await row.locator('b').textContent())!.split('–') as [string, string]
      if (title!.startsWith('Non-contact')) await row.getByRole('button', { name: a === 'A' ? 'lit' : 'dark' }).click()
      else if (title!.startsWith('Continuity')) await row.getByRole('button', { name: ohms(a, b) }).click()
      else await row.getByRole('textbox').fill(volts(a, b))
    }
    await page.getByRole('button', { name: /^Store (the reading|\d+ readings)$/ }).click()
    await expect(page.locator('summary').filter({ hasText: /readings?$/ })).not.toHaveText(count.at(-1) ?? 'none')
    await expect(page.getByText('Computing …')).toBeHidden()
  }
  // The trade's first method needs the power on; here the conductors are off the switch already.
  await expect(page.getByTestId('moment')).toContainText('Power on breaker 2 for a moment')
  await page.getByRole('button', { name: 'The conductors are off the old switch already' }).click()
  await expect(rows.first()).toBeVisible()
  for (let step = 0; step < 12 && (await page.getByTestId('next-test').getByText('no power needed').isVisible()); step++) await storeAll()

  // Power for a moment, announced to the mate: nothing is read before.
  await expect(page.getByTestId('next-test')).toBeHidden()
  await page.getByRole('button', { name: 'My hands are out and ends are safe: ask the others' }).click()
  await page.getByRole('button', { name: 'Ask to close 2' }).click()
  await page.getByRole('button', { name: 'It is closed' }).click()
  await page.getByRole('button', { name: 'Kit Ivers is told: start live measurement' }).click()
  await expect(page.getByText('Probes only, no fingers.')).toBeVisible()
  const asked = page.getByTestId('next-test')
  const all = sentence(page).filter({ hasText: 'All 6 conductors are known.' })
  for (let step = 0; step < 12; step++) {
    await expect(asked.or(all).first()).toBeVisible()
    if (await all.isVisible()) break
    await storeAll()
  }
  await expect(sentence(page)).toHaveText('All 6 conductors are known.')

  await page.getByRole('button', { name: 'Save roles to the tags' }).click()
  await expect(page.getByText('Every flag says what the readings establish.')).toBeVisible()

  await test.step('off, locked and proven again; the device is chosen, laid, connected as laid', async () => {
    await page.getByRole('button', { name: 'Finished measuring' }).click()
    await page.getByRole('button', { name: 'I opened breaker 2' }).click()
    await page.getByRole('link', { name: 'back to the box' }).click()
    await page.getByRole('button', { name: 'My lock hangs again on 2' }).click()
    await prove(page)
    await page.getByRole('button', { name: 'Choose Tide switch, with neutral' }).click()
    await page.getByRole('link', { name: 'Identify the conductors' }).click()
    await expect(page.getByTestId('verdicts')).toContainText('The light on D works in 2 of 2 positions.')
    await expect(page.getByTestId('verdicts')).toContainText('look up what the connector is listed for')
    // A slow line: what is chosen while the last choice is being stored is stored after it.
    let stored = 0
    await page.route('**/api/commands', async (route) => {
      await new Promise((go) => setTimeout(go, 700))
      await route.fulfill({ response: await route.fetch() })
      stored++
    })
    await pick(page, 'Listing of the connector on B, E', 'Twist, small, holds 3')
    await pick(page, 'Listing of the connector on C, F', 'Twist, large, holds 5')
    await pick(page, 'Point that D feeds', 'Tide light')
    await expect(page.getByTestId('verdicts')).not.toContainText('look up what the connector')
    await expect.poll(() => stored).toBe(3)
    await page.unroute('**/api/commands')
    await page.reload()
    await expect(page.getByTestId('verdicts')).not.toContainText('look up what the connector')
    await expect(page.getByLabel('Point that D feeds')).toHaveValue(/./)
    await expect(page.getByLabel('Point that D feeds')).not.toHaveValue('-')

    // The mate chooses in the same moment, without having seen it: nothing is laid over unseen.
    const mate = await person(browser, 'kit.ivers', desk)
    await mate.goto(new URL(page.url()).pathname)
    await expect(mate.getByTestId('verdicts')).toBeVisible()
    let letGo = () => {}
    const first = new Promise<void>((resolve) => (letGo = resolve))
    await mate.route('**/api/commands', async (route) => {
      await first
      await route.continue()
    })
    const listing = 'Listing of the connector on B, E'
    await pick(mate, listing, 'listed for 5')
    const answered = page.waitForResponse('**/api/commands')
    await pick(page, listing, 'listed for 4')
    await answered
    letGo()
    await expect(mate.getByTestId('refusal')).toContainText('BA changed the wiring plan of tide door at the same time.')
    await expect(mate.getByLabel(listing)).toHaveValue('4')
    await mate.context().close()

    await page.getByRole('link', { name: 'back to the box' }).click()
    await expect(page.getByText('As planned at the wiring bench.')).toBeVisible()
    const steps = page.locator('.steps').getByRole('checkbox')
    await expect(page.getByText('Pigtail from B + E to neutral. Three quarters round the screw')).toBeVisible()
    for (let index = 0; index < (await steps.count()); index++) {
      await steps.nth(index).click()
      await expect(steps.nth(index)).toBeChecked()
    }
  })

  await test.step('closed and live: the mate tests the point, and the bench compares', async () => {
    await page.getByRole('button', { name: 'The box is closed' }).click()
    // No serial and no picture yet: asked once.
    await page.getByTestId('close-anyway').getByRole('button', { name: 'Yes, it is closed' }).click()
    const next = page.getByTestId('next-step')
    await next.getByRole('button', { name: 'Take my tag off breaker 2' }).click()
    await next.getByRole('button', { name: 'Ask to close breaker 2' }).click()
    await next.getByRole('button', { name: 'It is closed' }).click()
    await expect(next.getByRole('link', { name: 'Test its points' })).toBeVisible()
    const mate = await person(browser, 'kit.ivers', desk)
    await mate.goto(`/jobs/${jobId}/tests`)
    const tide = mate.getByTestId('test-Tide light')
    await tide.getByRole('button', { name: 'On from tide door: pass' }).click()
    await tide.getByRole('button', { name: 'Off from tide door: fail' }).click()
    await tide.getByLabel('What did you see?').fill('stays on, whatever one presses')
    await tide.getByRole('button', { name: 'Store' }).click()
    await tide.getByRole('link', { name: 'Which fault explains it: the wiring of tide door' }).click()
    await expect(mate.getByTestId('functional')).toContainText('2 rows from the functional tests of the points.')
    await expect(mate.getByTestId('diagnosis')).toContainText(/1\. \d+ %: .*(touches|stuck on)/)
    // Where a meter tells the fault from the plan.
    await pick(mate, 'First probe, and the non-contact tester', 'load')
    await pick(mate, 'Second probe', 'neutral')
    await expect(mate.getByTestId('probes')).toContainText(/device off\s*Live: 0 V.*With the most likely fault: live 1[12]\d(\.\d)? V/)
    expect(faultsOf(mate)).toEqual([])
  })
  await page.goto(`/jobs/${jobId}/history`)
  await expect(page.getByText('established A as line at tide door (readings)')).toBeVisible()
  await expect(page.getByText(/read A–ground 121 V/).first()).toBeVisible()
  expect(faultsOf(page)).toEqual([])
})

test('boxes that switch a light together are one wiring: what one plan wants done at the other is a step there', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  const page = await person(browser, 'bram.ash', phone)
  const mate = await person(browser, 'kit.ivers', phone)
  const { jobId, boxes } = await groupRead(office, page)

  await test.step('laid at the box of the load', async () => {
    await page.goto(`/jobs/${jobId}/box/${boxes['tide door']}`)
    await page.getByRole('button', { name: 'Choose Relay module, one channel' }).click()
    await page.getByRole('link', { name: 'Identify the conductors' }).click()
    await expect(page.getByTestId('group')).toContainText('Wired together with cellar light')
    await expect(page.getByTestId('verdicts')).toContainText('works in 4 of 4 positions')
    await page.getByRole('button', { name: 'Use this plan' }).click()
    await expect(page.getByTestId('accept-plan')).toBeHidden()
    await page.getByRole('link', { name: 'back to the box' }).click()
    await expect(page.getByTestId('elsewhere')).toContainText('Take the common off')
    await expect(page.getByTestId('elsewhere')).toContainText('not done')
  })

  await test.step('the mate at the other box, where no device goes in, has its steps, locked until it is proven there', async () => {
    await mate.goto(`/jobs/${jobId}/box/${boxes['cellar light']}`)
    await mate.getByLabel('Your lock').fill('KI blue 3')
    await mate.getByRole('button', { name: 'Hang my tag on 2' }).click()
    await twoCables(mate)
    await expect(mate.getByTestId('one-wiring')).toContainText('Wired together with tide door')
    const step = mate.getByRole('checkbox', {
      name: /Take the common off and splice it with the black conductor from tide door \(D there\)/,
    })
    await expect(step).toBeDisabled()
    await mate.getByRole('link', { name: 'Identify the conductors' }).click()
    await mate.getByText('This is how it was').waitFor()
    await mate.goBack()
    await prove(mate, sweepBoth)
    await expect(step).toBeEnabled()
    await step.click()
    await expect(step).toBeChecked()
    await expect(page.getByTestId('elsewhere')).toContainText('done, KI')
  })

  await test.step('taken back at the first box: what was done at the other is to be undone', async () => {
    await page.getByRole('link', { name: 'Identify the conductors' }).click()
    await page.getByRole('button', { name: 'Start again from the proposal' }).click()
    await expect(page.getByTestId('accept-plan')).toBeVisible()
    await expect(mate.getByTestId('to-undo')).toContainText('Take the common off')
    await page.getByRole('link', { name: 'back to the box' }).click()
    await expect(page.getByTestId('elsewhere')).toContainText('to be undone there, KI did it')
  })
  for (const one of [page, mate]) {
    await accessible(one)
    expect(faultsOf(one)).toEqual([])
  }
})
