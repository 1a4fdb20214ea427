import { expect, type Page } from '@playwright/test'
import { Hand } from './support/hand'
import { ask, desk, faultsOf, jobAt, loseNetwork, person, phone, pick, test } from './support/people'

/** The smallest picture there is. */
const picture = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64')
const inLook = (page: Page, name: string, box = page) => box.getByRole('button', { name, exact: true })

async function openSurvey(lead: Page, name: string): Promise<string> {
  await lead.goto('/jobs/new')
  await lead.getByRole('button', { name: 'Survey on site' }).click()
  await lead.getByLabel('What the job is').fill(`${name}, survey`)
  await lead.getByLabel('Customer').fill(`Pim Lockyer of ${name}`)
  await lead.getByLabel('What the crew calls the home').fill(name)
  await lead.getByLabel('Address').fill(`9 Withy Lane, ${name}`)
  await lead.getByLabel('Year built').fill('1962')
  await lead.getByRole('button', { name: 'Open the job' }).click()
  await expect(lead.getByRole('heading', { level: 1 })).toContainText('0 points in 0 boxes. Nobody is scheduled yet.')
  return new URL(lead.url()).pathname
}

test('a phone without network surveys a home that nobody knows; the office sees it when it is back', async ({ browser }) => {
  const office = await person(browser, 'odo.reed', desk)
  const path = await openSurvey(office, `Withy Cottage ${Date.now() % 100_000}`)
  const field = await person(browser, 'odo.reed', phone)
  const hand = new Hand(field)
  const began = Date.now()
  await field.goto(`${path}/survey`)
  await expect(field.getByRole('heading', { level: 1 })).toHaveText('Begin with the first room.')
  await loseNetwork(field)

  const counted: Record<string, number> = {}
  const count = async (what: string, work: () => Promise<void>) => {
    const before = hand.taps
    await work()
    counted[what] = hand.taps - before
  }
  const gang = (number: number) => field.getByRole('region', { name: `Gang ${number}`, exact: true })
  const word = (name: string | RegExp, where: Page | ReturnType<typeof gang> = field) =>
    hand.tap(where.getByRole('button', { name, exact: typeof name === 'string' }))
  const addBox = async (name: string) => {
    await word('+ Box')
    await word(name)
  }
  const look = async (is: string, feeds: string, number = 1) => {
    await word(is, gang(number).getByRole('group', { name: /what sits in it/ }) as never)
    await word(feeds, gang(number).getByRole('group', { name: /what it switches/ }) as never)
  }

  await test.step('the panel as it sits, and a second one behind the dryer', async () => {
    await word('Hall')
    await word('Panel and breakers')
    for (const number of ['1', '2', '3']) await word(`+ ${number}`)
    await word('There is another panel')
    await field.getByLabel('Called').fill('behind the dryer')
    await field.getByLabel('The breaker that feeds it').click()
    await field.getByRole('option', { name: '3' }).click()
    await field.getByRole('button', { name: 'Record the panel' }).click()
    await expect(field.getByRole('group', { name: 'Breakers as they sit' }).getByRole('button')).toHaveCount(1)
    await word('+ 1')
    await word('Panel and breakers')
  })

  await test.step('a usual box of one gang, looked into', async () => {
    await count('one gang', async () => {
      await word('+ Box')
      await word('1 (panel)')
      await word('door')
      await look('switch', 'LED')
      await word('18 in³')
      await word('14/2')
      await word('neutral in the box')
    })
    await expect(field.getByTestId('verdict')).toContainText('Neutral seen; 10 of 18 in³ used.')
    expect(counted['one gang'], hand.path.join('\n')).toBeLessThanOrEqual(8)
  })

  await test.step('a picture, and a box like the last one', async () => {
    await field.getByLabel('Picture as found').setInputFiles({ name: 'box.png', mimeType: 'image/png', buffer: picture })
    // The picture is on this device yet; the letters are tapped onto it all the same.
    await word(/^Letters on the picture by/)
    const sheet = field.getByTestId('photo-sheet')
    await sheet.locator('img').click({ position: { x: 60, y: 80 } })
    await expect(sheet.getByText('A', { exact: true })).toBeVisible()
    await sheet.locator('img').click({ position: { x: 160, y: 120 } })
    await expect(sheet.getByText('B', { exact: true })).toBeVisible()
    await field.getByRole('button', { name: 'Take B off' }).click()
    await expect(sheet.getByText('B', { exact: true })).toHaveCount(0)
    await field.getByRole('button', { name: 'Close' }).click()
    await addBox('far door')
    await word('Like door')
    await expect(field.getByTestId('verdict')).toContainText('Neutral taken to be there, as in another box; 10 of 18 in³ used.')
  })

  await test.step('three gangs with two cables each: too full, and by how much', async () => {
    await word('+ Room')
    await word('Kitchen')
    await count('three gangs', async () => {
      await word('+ Box')
      await word('One gang more')
      await word('One gang more')
      await word('door')
      for (const number of [1, 2, 3]) await look('switch', 'LED', number)
      await word('44 in³')
      for (let cables = 0; cables < 6; cables++) await word('12/2')
      await word('neutral in the box')
    })
    // 12 insulated × 2.25 + three yokes 13.5 + grounds 2.25 + two further a quarter each 1.125 = 43.875: NEC 314.16(B), 2020.
    await expect(field.getByTestId('verdict')).toContainText('Neutral seen; 43.88 of 44 in³ used.')
    await word('12/2')
    await expect(field.getByTestId('verdict')).toContainText('Too full: 48.94 of 44 in³')
    expect(counted['three gangs'], hand.path.join('\n')).toBeLessThanOrEqual(25)
  })

  await test.step('the rest with the plates on', async () => {
    await count('plates on', async () => {
      for (const room of ['Bedroom', 'Bathroom', 'Stair']) {
        await word('+ Room')
        await word(room)
        for (const name of ['door', 'window', 'far door']) {
          await addBox(name)
          await look('switch', 'LED')
        }
      }
    })
    // Nine boxes of twelve: in proportion 120 for the twelve.
    expect(counted['plates on'], hand.path.join('\n')).toBeLessThanOrEqual(90)
    await expect(field.getByRole('heading', { level: 1 })).toContainText('things not looked at yet, in 4 rooms.')
    await expect(field.getByText('Worth opening before anything is ordered:')).toBeVisible()
  })
  await test.step('the router, the signal at a box, and what lies between', async () => {
    await word('Networks')
    await word('Router, extender or hub')
    await field.getByLabel('Its name (SSID), as written').fill('withy')
    await field.getByLabel('Its 2.4 GHz channel').fill('11')
    await pick(field, 'The room it stands in', 'Hall')
    await word('Record it')
    await expect(field.getByText('router · 2.4 and 5 GHz · channel 11')).toBeVisible()
    await word('Signal')
    const signal = field.getByRole('region', { name: 'Signal in the home' })
    await expect(signal).toContainText('Say where the rooms are, and the signal can be judged.')
    await signal.getByRole('button', { name: 'Say it' }).first().click()
    await expect(signal).toContainText(/2 of 2 boxes have signal enough/)
    await expect(signal).toContainText('Mesh channel clear of this Wi-Fi (11)')
    await word('Signal')
  })
  const waiting = Number(/with (\d+) pending/.exec((await field.getByTestId('sync').textContent()) ?? '')?.[1] ?? 0)
  console.log(
    `survey by taps: ${JSON.stringify(counted)}, ${hand.taps} in all, ${Math.round((Date.now() - began) / 1000)} s by machine; ${waiting} entries waited`,
  )
  expect(waiting).toBeGreaterThan(60)

  await test.step('back: everything arrives, the office sees it', async () => {
    const back = Date.now()
    await field.context().setOffline(false)
    await expect(field.getByTestId('sync')).toHaveText('live', { timeout: 60_000 })
    console.log(`${waiting} entries on the server after ${((Date.now() - back) / 1000).toFixed(1)} s`)
    await office.goto(`${path}/survey`)
    await expect(office.getByRole('navigation', { name: 'Rooms' }).getByRole('button')).toHaveCount(6)
    await expect(office.getByText('Too full: 48.94 of 44 in³')).toHaveCount(0)
    await office.getByRole('button', { name: /^Kitchen/ }).click()
    await expect(office.getByText('Too full: 48.94 of 44 in³ with a device in each gang (NEC 314.16).')).toBeVisible()
    const { siteState, jobState } = await ask<{
      siteState: { panels: object; boxes: object }
      jobState: { photos: unknown[]; pointOrder: unknown[]; boxIds: unknown[] }
    }>(office, `/api${path}`)
    expect([Object.keys(siteState.panels).length, Object.keys(siteState.boxes).length]).toEqual([2, 12])
    expect([jobState.photos.length, jobState.pointOrder.length, jobState.boxIds.length]).toEqual([1, 13, 12])
  })

  await test.step('the office draws the rooms: a map of the signal, and where one more access point would help', async () => {
    await office.getByRole('button', { name: 'Signal', exact: true }).click()
    await office.getByRole('button', { name: 'rough plan' }).click()
    const left = office.getByRole('group', { name: 'Rooms that are not on the plan' })
    for (const room of ['Hall', 'Kitchen', 'Bedroom', 'Bathroom', 'Stair']) {
      await left.getByRole('button', { name: room }).click()
      await office.getByRole('button', { name: 'Put it on the plan' }).click()
      await expect(left.getByRole('button', { name: room })).toHaveCount(0)
    }
    const stair = office.getByRole('button', { name: /^Stair, 4 by 3 metres/ })
    await stair.focus()
    await office.keyboard.press('Shift+ArrowRight')
    await expect(office.getByRole('button', { name: /^Stair, 4.5 by 3 metres/ })).toBeVisible()
    await expect(office.getByTestId('heat-map')).toBeVisible()
    await expect(office.getByText(/^Signal on floor 0: enough in \d+ % of its area$/)).toBeVisible()
  })

  await test.step('what was mistyped is put right in two taps; a box that is not there comes off', async () => {
    await office.getByRole('navigation', { name: 'Rooms' }).getByRole('button', { name: /^Hall/ }).click()
    await office.getByRole('button', { name: /^far door, / }).click()
    await office.getByText('Put something right').click()
    await office.getByLabel('Name of the box').fill('back door')
    await office.getByRole('button', { name: 'Rename' }).click()
    await expect(office.getByRole('heading', { level: 2, name: 'back door' })).toBeVisible()
    await office.getByLabel('Why it comes off the record').fill('listed twice')
    await office.getByRole('button', { name: 'Not there: take it off' }).click()
    await expect(inLook(office, 'back door')).toHaveCount(0)
    await office.goto(`${path}/history`)
    await expect(office.getByText('took back door off the record – listed twice')).toBeVisible()
  })
  expect([faultsOf(office), faultsOf(field)]).toEqual([[], []])
})

