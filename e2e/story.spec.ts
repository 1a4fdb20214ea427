import { expect, type Page } from '@playwright/test'
import type { SiteState } from '../core/site'
import { accessible } from './support/accessible'
import { bench, circuit, jobFor, openAndTag, prove, reference, referenceAgain, sweep, tester, twoCables } from './support/box'
import { ask, desk, enter, faultsOf, loseNetwork, person, phone, lonePhone, tapStored, test } from './support/people'

test('A behind the wall, B at the panel, C in the cellar without signal', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  const a = await person(browser, 'bram.ash', phone)
  const b = await person(browser, 'kit.ivers', phone)
  const c = await person(browser, 'odo.reed', lonePhone, '/my-day')
  let jobId = ''

  await test.step('a job for three', async () => {
    jobId = await jobFor(office, ['bram.ash', 'kit.ivers', 'odo.reed'])
  })

  await test.step('A has 2 opened by B on request, tags, and proves the box in few taps', async () => {
    await b.goto(`/jobs/${jobId}/panel`)
    await bench(a, jobId, 'tide door')
    // Who is where is seen by the others.
    await expect(a.getByTestId('crew')).toContainText('at the panel')
    await a.getByRole('button', { name: 'Ask whoever is at the panel to open 2' }).click()
    await expect(b.getByTestId('panel-sentence')).toContainText('One breaker is to be opened.')
    await expect(b.getByTestId('asks')).toContainText('Bram Ash asks: open 2 for tide door')
    await b.getByRole('button', { name: 'I opened breaker 2' }).click()
    await expect(a.getByLabel('Your lock')).toBeVisible()
    await a.getByLabel('Your lock').fill('BA red 1')
    // From here to proven dead: taps that are not digits of a reading are counted.
    let taps = 0
    const tap = async (name: string | RegExp) => {
      taps++
      await a.getByRole('button', { name }).click()
    }
    await tap('Hang my tag on 2')
    await tap('two and ground')
    await tap('two and ground')
    await tap(/Store 6 conductors/)
    for (const [digits, button] of [
      ['238', 'The tester works'],
      ['121', 'Next'],
      ['120.4', 'Next'],
      ['0.5', 'The reference is good'],
      ['0.2', /^All \d+ read, none higher/],
      ['120.4', 'Next'],
      ['0.5', 'Still good'],
      ['238', 'The tester still works'],
    ] as const) {
      for (const key of digits) await a.getByRole('button', { name: key === '.' ? 'point' : key, exact: true }).click()
      await tap(button)
    }
    await expect(a.getByText('You may work in this box.')).toBeVisible()
    expect(taps).toBeLessThanOrEqual(12)
  })

  await test.step('power for a moment: everyone clear, the tag is suspended, then hung and proven again', async () => {
    await a.getByRole('button', { name: 'Power for a moment' }).click()
    await a.getByRole('button', { name: 'Ask everyone to stand clear' }).click()
    await expect(b.getByTestId('asks')).toContainText('power on 2 for a moment, to find the line')
    await expect(b.getByTestId('asks')).toContainText('Not yet: BA')
    await a.getByRole('button', { name: 'Hands out, ends safe: I am clear' }).click()
    await expect(a.getByText('You may work in this box.')).toBeHidden()
    await a.getByRole('button', { name: 'Ask to close 2' }).click()
    await expect(b.getByTestId('panel-2')).toContainText('BEING CLOSED')
    await a.getByRole('button', { name: 'It is closed' }).click()
    await expect(b.getByTestId('asks')).toContainText('2 is LIVE with boxes open. Stand clear.')
    await b.getByRole('button', { name: 'I opened breaker 2' }).click()
    await a.getByRole('button', { name: 'My lock hangs again on 2' }).click()
    await prove(a)
  })

  await test.step('C tags and begins upstairs, loses the network in the cellar, and still finishes the proof', async () => {
    await bench(c, jobId, 'cellar light')
    await openAndTag(c, '4', 'OR blue 1')
    await twoCables(c)
    await tester(c)
    // The record is on the device before the stairs.
    await loseNetwork(c)
    await reference(c)
    await sweep(c)
    await referenceAgain(c)
    await enter(c, '238', 'The tester still works')
    await expect(c.getByText('You may work in this box.')).toBeVisible()
    await expect(c.getByTestId('sync')).toContainText('with 4 pending')
  })

  await test.step('without network nobody gets leave; a fact is kept; a killed tab loses nothing', async () => {
    await circuit(c, '4')
    await expect(c.getByRole('button', { name: 'Ask to close breaker 4' })).toBeDisabled()
    await c.keyboard.press('Escape')
    // C saw breaker 2 on at the cellar's own door and says so; nobody hears it yet.
    await c.goto(`/jobs/${jobId}`)
    await c.getByRole('button', { name: /^2:/ }).click()
    await c.getByRole('button', { name: 'Found it CLOSED' }).click()
    await expect(c.getByTestId('sync')).toContainText('with 5 pending')
    const context = c.context()
    await c.close()
    const again = await context.newPage()
    await again.goto(`/jobs/${jobId}`)
    await expect(again.getByTestId('sync')).toContainText('5 pending')
    await expect(again.getByText('the last update of this device')).toBeVisible()
    await expect(a.getByText('You may work in this box.')).toBeVisible()

    await context.setOffline(false)
    // Sent in order, once each; the late fact ends A's proof and alarms A.
    await expect(again.getByTestId('sync')).toHaveText('live', { timeout: 30_000 })
    await expect(a.getByTestId('alarm')).toContainText('Odo Reed found a breaker that was not as you left it.')
    await a.getByRole('button', { name: 'I have stopped' }).click()
    await expect(a.getByText('You may work in this box.')).toBeHidden()
    // Breaker 2 was off while C read the cellar box, so it was never ruled out as a second feed there: that proof ends too.
    await expect(again.getByRole('button', { name: /^4: OPEN, NOT PROVEN/ })).toBeVisible()
    await again.goto(`/jobs/${jobId}/history`)
    for (const line of [
      'proved cellar light dead; tester good again at 238 V on proving unit',
      'found breaker 2 closed – found. 2 proofs have ended.',
    ])
      await expect(again.getByText(line)).toHaveCount(1)
    expect(faultsOf(again)).toEqual([])
  })

  await test.step('A’s phone dies; the tag comes off on B’s phone with A’s own PIN, and only with it', async () => {
    await a.context().close()
    await expect(b.getByTestId('crew')).toContainText('last heard')
    await b.getByTestId('panel-2').click()
    await b.getByRole('button', { name: 'phone dead?' }).click()
    await b.getByLabel('PIN of Bram Ash').fill('0000')
    await b.getByRole('button', { name: 'take my tag off' }).click()
    await expect(b.getByTestId('refusal')).toContainText('The PIN is wrong.')
    await b.getByLabel('PIN of Bram Ash').fill('7341')
    await b.getByRole('button', { name: 'take my tag off' }).click()
    await expect(b.getByText('No tag hangs here.')).toBeVisible()
    await b.keyboard.press('Escape')
    await b.goto(`/jobs/${jobId}/history`)
    await expect(b.getByText('own PIN, on KI’s device')).toBeVisible()
  })
  for (const page of [office, b]) expect(faultsOf(page)).toEqual([])
})

