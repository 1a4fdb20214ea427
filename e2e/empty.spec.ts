import { partsOf, writeParts } from './support/fields'
import { expect, type Page } from '@playwright/test'
import { inventedCode } from '../core/testing/codes'
import { practiceMeter } from '../core/wiring/practice'
import { Follower } from './support/follow'
import { Hand } from './support/hand'
import { atServer, browserOf, desk, enter, faultsOf, lonePhone, phone, pick, sign, test, schedule } from './support/people'
import { openSurvey, surveyWithoutNetwork } from './support/survey'
import { backStairsTerminals, oneSwitch, practice } from './support/worlds'

test('from an empty database: set up, people, a tester, a job written by hand, first box proven', async ({ browser }) => {
  const baseURL = process.env.CIRCUITRY_EMPTY_URL
  const lead = await browserOf(browser, { baseURL, ...desk })
  const hand = new Hand(lead)

  await test.step('the first page says what to do', async () => {
    await lead.goto('/')
    await expect(lead.getByRole('heading', { level: 1 })).toContainText('There is no company here yet.')
    await hand.tap(lead.getByRole('link', { name: 'Set up' }))
    await hand.write('Code of the start', 'not this one')
    await hand.write('Company', 'Reed and Lantern')
    await hand.write('First branch', 'Low Weir')
    // Found by its city, as one says it.
    await hand.tap(lead.getByLabel('Time zone'))
    await lead.getByPlaceholder('City').fill('new york')
    await hand.tap(lead.getByRole('option', { name: 'New York (America)' }))
    await expect(lead.getByPlaceholder('City')).toBeHidden()
    await hand.write('Name', 'Uma Fell')
    await hand.write('Initials on your tags', 'jü')
    await hand.write('Login', 'Not A Login')
    await hand.write('Password', 'a long password')
    await hand.press('Set up')
    // Said at the field itself.
    await expect(lead.getByText('A login is lower-case letters, digits, dots and dashes.')).toBeVisible()
    await hand.tap(lead.getByRole('checkbox', { name: 'I hold the licence' }))
    await hand.write('Login', 'uma.fell')
    await hand.press('Set up')
    await expect(lead.getByText('This is another code.')).toBeVisible()
    await hand.write('Code of the start', 'kelp-7')
    await hand.press('Set up')
    await expect(lead.getByRole('heading', { level: 1 })).toContainText('No visit is planned today.')
  })

  await test.step('every screen has something to say when there is nothing', async () => {
    await lead.getByRole('link', { name: 'Jobs' }).click()
    await expect(lead.getByRole('heading', { level: 1 })).toContainText('No job yet.')
    await lead.getByRole('link', { name: 'Callbacks' }).click()
    await expect(lead.getByRole('heading', { level: 1 })).toContainText('No callback is open.')
    await lead.getByRole('link', { name: 'My day' }).click()
    await expect(lead.getByRole('heading', { level: 1 })).toContainText('No visit for you today.')
  })

  await test.step('the first steps tick themselves; a company of four and a tester in sixty taps', async () => {
    await lead.goto('/day')
    const steps = lead.getByTestId('first-steps')
    // Whoever set up said that they are licensed; a catalogue to begin with is there.
    await expect(steps).toContainText('First steps: 2 of 7 done.')
    await hand.tap(steps.getByRole('link', { name: /^Your crew/ }))
    for (const [name, initials, role, login, licensed] of [
      ['Ash Weir', 'AW', 'apprentice', 'ash.weir', false],
      ['Kit Marl', 'KM', 'technician', 'kit.marl', true],
      ['Odo Rill', 'OR', 'dispatcher', 'odo.rill', false],
    ] as const) {
      await hand.tap(lead.getByRole('button', { name: 'Person', exact: true }))
      await hand.write('Name', name)
      await hand.write('Initials on tags', initials)
      if (role !== 'technician') await hand.choose('Role', role)
      if (licensed) await hand.tap(lead.getByRole('checkbox', { name: 'Holds the licence' }))
      await hand.write('Login', login)
      await hand.write('Password', 'another long one')
      await hand.press('Save')
      await expect(lead.getByRole('cell', { name: `${initials} ${name}` })).toBeVisible()
    }
    await lead.goto('/day')
    await hand.tap(steps.getByRole('link', { name: /^A tester/ }))
    await expect(lead.getByText('There is no tester yet. Without one nobody can prove a box dead.')).toBeVisible()
    await hand.tap(lead.getByRole('button', { name: 'Tester', exact: true }))
    await hand.write('Name', 'Two-range tester')
    await hand.write('Serial', 'T-1')
    await writeParts(lead, 'Calibration until', ['01', '01', '2099'])
    expect(await partsOf(lead, 'Calibration until')).toEqual(['1', '1', '2099'])
    hand.taps++
    await hand.press('Save')
    await expect(lead.getByRole('cell', { name: 'Two-range tester T-1' })).toBeVisible()
    await lead.goto('/day')
    await expect(steps).toContainText('First steps: 4 of 7 done.')
    console.log(`company of four with a tester: ${hand.taps} taps`)
    expect(hand.taps, hand.path.join('\n')).toBeLessThanOrEqual(60)
  })

  await test.step('a job by hand: faults are shown and nothing is lost', async () => {
    await lead.goto('/jobs/new')
    await lead.getByRole('button', { name: 'By hand' }).click()
    await lead.getByLabel('What the job is').fill('Weir house, hall')
    await lead.getByLabel('Customer').fill('Oll Marsh')
    await lead.getByLabel('What the crew calls the home').fill('Weir House')
    await lead.getByLabel('Address').fill('1 Weir Path')
    await lead.getByLabel('Breaker 1, label as found').fill('hall')
    await lead.getByLabel('Box 1, room').fill('Hall')
    await lead.getByLabel('Box 1, name').fill('hall door')
    await lead.getByLabel('Box 1, volume in³').fill('18')
    await lead.getByLabel('Box 1, breakers').fill('9')
    await lead.getByLabel('Point 1, room').fill('Hall')
    await lead.getByLabel('Point 1, name').fill('Hall light')
    await pick(lead, 'Point 1, switched from 1', 'hall door')
    await lead.getByRole('button', { name: 'Open the job' }).click()
    await expect(lead.getByText('Breakers: there is no breaker 9 in panel “panel”.')).toBeVisible()
    // A phone that dies, a page that is left: what was written is back.
    await lead.reload()
    await lead.getByRole('button', { name: 'By hand' }).click()
    await expect(lead.getByTestId('draft')).toContainText('is restored')
    await expect(lead.getByLabel('What the job is')).toHaveValue('Weir house, hall')
    await lead.getByLabel('Box 1, breakers').fill('1')
    await lead.getByRole('button', { name: 'Open the job' }).click()
    await expect(lead.getByRole('heading', { level: 1 })).toContainText('1 point in 1 box. Nobody is scheduled yet.')
  })

  const apprentice = await browserOf(browser, { baseURL, ...phone })
  await test.step('the lead schedules the two; the apprentice proves, the lead witnesses', async () => {
    await lead.getByRole('button', { name: 'Schedule a visit' }).click()
    await lead.getByRole('checkbox', { name: /AW · Ash Weir/ }).click()
    await expect(lead.getByText('Nobody on this crew is licensed')).toBeVisible()
    await lead.getByRole('checkbox', { name: /JÜ · Uma Fell/ }).click()
    await lead.getByRole('button', { name: 'Schedule the visit' }).click()
    await expect(lead.getByRole('heading', { level: 1 })).toContainText('waiting for the visit')
    await apprentice.goto('/login')
    await apprentice.getByLabel('Login').fill('ash.weir')
    await apprentice.getByLabel('Password').fill('another long one')
    await apprentice.getByRole('button', { name: 'Log in' }).click()
    await apprentice.getByRole('link', { name: /Weir House/ }).click()
    await apprentice.getByRole('button', { name: 'I have arrived' }).click()
    await apprentice.getByRole('button', { name: /^hall door/ }).click()
    await apprentice.getByRole('link', { name: 'Open the bench' }).click()
    await apprentice.getByRole('button', { name: 'I opened breaker 1' }).click()
    await apprentice.getByLabel('Your lock').fill('AW 1')
    await apprentice.getByRole('button', { name: 'Hang my tag on 1' }).click()
    await apprentice.getByRole('button', { name: 'two and ground' }).click()
    await apprentice.getByRole('button', { name: /Store 3 conductors/ }).click()
    await enter(apprentice, '240', 'The tester works')
    await pick(apprentice, 'How it is verified', 'by continuity to the main earth bar')
    await enter(apprentice, '0.6', 'Next')
    await enter(apprentice, '0.3', 'The reference is good')
    await expect(apprentice.getByTestId('sweep')).toContainText('A–B')
    await enter(apprentice, '0.1', 'All 3 read, none higher')
    await expect(apprentice.getByTestId('proof-stage')).toContainText('4 of 5')
    await enter(apprentice, '0.6', 'Still good')
    await expect(apprentice.getByTestId('proof-stage')).toContainText('5 of 5')
    await enter(apprentice, '240', 'The tester still works')
    await expect(apprentice.getByText('A licensed person must witness')).toBeVisible()
    await lead.getByRole('button', { name: /^hall door/ }).click()
    await lead.getByRole('link', { name: 'Open the bench' }).click()
    await lead.getByRole('button', { name: 'I witness this proof' }).click()
    await expect(apprentice.getByText('You may work in this box.')).toBeVisible()
    // A reading that shows voltage is taken from anyone, and stops everybody.
    await lead.getByRole('button', { name: 'I see voltage here' }).click()
    await lead.getByRole('button', { name: 'A light is on' }).click()
    await expect(apprentice.getByTestId('alarm')).toContainText('Uma Fell reports voltage')
    await apprentice.getByRole('button', { name: 'I have stopped' }).click()
    await expect(apprentice.getByText('You may work in this box.')).toBeHidden()
  })
  for (const page of [lead, apprentice]) expect(faultsOf(page)).toEqual([])
})