test('in the middle of the work a switch elsewhere is found: the proof ends, and whoever has hands in is alarmed', async ({ browser }) => {
  const lead = await person(browser, 'odo.reed', desk)
  const path = `/jobs/${await jobAt(lead, 'The Net Loft')}`
  const { siteState } = await ask<{
    siteState: {
      boxes: Record<string, { id: string; name: string; proofId: string | null }>
      proofs: Record<string, { status: string; personId: string; name: string }>
    }
  }>(lead, `/api${path}`)
  const proven = Object.values(siteState.boxes).find(({ proofId }) => proofId && siteState.proofs[proofId]?.status === 'living')!
  const who = siteState.proofs[proven.proofId!]!
  const mate = await person(browser, who.name.toLowerCase().replace(' ', '.'), phone)
  await mate.goto(`${path}/box/${proven.id}`)
  await expect(mate.getByTestId('sync')).toHaveText('live')

  await lead.goto(`${path}/survey`)
  await lead.getByRole('button', { name: /^Mud room/ }).click()
  await lead.getByRole('button', { name: '+ Box' }).click()
  await lead.getByRole('button', { name: 'window', exact: true }).click()
  await expect(lead.getByRole('heading', { level: 2, name: 'window' })).toBeVisible()
  await expect(mate.getByRole('alertdialog')).toHaveCount(0)
  await lead.getByText('Put something right').click()
  await lead.getByLabel('A switch elsewhere acts on something in here').click()
  await lead.getByRole('option', { name: new RegExp(`^${proven.name}`) }).click()
  await lead.getByRole('button', { name: 'Add it' }).click()
  await expect(mate.getByText('corrected your box on record: its name, its room or its other switches.')).toBeVisible()
  await mate.getByRole('button', { name: 'I have stopped' }).click()
  await expect(mate.getByTestId('alarm')).toHaveCount(0)
  await lead.goto(`${path}/history`)
  await expect(lead.getByText(/is switched together with .*One proof has ended\./)).toBeVisible()
  expect([faultsOf(lead), faultsOf(mate)]).toEqual([[], []])
})

