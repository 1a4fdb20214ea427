import { readFileSync } from 'node:fs'
import { expect, type Page } from '@playwright/test'
import { circuit } from './support/box'
import { desk, enter, faultsOf, person, pick, slowPhone, sign, test, schedule } from './support/people'

/** One pixel, as a stand-in for a picture of a box. */
const picture = {
  name: 'box.png',
  mimeType: 'image/png',
  buffer: Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64'),
}
const published = '34970112332'

async function proveBox(page: Page, options: { ghost?: boolean } = {}): Promise<number> {
  await expect(page.getByTestId('proof-stage')).toContainText('1 of 5')
  await enter(page, '238', 'The tester works')
  await expect(page.getByTestId('proof-stage')).toContainText('2 of 5')
  await enter(page, '121.4', 'Next')
  await enter(page, '120.8', 'Next')
  await enter(page, '0.5', 'The reference is good')
  await expect(page.getByTestId('proof-stage')).toContainText('3 of 5')
  let readings = 0
  if (!options.ghost) {
    // Nothing odd: all readings in one go, the highest of them stored.
    await enter(page, '0.2', /read, none higher/)
    await expect(page.getByTestId('proof-stage')).toContainText('4 of 5')
    readings = 9
  } else {
    await page.getByRole('button', { name: 'Store them one by one' }).click()
    await page.getByRole('button', { name: 'high impedance' }).click()
    await enter(page, '14.2', 'Store, next pair')
    readings++
    await expect(page.getByText('Treat as live. Same pair again with low impedance.')).toBeVisible()
    // The high range is out of reach until the pair is read with the low one.
    await expect(page.getByRole('button', { name: 'high impedance' })).toBeDisabled()
  }
  while (await page.getByText(/^3 of 5/).isVisible()) {
    const stage = await page.getByTestId('proof-stage').textContent()
    await enter(page, '0.2', 'Store, next pair')
    readings++
    await expect(page.getByTestId('proof-stage')).not.toHaveText(stage!)
  }
  await expect(page.getByTestId('proof-stage')).toContainText('4 of 5')
  await enter(page, '120.8', 'Next')
  await enter(page, '0.5', 'Still good')
  await expect(page.getByTestId('proof-stage')).toContainText('5 of 5')
  await enter(page, '238', 'The tester still works')
  await expect(page.getByText('You may work in this box.')).toBeVisible()
  return readings
}