const loginOf = async (page: Page, login: string, password: string) => {
  await page.goto('/login')
  await page.getByLabel('Login').fill(login)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Log in' }).click()
  await expect(page).toHaveURL(/day$/)
}
const unit = (model: string, index: number) => ({ model, serial: `NU-${index}`, code: inventedCode(index) })
const plain = 'Tide switch, with neutral'
const twoAndGround = 'two and ground'

/** Whoever has just begun: a job by hand, its boxes by what the next step says, the customer’s signature, and the call afterwards. */
test('a new company takes two jobs in and does them by what the page says next', async ({ browser }) => {
  const baseURL = process.env.CIRCUITRY_EMPTY_URL
  const lead = await browserOf(browser, { baseURL, ...desk })
  const kit = await browserOf(browser, { baseURL, ...phone })
  await loginOf(lead, 'uma.fell', 'a long password')
  await loginOf(kit, 'kit.marl', 'another long one')
  const idOf = (page: Page) => new URL(page.url()).pathname.split('/')[2]!
  const visit = async () => {
    await lead.getByRole('button', { name: 'Schedule a visit' }).click()
    await lead.getByRole('checkbox', { name: /JÜ · Uma Fell/ }).click()
    await lead.getByRole('checkbox', { name: /KM · Kit Marl/ }).click()
    await schedule(lead)
    await expect(lead.getByRole('heading', { level: 1 })).toContainText('waiting for the visit')
  }

  await test.step('three boxes by hand in fifty taps', async () => {
    const hand = new Hand(lead)
    await lead.goto('/jobs/new')
    await hand.press('By hand')
    await hand.write('What the job is', 'Marl house, hall and stair')
    await hand.write('Customer', 'Pell Marsh')
    await hand.write('Phone', '+1 555 0100')
    await hand.write('What the crew calls the home', 'Marl House')
    await hand.write('Address', '4 Weir Path')
    await hand.tap(lead.getByRole('button', { name: 'Breaker', exact: true }))
    for (const [index, [room, name, breaker]] of [
      ['Hall', 'hall door', '1'],
      ['Stair', 'stair foot', '2'],
      ['Stair', 'stair head', '2'],
    ].entries()) {
      if (index) await hand.tap(lead.getByRole('button', { name: 'Box', exact: true }))
      if (index < 2) await hand.write(`Box ${index + 1}, room`, room!)
      await hand.write(`Box ${index + 1}, name`, name!)
      await hand.write(`Box ${index + 1}, volume in³`, '18')
      await hand.write(`Box ${index + 1}, breakers`, breaker!)
    }
    await hand.write('Point 1, room', 'Hall')
    await hand.write('Point 1, name', 'Hall light')
    await hand.choose('Point 1, switched from 1', 'hall door')
    await hand.tap(lead.getByRole('button', { name: 'Point', exact: true }))
    await hand.write('Point 2, room', 'Stair')
    await hand.write('Point 2, name', 'Stair light')
    await hand.choose('Point 2, switched from 1', 'stair foot')
    await hand.tap(lead.getByRole('button', { name: '+ place' }).last())
    await hand.choose('Point 2, switched from 2', 'stair head')
    await hand.press('Open the job')
    await expect(lead.getByRole('heading', { level: 1 })).toContainText('2 points in 3 boxes. Nobody is scheduled yet.')
    await expect(lead.getByRole('link', { name: '+1 555 0100' })).toHaveAttribute('href', 'tel:+15550100')
    console.log(`job by hand of three boxes: ${hand.taps} taps`)
    expect(hand.taps, hand.path.join('\n')).toBeLessThanOrEqual(50)
    await visit()
  })

  const jobId = idOf(lead)
  await test.step('a simple box and a 3-way pair, tested, by the next step alone', async () => {
    await kit.goto('/my-day')
    await kit.getByRole('link', { name: /Marl House/ }).click()
    const worlds = {
      'hall door': { cables: [twoAndGround, twoAndGround], meter: practiceMeter(oneSwitch(), 5), circuits: { 1: '2' } },
      'stair foot': {
        cables: [twoAndGround, 'three and ground'],
        meter: practiceMeter(practice('back-stairs'), 5),
        circuits: { 2: '10' },
        terminals: backStairsTerminals,
      },
      'stair head': { cables: [twoAndGround, 'three and ground'] },
    }
    const follower = new Follower(kit, jobId, worlds, [unit(plain, 1), unit('Relay module, one channel', 2)], 'KM blue')
    await follower.until(() => kit.getByTestId('next-step').getByText('Every device paired and named').isVisible())
    // The guide went from box to box, to the power and to the tests by itself.
    for (const said of ['Go to hall door', 'Go to stair foot', 'Go to stair head', 'Test its points'])
      expect(follower.path.some((one) => one.startsWith(said))).toBe(true)
    console.log(`job of three boxes, tested: ${follower.taps} taps, ${follower.readings} readings by the meter`)
    expect(faultsOf(kit)).toEqual([])
  })

  await test.step('paired and named; the list, the signature', async () => {
    await kit.goto(`/jobs/${jobId}/tests`)
    for (const [serial, name] of [
      ['NU-1', 'hall lantern'],
      ['NU-2', 'stair glow'],
    ]) {
      const device = kit.getByTestId(`unit-${serial}`)
      await device.getByLabel(`Network of ${serial}`).fill('marl-24')
      await device.getByLabel(`Wi-Fi level at ${serial}`).fill('−57,5')
      await device.getByRole('button', { name: 'Paired', exact: true }).click()
      await expect(device.getByText('on marl-24')).toBeVisible()
      await device.getByLabel(`Name of ${serial}`).fill(name!)
      await device.getByRole('button', { name: 'Name it' }).click()
      await expect(device.getByText(name!, { exact: true })).toBeVisible()
    }
    await kit.getByTestId('next-step').getByRole('link', { name: 'To the handover' }).click()
    const items = kit.getByRole('checkbox', { name: /^(Shown|Tried|Agreed|Household|Installer|Labels|Warranty)/ })
    await expect(items.nth(6)).toBeVisible()
    for (let index = 0; index < (await items.count()); index++) {
      await items.nth(index).click()
      await expect(items.nth(index)).toBeChecked()
    }
    await kit.getByLabel('Name of the person signing').fill('Pell Marsh')
    const glass = kit.getByTestId('signature')
    const take = kit.getByRole('button', { name: 'Take the signature' })
    await glass.click()
    // A dot is none.
    await expect(kit.getByText('That is not a signature: sign with the whole name.')).toBeVisible()
    await expect(take).toBeDisabled()
    await sign(kit)
    await take.click()
    await expect(kit.getByText(/^Signed by Pell Marsh/)).toBeVisible()
    await kit.getByRole('button', { name: 'Hand over' }).click()
    await expect(kit.getByRole('heading', { level: 1 })).toContainText('Handed over')
    await expect(kit.getByTestId('next-step')).toContainText('Everything is handed over')
    await kit.getByTestId('next-step').getByRole('button', { name: 'End the visit' }).click()
    await kit.getByTestId('next-step').getByRole('button', { name: 'Yes, end the visit' }).click()
    await expect(kit.getByTestId('next-step')).toBeHidden()
  })

  await test.step('the customer calls: found by name and room, and the crew is told', async () => {
    await lead.goto('/callbacks')
    await lead.getByRole('link', { name: 'New callback' }).click()
    await lead.getByLabel('Which device? Customer, street, room, name or serial').fill('marsh weir stair')
    await lead.getByRole('button', { name: /^stair glow/ }).click()
    await lead.getByRole('button', { name: 'nothing happens at the wall' }).click()
    await lead.getByLabel('In their words').fill('The stair is dark since the storm')
    await lead.getByTestId('next-question').getByRole('button', { name: 'Doesn’t know' }).click()
    // Left in the middle of the call, and back.
    await lead.goto('/jobs')
    await lead.goto('/call')
    await expect(lead.getByTestId('draft')).toBeVisible()
    await lead.getByRole('button', { name: 'Open the callback' }).click()
    await expect(lead.getByRole('heading', { level: 1 })).toContainText('It waits for a visit.')
  })

  await test.step('the second job: two gangs on two feeds', async () => {
    await lead.goto('/jobs/new')
    await lead.getByRole('button', { name: 'By hand' }).click()
    // What was stored is no draft any more.
    await expect(lead.getByTestId('draft')).toBeHidden()
    await lead.getByLabel('What the job is').fill('Rill house, sail room')
    await lead.getByLabel('Customer').fill('Ode Rill')
    await lead.getByLabel('What the crew calls the home').fill('Rill House')
    await lead.getByLabel('Address').fill('9 Weir Path')
    await lead.getByRole('button', { name: 'Breaker', exact: true }).click()
    await lead.getByLabel('Box 1, room').fill('Sail room')
    await lead.getByLabel('Box 1, name').fill('sail room')
    await lead.getByLabel('Box 1, gangs').fill('2')
    await lead.getByLabel('Box 1, volume in³').fill('36')
    await lead.getByLabel('Box 1, breakers').fill('1, 2')
    await lead.getByLabel('Point 1, room').fill('Sail room')
    await lead.getByLabel('Point 1, name').fill('Bench light')
    await pick(lead, 'Point 1, switched from 1', 'sail room, gang 1')
    await lead.getByRole('button', { name: 'Point', exact: true }).click()
    await lead.getByLabel('Point 2, room').fill('Sail room')
    await lead.getByLabel('Point 2, name').fill('Rack light')
    await pick(lead, 'Point 2, switched from 1', 'sail room, gang 2')
    await lead.getByRole('button', { name: 'Open the job' }).click()
    await expect(lead.getByRole('heading', { level: 1 })).toContainText('2 points in 1 box.')
    await visit()
    const second = idOf(lead)
    await kit.goto(`/jobs/${second}`)
    const worlds = {
      'sail room': {
        cables: [twoAndGround, twoAndGround, twoAndGround, twoAndGround],
        meter: practiceMeter(practice('sail-room'), 5),
        circuits: { 1: '2', 2: '4' },
      },
    }
    const follower = new Follower(kit, second, worlds, [unit(plain, 3), unit(plain, 4)], 'KM green')
    await follower.until(() => kit.getByRole('link', { name: 'Test its points' }).isVisible())
  })
  for (const page of [lead, kit]) expect(faultsOf(page)).toEqual([])
})