test('taps that are faster than the line: none writes over another', async ({ browser }) => {
  const lead = await person(browser, 'odo.reed', desk)
  const path = await openSurvey(lead, `Reed Lane ${Date.now() % 100_000}`)
  const field = await person(browser, 'odo.reed', { ...phone, answersLateMs: 500 })
  await field.goto(`${path}/survey`)
  const tap = (name: string | RegExp, where = field.locator('main')) =>
    where
      .getByRole('button', { name, exact: typeof name === 'string' })
      .first()
      .click()
  await tap('Hall')
  await tap('+ Box')
  await tap('One gang more')
  await tap('door')
  const gang = (number: number) => field.getByRole('region', { name: `Gang ${number}`, exact: true })
  await expect(gang(2)).toBeVisible()
  // One after the other, without waiting for any answer.
  await tap('switch', gang(1).getByRole('group', { name: /what sits in it/ }))
  await tap('dimmer', gang(2).getByRole('group', { name: /what sits in it/ }))
  await tap('LED', gang(1).getByRole('group', { name: /what it switches/ }))
  for (let cables = 0; cables < 3; cables++) await tap('14/2')
  await tap('neutral in the box')
  const more = gang(1).getByRole('button', { name: 'One lamp more' })
  for (let lamps = 0; lamps < 3; lamps++) await more.click()
  await expect(gang(1).getByText('4 lamps')).toBeVisible()
  await expect(field.getByRole('list', { name: 'Cables in it' }).getByRole('listitem')).toHaveCount(3)
  await expect(field.getByRole('button', { name: 'neutral in the box', exact: true })).toHaveAttribute('aria-pressed', 'true')
  const { siteState } = await ask<{
    siteState: { surveys: Record<string, { old: { is: string }[]; cables: unknown[]; neutral: string }> }
  }>(lead, `/api${path}`)
  const [survey] = Object.values(siteState.surveys)
  expect([survey!.old.map(({ is }) => is), survey!.cables.length, survey!.neutral]).toEqual([['switch', 'dimmer'], 3, 'here'])

  // What is no number is said, and stays where it was typed.
  const size = field.getByLabel('Another volume, in³')
  await size.fill('big')
  await size.blur()
  await expect(field.getByText('A volume is a number of in³.')).toBeVisible()
  await expect(size).toHaveValue('big')
  await field.getByLabel('dBm').fill('5')
  await field.getByLabel('dBm').blur()
  await expect(field.getByText('A level is a number from −10 to −120 dBm.')).toBeVisible()
  expect(faultsOf(field)).toEqual([])
})

test('whoever is not on the visit looks, and nothing they tap is stored; another branch sees nothing', async ({ browser }) => {
  const kit = await person(browser, 'kit.ivers', phone)
  const path = `/jobs/${await jobAt(kit, 'School studio 5')}`
  await kit.goto(`${path}/survey`)
  await expect(kit.getByText('You are not on a visit of this job: you can look, and nothing you tap is stored.')).toBeVisible()
  await kit.getByRole('button', { name: '+ Room' }).click()
  await kit.getByRole('button', { name: 'Kitchen', exact: true }).click()
  await expect(kit.getByTestId('refusal')).toContainText('You are not on a crew at this site.')
  const sefa = await person(browser, 'sefa.vale', phone)
  await sefa.goto(`${path}/survey`)
  await expect(sefa.getByRole('heading', { level: 1 })).toHaveText('This job cannot be shown.')
})