test('Stop: one tap, and everybody here is told; work goes on by whoever stopped it, or a lead', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  const a = await person(browser, 'bram.ash', phone)
  const b = await person(browser, 'kit.ivers', phone)
  const jobId = await jobFor(office, ['bram.ash', 'kit.ivers'])
  // Kit has put a hand to something here: that is being on site.
  await bench(b, jobId, 'cellar light')
  await openAndTag(b, '4', 'KI blue 2')
  await a.goto(`/jobs/${jobId}`)
  await a.getByRole('button', { name: 'Stop', exact: true }).click()
  await expect(a.getByRole('dialog')).toContainText('Call the emergency number')
  await expect(b.getByTestId('alarm')).toContainText('Bram Ash stopped the work.')
  await expect(office.getByTestId('alarm')).toBeHidden()
  await a.getByRole('button', { name: 'smoke or fire' }).click()
  await b.getByRole('button', { name: 'I have stopped' }).click()
  await expect(b.getByTestId('alarm')).toBeHidden()
  await expect(b.getByTestId('stopped')).toContainText('Bram Ash')
  await expect(b.getByTestId('stopped')).toContainText('smoke or fire')
  // Who did not give it, and is no lead, cannot end it.
  await b.getByRole('button', { name: 'Stop', exact: true }).click()
  await expect(b.getByRole('dialog')).toContainText('Bram Ash or a lead restarts work.')
  await accessible(b)
  await b.keyboard.press('Escape')
  await a.getByLabel('Why work restarts').fill('a lamp had burst, nothing burns')
  await a.getByRole('button', { name: 'Restart work' }).click()
  await expect(b.getByTestId('stopped')).toBeHidden()
  for (const page of [a, b]) expect(faultsOf(page)).toEqual([])
})

test('a permit to close stands on every page until it is answered, and says on each when it stands no more', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  const a = await person(browser, 'bram.ash', phone)
  const b = await person(browser, 'kit.ivers', phone)
  const jobId = await jobFor(office, ['bram.ash', 'kit.ivers'])
  const { siteState } = await ask<{ siteState: SiteState }>(a, `/api/jobs/${jobId}`)
  const { id: breakerId } = Object.values(siteState.breakers).find(({ number }) => number === '2')!
  const [box] = Object.values(siteState.boxes)
  const give = async (who: Page, command: object) => {
    const envelope = { id: crypto.randomUUID(), stream: 'site', streamId: siteState.siteId, at: new Date().toISOString(), basedOnSeq: 99 }
    expect(await ask(who, '/api/commands', { ...envelope, command })).toMatchObject({ status: 'accepted' })
  }
  await give(a, { type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' })
  await give(a, { type: 'requestClose', grantId: crypto.randomUUID(), breakerId, clearanceId: null })
  const pages = ['', '/panel', '/tests', '/handover', '/directory', '/history', `/box/${box!.id}`, `/wiring/${box!.id}`]
  const dock = a.getByTestId('next-step')
  for (const path of [...pages, '/tracing']) {
    await a.goto(`/jobs/${jobId}${path}`)
    await expect(dock.getByRole('button', { name: path === '/tracing' ? 'They are closed' : 'It is closed' })).toBeVisible()
  }
  await give(b, { type: 'openBox', boxId: box!.id })
  await tapStored(a, 'I have stopped')
  await expect(a.getByTestId('alarm')).toHaveCount(0)
  for (const path of pages) {
    await a.goto(`/jobs/${jobId}${path}`)
    await expect(dock).toContainText('Permit withdrawn. Do not close: Tide door is open behind it.')
  }
  await dock.getByRole('button', { name: 'Not closed, still open' }).click()
  await expect(dock.getByRole('button', { name: 'Not closed, still open' })).toBeHidden()
  for (const page of [a, b]) expect(faultsOf(page)).toEqual([])
})