test('a new company plans, sells and buys for a home: stores, prices, an offer, parts', async ({ browser }) => {
  const baseURL = process.env.CIRCUITRY_EMPTY_URL
  const lead = await browserOf(browser, { baseURL, ...desk })
  await loginOf(lead, 'uma.fell', 'a long password')
  await test.step('nothing lies anywhere yet: a store and a van', async () => {
    await lead.goto('/stock')
    await expect(lead.getByRole('heading', { level: 1 })).toHaveText('Begin with a store and the vans.')
    for (const [name, kind] of [
      ['Store', 'store'],
      ['Van of Kit', 'van'],
    ] as const) {
      await lead.getByLabel('Name of the store or van').fill(name)
      await lead.getByRole('group', { name: 'Kind of place' }).getByRole('button', { name: kind }).click()
      await lead.getByRole('button', { name: 'Add', exact: true }).click()
      await expect(lead.getByRole('button', { name: `Take ${name} off` })).toBeVisible()
    }
    await expect(lead.getByRole('heading', { level: 1 })).toHaveText('0 articles in 2 places; enough for what was agreed.')
  })
  let path = ''
  await test.step('a home with a light that nobody looked at: what may be is said, and one way is offered', async () => {
    path = await openSurvey(lead, 'Sluice Cottage')
    await lead.goto(`${path}/plan`)
    await expect(lead.getByRole('heading', { level: 1 })).toHaveText('There is no point left to plan: note points in the survey first.')
    await lead.goto(`${path}/survey`)
    await lead.getByRole('button', { name: 'Hall', exact: true }).click()
    await lead.getByRole('button', { name: '+ Box' }).click()
    await lead.getByRole('button', { name: 'door', exact: true }).click()
    const gang = lead.getByRole('region', { name: 'Gang 1', exact: true })
    await gang
      .getByRole('group', { name: /what sits in it/ })
      .getByRole('button', { name: 'switch', exact: true })
      .click()
    await gang
      .getByRole('group', { name: /what it switches/ })
      .getByRole('button', { name: 'LED', exact: true })
      .click()
    await atServer(lead, path, /"technology":"led"/)
    await lead.goto(`${path}/plan`)
    await expect(lead.getByTestId('sum-1')).toHaveText(/\$\d/)
    await lead.getByRole('button', { name: 'Make the offer' }).click()
    await expect(lead.getByRole('heading', { name: /to sign here or on the customer’s page/ })).toBeVisible()
  })
  await test.step('signed at the kitchen table; parts are short, and on the list to buy', async () => {
    await sign(lead)
    await lead.getByRole('button', { name: /^Sign for/ }).click()
    await expect(lead.getByRole('heading', { level: 1 })).toHaveText(/^Agreed for \$[\d,.]+: 0 of 1 point/)
    await lead.goto(`${path}/parts`)
    await expect(lead.getByRole('heading', { level: 1 })).toHaveText(/^0 of \d+ parts? picked\. \d+ articles? (is|are) short\.$/)
    await lead.getByRole('button', { name: 'By box' }).click()
    // A module under a lamp goes into no box.
    await expect(lead.getByRole('heading', { level: 1 })).toHaveText(/^0 of 1 bag ready\.|^No box waits for a device/)
    await lead.goto('/stock')
    const buy = lead.locator('[data-testid^="buy-"]').first()
    await expect(buy).toContainText('Sluice Cottage')
    await buy.getByRole('button', { name: /is ordered/ }).click()
    await lead.getByRole('button', { name: 'It is here' }).first().click()
    await lead.getByRole('dialog').getByRole('button', { name: 'Store it' }).click()
    await expect(lead.getByRole('dialog')).toHaveCount(0)
  })
  expect(faultsOf(lead)).toEqual([])
})

test('a new company surveys its first home without network', async ({ browser }) => {
  const baseURL = process.env.CIRCUITRY_EMPTY_URL
  const office = await browserOf(browser, { baseURL, ...desk })
  const field = await browserOf(browser, { baseURL, ...lonePhone })
  for (const page of [office, field]) await loginOf(page, 'uma.fell', 'a long password')
  await surveyWithoutNetwork(office, field, await openSurvey(office, 'Weir End'))
  for (const page of [office, field]) expect(faultsOf(page)).toEqual([])
})