test('one job, from the phone call to the callback, by a crew of two', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk, '/jobs')
  const ann = await person(browser, 'bram.ash', slowPhone, '/my-day')
  const ben = await person(browser, 'kit.ivers', slowPhone, '/my-day')

  await test.step('1: a broken file says what is wrong and imports nothing; the sample is imported', async () => {
    await office.getByRole('link', { name: 'New job' }).click()
    const sample = readFileSync('core/format/testing/gate-house-v1.json', 'utf8')
    await office.getByTestId('job-file').setInputFiles({
      name: 'broken.json',
      mimeType: 'application/json',
      buffer: Buffer.from(sample.replace('"box": "stair-head"', '"box": "stair-haed"')),
    })
    await expect(office.getByTestId('problem')).toContainText('There is no box “stair-haed”.')
    await expect(office.getByTestId('problem')).toContainText('points[1].controls[1]')
    await expect(office.getByRole('button', { name: 'Open the job' })).toBeDisabled()
    await office.getByTestId('job-file').setInputFiles('core/format/testing/gate-house-v1.json')
    await expect(office.getByTestId('file-found')).toContainText('2 points, 3 boxes in 2 rooms, 3 breakers')
    await office.getByRole('button', { name: 'Open the job' }).click()
    await expect(office.getByRole('heading', { level: 1 })).toContainText('2 points in 3 boxes. Nobody is scheduled yet.')
  })

  await test.step('2: the dispatcher schedules two technicians; both phones show it by themselves', async () => {
    await office.getByRole('link', { name: 'Day', exact: true }).click()
    await office.getByRole('button', { name: 'Schedule The Gate House' }).click()
    await office.getByRole('checkbox', { name: /BA · Bram Ash/ }).click()
    await office.getByRole('checkbox', { name: /KI · Kit Ivers/ }).click()
    await schedule(office)
    await expect(office.getByRole('button', { name: 'Schedule The Gate House' })).toBeHidden()
    for (const page of [ann, ben]) await expect(page.getByRole('link', { name: /The Gate House/ })).toBeVisible()
  })

  await test.step('3: A opens and tags; B sees it, may not close, finds it closed: A is alarmed', async () => {
    for (const page of [ann, ben]) await page.getByRole('link', { name: /The Gate House/ }).click()
    await ann.getByRole('button', { name: 'I have arrived' }).click()
    await expect(ben.getByRole('button', { name: 'End the visit' })).toBeVisible()
    await ann.getByRole('button', { name: /^hall door/ }).click()
    await ann.getByRole('link', { name: 'Open the bench' }).click()
    await expect(ann.getByTestId('next-step')).toContainText('Open breaker 2')
    await ann.getByRole('button', { name: 'I opened breaker 2' }).click()
    await ann.getByLabel('Your lock').fill('BA red 1')
    await ann.getByRole('button', { name: 'Hang my tag on 2' }).click()
    const tile = ben.getByRole('button', { name: /^2: OPEN, NOT PROVEN, tags BA/ })
    await expect(tile).toBeVisible()

    // Conductors and the first proof, with a ghost reading on the way.
    for (let cable = 0; cable < 2; cable++) await ann.getByRole('button', { name: 'two and ground' }).click()
    await ann.getByRole('button', { name: /Store 6 conductors/ }).click()
    // Five conductors against the ground, four against the neutral, one of them twice.
    expect(await proveBox(ann, { ghost: true })).toBe(10)
    await expect(ben.getByRole('button', { name: /^2: OPEN, NOT PROVEN/ })).toBeVisible()

    await tile.click()
    await ben.getByRole('button', { name: 'Ask to close breaker 2' }).click()
    await expect(ben.getByTestId('refusal')).toContainText('Bram Ash (BA) has a tag on breaker 2 with lock BA red 1.')
    await ben.getByRole('button', { name: 'Found it CLOSED' }).click()
    await expect(ann.getByTestId('alarm')).toContainText('Kit Ivers found a breaker that was not as you left it.')
    await expect(ann.getByTestId('alarm')).toContainText('breaker 2, hall door')
    await ann.getByRole('button', { name: 'I have stopped' }).click()
    await expect(ann.getByTestId('next-step')).toContainText('Open breaker 2')
    await expect(ann.getByText('Roles are locked until the box is proven dead')).toBeVisible()
  })

  await test.step('4: opened again, the old proof is gone: proven once more', async () => {
    await ann.getByRole('button', { name: 'I opened breaker 2' }).click()
    // The lock had not held: its owner looks at it and says what had happened.
    await expect(ann.getByRole('button', { name: 'My lock hangs again on 2' })).toBeDisabled()
    await ann.getByLabel('What happened to your lock').fill('hasp not closed')
    await ann.getByRole('button', { name: 'My lock hangs again on 2' }).click()
    await expect(ann.getByTestId('proof-stage')).toContainText('1 of 5')
    await expect(ann.getByText('2 was found closed.')).toBeVisible()
    await proveBox(ann)
    await ben.keyboard.press('Escape')
    await expect(ben.getByRole('dialog')).toBeHidden()
  })

  await test.step('5: roles, device, box fill with its sum, steps in the company’s order, pictures', async () => {
    await ann.getByRole('button', { name: /^A black/ }).click()
    const readings: Record<string, Record<string, string>> = {
      line: { 'To the proven ground, its switch one way, V': '120.4', 'The same, its switch the other way, V': '120.2' },
      neutral: { 'From the line to it, V': '120.1', 'From it to the proven ground, V': '0.4' },
    }
    for (const role of ['line', 'neutral', 'ground', 'load', 'neutral', 'ground']) {
      await ann
        .getByRole('group', { name: /^Role of/ })
        .getByRole('button', { name: role, exact: true })
        .click()
      for (const [label, value] of Object.entries(readings[role] ?? { 'Continuity, Ω': '0.4' })) await ann.getByLabel(label).fill(value)
      const is = ann.getByRole('button', { name: new RegExp(`^[A-F] is ${role}$`) })
      await is.click()
      await expect(is).toBeHidden()
    }
    await expect(ann.getByText('line measured')).toBeVisible()
    await expect(ann.getByText('does not fit').first()).toBeVisible()
    await ann.getByRole('button', { name: 'Choose Tide switch, with neutral' }).click()
    const fill = ann.getByTestId('box-fill')
    // 4 × 14 AWG 8 + clamps 2 + yoke 4 + grounds together 2 (NEC 314.16(B)).
    await expect(fill).toContainText('Box fill 16.00 of 18 in³')
    const labels = await ann.locator('.steps label').allTextContents()
    const at = (word: string) => labels.findIndex((label) => label.includes(word))
    expect([at(' to ground'), at(' to neutral'), at(' to load'), at(' to line')]).toEqual([1, 2, 3, 4])
    for (const [index] of labels.entries()) {
      await ann.locator('.steps').getByRole('checkbox').nth(index).click()
      await expect(ann.locator('.steps').getByRole('checkbox').nth(index)).toBeChecked()
    }
    await ann.getByLabel('Picture as found').setInputFiles(picture)
    await expect(ann.getByRole('img', { name: 'as found, by BA' })).toBeVisible()
    await ann.getByLabel('Picture before closing').setInputFiles(picture)
    await expect(ann.getByRole('img', { name: 'before closing, by BA' })).toBeVisible()
  })

  await test.step('6: a wrong digit is caught at the wall; the right code and the serial are stored', async () => {
    await ann.getByLabel('Serial').fill('GH-7001')
    await ann.getByLabel(/^Setup code/).fill('34970112323')
    await expect(ann.getByTestId('code-verdict')).toContainText('The check digit does not fit')
    await expect(ann.getByRole('button', { name: 'Store serial and code' })).toBeDisabled()
    await ann.getByLabel(/^Setup code/).fill(published)
    await expect(ann.getByTestId('code-verdict')).toContainText('Check digit fits.')
    await ann.getByRole('button', { name: 'Store serial and code' }).click()
    await expect(ann.getByText('code …32 verified')).toBeVisible()
  })

  await test.step('7: box closed, tag off, a permit to close asked for and given; tested from every place', async () => {
    await ann.getByRole('button', { name: 'The box is closed' }).click()
    await expect(ann.getByText('The box is closed.')).toBeVisible()
    // One thing after the other, where the box is.
    await ann.getByRole('button', { name: 'Take my tag off breaker 2' }).click()
    await ann.getByRole('button', { name: 'Ask to close breaker 2' }).click()
    await expect(ann.getByText('You may close breaker 2')).toBeVisible()
    await expect(ben.getByRole('button', { name: /^2: BEING CLOSED/ })).toBeVisible()
    await ann.getByRole('button', { name: 'It is closed' }).click()
    await expect(ann.getByRole('link', { name: 'Test its points' })).toBeVisible()
    await expect(ben.getByRole('button', { name: /^2: LIVE/ })).toBeVisible()

    await ben.getByRole('link', { name: 'Tests' }).click()
    const hall = ben.getByTestId('test-Hall light')
    await hall.getByRole('button', { name: 'On from hall door: pass' }).click()
    await hall.getByRole('button', { name: 'Off from hall door: fail' }).click()
    await hall.getByLabel('What did you see?').fill('glows faintly when off')
    await hall.getByRole('button', { name: 'Store' }).click()
    await expect(hall).toContainText('fails')
    await hall.getByRole('button', { name: 'Comes back as configured after a power interruption: pass' }).click()
    await expect(hall.getByText('pass KI')).toHaveCount(2)
  })

  await test.step('8: joined, level judged, names that contain each other flagged', async () => {
    await ann.getByRole('link', { name: 'Tests' }).click()
    const unit = ann.getByTestId('unit-GH-7001')
    await unit.getByLabel('Network of GH-7001').fill('gatehouse')
    await unit.getByLabel('Wi-Fi level at GH-7001').fill('-58')
    await unit.getByRole('button', { name: 'Paired', exact: true }).click()
    await expect(unit).toContainText('on gatehouse')
    await unit.getByLabel('Name of GH-7001').fill('Hall light')
    await unit.getByRole('button', { name: 'Name it' }).click()
    await expect(unit.getByRole('heading', { name: /^Hall light/ })).toBeVisible()
  })

  await test.step('9: handover is refused while tests fail; listed defects are signed for; the pack is a PDF', async () => {
    await ann.getByRole('link', { name: 'Handover' }).click()
    await ann.getByRole('button', { name: 'Hand over' }).click()
    await expect(ann.getByTestId('refusal')).toContainText('Every point passes, or its defect is listed: Hall light, Stair light')
    await ann.getByRole('link', { name: 'Tests' }).click()
    const hall = ann.getByTestId('test-Hall light')
    await hall.getByLabel('Open defect at Hall light').fill('Glows when off; bypass to be fitted')
    await hall.getByRole('button', { name: 'List as open defect' }).click()
    await expect(hall).toContainText('Open defect:')
    // The stair waits for another visit: the office lists it as not done.
    const stair = ann.getByTestId('test-Stair light')
    await stair.getByRole('button', { name: 'On from stair foot, stair head up: fail' }).click()
    await stair.getByLabel('What did you see?').fill('old 3-way, not changed today')
    await stair.getByRole('button', { name: 'Store' }).click()
    await stair.getByLabel('Open defect at Stair light').fill('Stair stays as it was; second visit agreed')
    await stair.getByRole('button', { name: 'List as open defect' }).click()
    await expect(stair).toContainText('Open defect:')

    await ann.getByRole('link', { name: 'Handover' }).click()
    const items = ann.getByRole('checkbox', { name: /^(Shown|Tried|Agreed|Household|Installer|Labels|Warranty)/ })
    await expect(items.nth(6)).toBeVisible()
    const count = await items.count()
    for (let index = 0; index < count; index++) {
      await items.nth(index).click()
      await expect(items.nth(index)).toBeChecked()
    }
    await ann.getByLabel('Name of the person signing').fill('Nell Corrow')
    await sign(ann)
    await ann.getByRole('button', { name: 'Take the signature' }).click()
    await expect(ann.getByTestId('refusal')).toContainText('The customer has to accept')
    const accept = ann.getByRole('checkbox', { name: 'The customer knows and accepts this' })
    for (let index = 0; index < 2; index++) await accept.nth(index).click()
    await ann.getByRole('button', { name: 'Take the signature' }).click()
    await expect(ann.getByText(/^Signed by Nell Corrow/)).toBeVisible()
    await ann.getByRole('button', { name: 'Hand over' }).click()
    await expect(ann.getByRole('heading', { level: 1 })).toContainText('Handed over')
    // It opens in a tab that says how far it is; this browser takes a PDF as a file.
    const [tab] = await Promise.all([ann.waitForEvent('popup'), ann.getByRole('link', { name: 'Handover pack, PDF' }).click()])
    const file = tab.waitForEvent('download')
    await expect(tab.getByText('Handover pack')).toBeVisible()
    expect((await file).suggestedFilename()).toMatch(/^handover-\d+\.pdf$/)
    await tab.close()
    const href = await ann.getByRole('link', { name: 'Handover pack, PDF' }).getAttribute('href')
    const pack = await ann.request.get(href!)
    expect(pack.headers()['content-type']).toBe('application/pdf')
    expect((await pack.body()).subarray(0, 5).toString()).toBe('%PDF-')
    await ann.getByRole('link', { name: 'Walk' }).click()
    await ann.getByRole('button', { name: 'End the visit' }).click()
    await ann.getByRole('button', { name: 'Yes, end the visit' }).click()
    await expect(ann.getByRole('button', { name: 'end the visit' })).toBeHidden()
  })

  await test.step('10: called back, scheduled, diagnosed, unit replaced, tested again, closed', async () => {
    await office.getByRole('link', { name: 'Callbacks' }).click()
    await office.getByRole('link', { name: 'New callback' }).click()
    await office.getByLabel('Which device? Customer, street, room, name or serial').fill('corrow hall')
    await office.getByRole('button', { name: /Hall light/ }).click()
    await office.getByRole('button', { name: 'nothing happens at the wall' }).click()
    await office.getByLabel('In their words').fill('Hall light dead since last night')
    await expect(office.getByTestId('next-question').getByRole('button', { name: 'Doesn’t know' })).toBeVisible()
    await office.getByRole('button', { name: 'Open the callback' }).click()
    await expect(office.getByRole('heading', { level: 1 })).toContainText('It waits for a visit.')
    await office.getByRole('button', { name: 'Schedule the visit' }).first().click()
    await office.getByRole('checkbox', { name: /BA · Bram Ash/ }).click()
    await schedule(office)
    await expect(office.getByRole('heading', { level: 1 })).toContainText('It waits for a diagnosis.')

    await ann.goto(new URL(office.url()).pathname)
    await ann.getByRole('button', { name: 'I have arrived' }).click()
    await pick(ann, 'Cause', /^its relay does not make contact/)
    await ann.getByLabel('The cause, as found').fill('Relay stuck open, wiring as recorded')
    // A swap is no diagnosis.
    await ann.getByRole('button', { name: 'Store the diagnosis' }).click()
    await expect(ann.getByTestId('refusal')).toContainText('A swap is no diagnosis')
    await ann.getByLabel('Looked at or measured, that shows it').fill('Line at its input, none at its load')
    await ann.getByRole('button', { name: 'Store the diagnosis' }).click()
    await expect(ann.getByText('Locked.')).toBeVisible()
    await ann.getByRole('link', { name: 'Open, tag and prove at the bench.' }).click()
    await ann.getByRole('button', { name: 'I opened breaker 2' }).click()
    await ann.getByRole('button', { name: 'Hang my tag on 2' }).click()
    await ann.getByRole('button', { name: 'The plate is off' }).click()
    await proveBox(ann)
    await ann.getByRole('link', { name: 'Callback', exact: true }).click()
    await ann.getByLabel('Serial of the new device').fill('GH-7002')
    // The square code of the device that was taken out: its digits are on record.
    await ann.getByLabel('Its setup code').fill('MT:Y.K9042C00KA0648G00')
    await ann.getByRole('button', { name: 'Replace device' }).click()
    await expect(ann.getByTestId('refusal')).toContainText('This code is already recorded')
    await ann.getByLabel('Its setup code').fill('MT:M1TJ3O.R02QSW524X00')
    await ann.getByRole('button', { name: 'Replace device' }).click()
    await expect(ann.getByText('GH-7002 is in.')).toBeVisible()
    await ann.getByLabel('How it ended').fill('Unit replaced, works')
    await ann.getByRole('button', { name: 'Close the callback' }).click()
    await expect(ann.getByTestId('refusal')).toContainText('Not every check passes: Hall light')

    await ann.goBack()
    await ann.getByRole('button', { name: 'The box is closed' }).click()
    // The steps of the new unit were not ticked: asked once.
    await expect(ann.getByTestId('close-anyway')).toBeVisible()
    await ann.getByRole('button', { name: 'Yes, it is closed' }).click()
    await expect(ann.getByText('The box is closed.')).toBeVisible()
    await circuit(ann, '2')
    await ann.getByRole('button', { name: 'Take my tag off' }).click()
    await expect(ann.getByRole('button', { name: 'Take my tag off' })).toBeHidden()
    await ann.getByRole('button', { name: 'Ask to close breaker 2' }).click()
    await ann.getByRole('button', { name: 'It is closed' }).click()
    await ann.keyboard.press('Escape')
    await ann.getByRole('link', { name: 'Tests' }).click()
    const hall = ann.getByTestId('test-Hall light')
    await expect(hall.getByRole('button', { name: /: pass$/ }).first()).toBeVisible()
    const asked = await hall.getByRole('button', { name: /: pass$/ }).all()
    expect(asked.length).toBeGreaterThanOrEqual(3)
    for (const button of asked) {
      await button.click()
      await expect(button).toBeEnabled()
    }
    await expect(hall.getByText('passes', { exact: true })).toBeVisible()
    const unit = ann.getByTestId('unit-GH-7002')
    await unit.getByLabel('Network of GH-7002').fill('gatehouse')
    await pick(ann, 'Scale of the level at GH-7002', 'bars')
    await unit.getByLabel('Wi-Fi level at GH-7002').fill('3')
    await unit.getByRole('button', { name: 'Paired', exact: true }).click()
    await expect(unit).toContainText('on gatehouse')
    await ann.getByRole('link', { name: 'Callback', exact: true }).click()
    await ann.getByLabel('How it ended').fill('Unit replaced, works')
    await ann.getByRole('button', { name: 'Close the callback' }).click()
    await expect(ann.getByRole('heading', { level: 1 })).toContainText('Closed: Unit replaced, works')
    await ann.getByRole('button', { name: 'End the visit' }).click()
    await ann.getByRole('button', { name: 'Yes, end the visit' }).click()
    await expect(ann.getByRole('button', { name: 'end the visit' })).toBeHidden()
  })

  await test.step('11: the old device is followed until it is settled; its maker gets what shows the fault, and nobody’s name', async () => {
    await office.goto(new URL(ann.url()).pathname)
    const old = office.getByRole('region', { name: 'The old device' })
    await expect(old).toContainText('goes back to the maker')
    const paper = await office.request.get((await old.getByRole('link', { name: /^Claim for GH-/ }).getAttribute('href'))!)
    expect([paper.status(), paper.headers()['content-type']]).toEqual([200, 'application/pdf'])
    await old.getByRole('button', { name: 'It was sent' }).click()
    // What was not reset takes the home’s network with it.
    await expect(old.getByRole('button', { name: 'Store it' })).toBeDisabled()
    await pick(office, 'Before it left', /^too dead to be reset/)
    await old.getByLabel('Their number for it').fill('R 4711')
    await old.getByRole('button', { name: 'Store it' }).click()
    await expect(old).toContainText('Sent, number R 4711.')
    await office.getByRole('link', { name: 'Callbacks' }).click()
    const out = office.getByRole('region', { name: 'Devices that are out' })
    const line = out.getByRole('button', { name: /GH-/ })
    await expect(line).toContainText('sent')
    await line.click()
    await out.getByRole('button', { name: 'It is settled' }).click()
    await pick(office, 'How it ended', 'money back')
    await out.getByLabel('Money back; empty: not said').fill('34.5O')
    await expect(out.getByText('Write an amount, like 34.50.')).toBeVisible()
    await out.getByLabel('Money back; empty: not said').fill('34.50')
    await out.getByRole('button', { name: 'Store it' }).click()
    await expect(out.getByText(/^Settled: money back, .*34\.50, number R 4711\.$/)).toBeVisible()
    const table = await office.request.get('/api/returns/table')
    expect(await table.text()).toMatch(/GH-.*R 4711,settled,,money back,34\.50/)
    await office.goto(new URL(ann.url()).pathname)
  })

  await test.step('everything is in the history: who, when, what, with readings', async () => {
    await office.getByRole('link', { name: 'History' }).click()
    // The readings of a proof are one line that opens.
    await office
      .getByText(/readings of one proof/)
      .first()
      .waitFor()
    for (const proof of await office.getByText(/readings of one proof/).all()) await proof.click()
    for (const line of [
      'laid out the site: 4 breakers, 3 boxes',
      'scheduled an install visit for Bram Ash and Kit Ivers',
      'hung a tag on breaker 2 with lock BA red 1',
      'read A to reference at hall door: 14.2 V, high impedance',
      'proved hall door dead; tester good again at 238 V on proving unit',
      'found breaker 2 closed – found. One proof has ended.',
      'established A as line at hall door',
      'chose Harrow Reach Tide switch, with neutral for hall door, gang 1',
      'recorded serial GH-7001 at hall door, setup code …32 (check digit fits)',
      'Hall light: Off from hall door – fail – glows faintly when off',
      'paired Hall light (GH-7001) on gatehouse at -58 dBm',
      'took the signature of Nell Corrow, with 2 open defects accepted',
      'handed the job over',
      'replaced GH-7001 (return) by GH-7002',
      'closed the callback for Hall light',
    ])
      await expect(office.getByText(line).first(), line).toBeVisible()
    await expect(office.getByText(published)).toHaveCount(0)
  })

  for (const page of [office, ann, ben]) expect(faultsOf(page)).toEqual([])
})
