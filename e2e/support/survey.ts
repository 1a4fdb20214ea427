import { expect, test, type Page } from '@playwright/test'
import { Hand } from './hand'
import { ask, loseNetwork, pick, tapStored } from './people'

/** The smallest picture there is. */
const picture = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64')
const inLook = (page: Page, name: string, box = page) => box.getByRole('button', { name, exact: true })

/** A job that holds nothing but where the home is. @returns its path */
export async function openSurvey(lead: Page, name: string): Promise<string> {
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

/**
 * A phone without network surveys a home of five rooms, twelve boxes and a second panel, with a picture and its letters, and comes
 * back; the office sees verdicts and draws the map.
 */
export async function surveyWithoutNetwork(office: Page, field: Page, path: string): Promise<void> {
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
    await tapStored(office, 'Not there: take it off')
    await expect(inLook(office, 'back door')).toHaveCount(0)
    await office.goto(`${path}/history`)
    await expect(office.getByText('took back door off the record – listed twice')).toBeVisible()
  })
}
