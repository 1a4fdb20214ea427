import { expect, type Page } from '@playwright/test'
import { accessible } from './support/accessible'
import { homeJob } from './support/box'
import { dayThere } from './support/day'
import { giving, type JobRecord } from './support/give'
import { ask, desk, faultsOf, person, phone, test } from './support/people'
import { inventedCode } from '../core/testing/codes'

let units = Date.now() % 8_000
/** A home with a switch that is in the wall, and joined. */
async function installed(page: Page, office: Page) {
  const jobId = await homeJob(office, ['bram.ash'], { boxes: [{ name: 'tide door', breakers: ['2'] }] })
  const give = giving(page, jobId)
  const { siteState, jobState } = await ask<JobRecord>(page, `/api/jobs/${jobId}`)
  const boxId = Object.values(siteState.boxes)[0]!.id
  const breakerId = Object.values(siteState.breakers).find(({ number }) => number === '2')!.id
  const { catalogue } = await ask<{ catalogue: { id: string; name: string }[] }>(page, '/api/catalogue')
  const modelId = catalogue.find(({ name }) => name === 'Tide switch, with neutral')!.id
  await give('site', { type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' })
  await give('job', { type: 'chooseDevice', boxId, gang: 1, modelId, pointIds: Object.keys(jobState.points) })
  const [unitId, serial, code] = [crypto.randomUUID(), `CB-${++units}`, inventedCode(units)]
  await give('job', { type: 'recordUnit', unitId, boxId, gang: 1, serial, setupCode: code, setupCodeAgain: code })
  await give('site', { type: 'observeBreaker', breakerId, state: 'closed', how: 'did', note: '' })
  await give('job', { type: 'recordPairing', unitId, result: 'joined', network: 'home', signal: { kind: 'dbm', dbm: -52 }, note: '' })
  await give('site', { type: 'leaveSite' })
  return { jobId, serial, give, breakerId }
}
async function begin(office: Page, serial: string, symptom: string): Promise<void> {
  await office.goto('/call')
  await office.getByLabel('Which device? Customer, street, room, name or serial').fill(serial)
  await office.getByRole('button', { name: new RegExp(serial) }).click()
  await office.getByRole('button', { name: symptom, exact: true }).click()
}
/** Answers what is asked by what is the case; what that says nothing of, nobody knows. */
async function answer(office: Page, facts: Record<string, string>): Promise<void> {
  const next = office.getByTestId('next-question')
  for (let asked = 0; asked < 9; asked++) {
    const words = await next.getByRole('heading').innerText()
    if (!(await next.getByRole('button', { name: 'Doesn’t know' }).isVisible())) return
    const known = Object.entries(facts).find(([question]) => words.includes(question))
    await next.getByRole('button', { name: known?.[1] ?? 'Doesn’t know', exact: true }).click()
    await expect(next.getByRole('heading')).not.toHaveText(words)
  }
}

test('a new router: mended on the telephone, called back, closed; the number moves, and opens its callbacks', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  const bram = await person(browser, 'bram.ash', phone)
  const { jobId, serial } = await installed(bram, office)
  await begin(office, serial, 'the app does not reach it')
  await answer(office, {
    'Is it only this one': 'everything in the app',
    'Was the router': 'yes',
    'button on the wall': 'yes',
    'other things in the home': 'yes',
  })
  const next = office.getByTestId('next-question')
  await expect(next).toContainText('a new router')
  await expect(office.getByTestId('suspect-routerChanged')).toContainText('%')
  await accessible(office)
  await next.getByRole('button', { name: 'It works again' }).click()
  await expect(office.getByTestId('call-sentence')).toHaveText('It works again.')
  await office.getByRole('button', { name: 'Store it, and call back in two days' }).click()
  await expect(office.getByRole('heading', { level: 1 })).toContainText('Mended on the telephone. Call the customer back on')
  await accessible(office)
  await office.getByLabel('What the customer says now').fill('All has been well.')
  await office.getByRole('button', { name: 'It still works: close it' }).click()
  await expect(office.getByRole('heading', { level: 1 })).toContainText('Closed: All has been well.')
  const { jobState } = await ask<JobRecord>(office, `/api/jobs/${jobId}`)
  expect(Object.values(jobState.callbacks)[0]).toMatchObject({
    status: 'closed',
    causeId: 'routerChanged',
    signs: ['offlineInApp', 'routerChanged'],
  })
  await office.goto('/callbacks')
  await office.getByRole('button', { name: /^Show \d+ callbacks?: a new router/ }).click()
  await expect(office.getByRole('link', { name: /Tide Room Cottage/ }).first()).toBeVisible()
  expect(faultsOf(office)).toEqual([])
})

test('dead at the wall: nothing helps, windows are offered with what to take along; the phone shows it', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  const bram = await person(browser, 'bram.ash', phone)
  const { jobId, serial } = await installed(bram, office)
  await begin(office, serial, 'nothing happens at the wall')
  const facts = {
    'small tab': 'no, it is in',
    'small light': 'none at all',
    'button on the wall': 'no',
    'another switch': 'there is none',
    'sockets there': 'sockets work',
    'lever of its': 'yes',
    'anybody painted': 'no',
    'Was a lamp': 'no',
  }
  await answer(office, facts)
  const next = office.getByTestId('next-question')
  // Whatever is worth a try on the telephone is tried, and does not help.
  for (let tried = 0; tried < 3 && (await next.getByRole('button', { name: 'It did not help' }).isVisible()); tried++) {
    await next.getByRole('button', { name: 'It did not help' }).click()
    await answer(office, facts)
  }
  await expect(next).toContainText('Somebody has to come')
  await expect(office.getByText('Promise them: somebody has looked at it by')).toBeVisible()
  await office.getByRole('button', { name: 'Offer windows' }).click()
  await expect(office).toHaveURL(/\/day\?windows=/)
  await expect(office.getByRole('dialog')).toContainText('Nothing happens at the wall', { timeout: 60_000 })
  const { jobState } = await ask<JobRecord>(office, `/api/jobs/${jobId}`)
  const [callback] = Object.values(jobState.callbacks)
  expect(callback!.call!.carry).toContain('the same model')
  expect(callback!.call!.licence).toBe(true)
  await bram.goto(`/jobs/${jobId}/callback/${callback!.id}`)
  await expect(bram.getByRole('region', { name: 'Said on the telephone' })).toContainText('Take along: the same model')
  // A log of the household's app: a clock that nobody has on record switches it.
  await bram.getByText('It switches by itself, or not when it should: read a log').click()
  const nights = Array.from(
    { length: 6 },
    (_, night) => `2026-11-1${night} 22:03:0${night},tide,on\n2026-11-1${night} 23:${10 + 7 * night}:00,tide,off`,
  )
  const log = `time,device,state\n2026-11-10 08:00:00,tide,off\n${nights.join('\n')}\n`
  await bram.locator('input[type=file]').setInputFiles({ name: 'log.csv', mimeType: 'text/csv', buffer: Buffer.from(log) })
  await expect(bram.getByRole('region', { name: 'What switched it' })).toContainText(
    '6 times on at about 10:03 PM, day after day, by nothing on record',
  )
  await accessible(bram)
  await bram.goto(`/jobs/${jobId}/parts`)
  await expect(bram.getByText('For the callback, take along:')).toBeVisible()
  expect([faultsOf(office), faultsOf(bram)]).toEqual([[], []])
})

test('while a crew works in the home nothing is tried on the telephone', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  const bram = await person(browser, 'bram.ash', phone)
  const { serial, give, breakerId } = await installed(bram, office)
  await give('site', { type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' })
  await give('site', { type: 'hangTag', tagId: crypto.randomUUID(), breakerId, lock: 'BA red', measure: 'padlock' })
  await begin(office, serial, 'nothing happens at the wall')
  await expect(office.getByTestId('at-work')).toContainText('Bram Ash’s tag hangs on breaker 2. Tell the customer to switch nothing')
  await answer(office, { 'small tab': 'yes, it stood out' })
  await expect(office.getByTestId('next-question')).toContainText('Our crew is in the home')
  await expect(office.getByRole('button', { name: 'It works again' })).toHaveCount(0)
  // What the household's app wrote down: of long ago it says nothing, of this week it moves the causes.
  await office.getByText('They can send a log: read it').click()
  const log = (first: Date) => {
    const night = (day: number, clock: string) => `${new Date(first.getTime() + day * 86_400_000).toISOString().slice(0, 10)} ${clock}`
    const nights = Array.from(
      { length: 6 },
      (_, day) => `${night(day, '22:03:05')},tide,on\n${night(day, `2${2 + (day % 2)}:${20 + 6 * day}:00`)},tide,off`,
    )
    return Buffer.from(`time,device,state\n${night(0, '08:00:00')},tide,off\n${nights.join('\n')}\n`)
  }
  const take = (first: string) =>
    office.locator('input[type=file]').setInputFiles({ name: 'log.csv', mimeType: 'text/csv', buffer: log(new Date(first)) })
  await take('2026-03-02')
  await expect(office.getByText('The log ends before it began: it says nothing of this.')).toBeVisible()
  await take(await dayThere(office, -5))
  await expect(office.getByText('Reading the log')).toHaveCount(0)
  await expect(office.getByText('The log ends before it began')).toHaveCount(0)
  await office.getByRole('button', { name: 'it switches by itself', exact: true }).click()
  await expect(office.getByRole('list', { name: 'Causes, likeliest first' })).toContainText(
    /a schedule does it[\s\S]*the log: \d+ times at its hour, by nothing on record/,
  )
  await office.getByRole('button', { name: 'Put it with their words' }).click()
  await expect(office.getByLabel('In their words')).toHaveValue(/it switches by itself.*\. tide: .*day after day, by nothing on record/i)
  await accessible(office)
})

test('what is told of a light is held against the wiring of its box; two tales that contradict each other are not', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', desk)
  await begin(office, 'FO-4107', 'it stays on')
  const wiring = office.getByRole('region', { name: 'Against its wiring' })
  await expect(wiring).toContainText('By the wiring of counter end')
  await expect(wiring).toContainText('the relay of the device is stuck on')
  await expect(wiring).not.toContainText('interrupted')
  await accessible(office)
  await office.getByRole('button', { name: 'nothing happens at the wall', exact: true }).click()
  await expect(wiring).toHaveCount(0)
  await office.getByRole('button', { name: 'it stays on', exact: true }).click()
  await expect(wiring).toContainText('is interrupted, or loose in its terminal or connector')
  expect(faultsOf(office)).toEqual([])
})

test('danger first: what is read aloud stands there, nothing is asked, and it says so on the callback', async ({ browser }) => {
  const office = await person(browser, 'lena.moss', phone)
  const bram = await person(browser, 'bram.ash', phone)
  const { jobId, serial } = await installed(bram, office)
  await begin(office, serial, 'it hums or buzzes')
  await office.getByRole('group', { name: 'Danger' }).getByRole('button', { name: 'it smells burnt' }).click()
  await expect(office.getByTestId('danger')).toContainText('Do not switch it on again.')
  await expect(office.getByTestId('next-question')).toHaveCount(0)
  await accessible(office)
  await office.getByRole('button', { name: 'Open the callback' }).click()
  await expect(office.getByRole('heading', { level: 1 })).toHaveText('Danger was told: a licensed person goes today.')
  await office.goto('/callbacks')
  const line = office.getByRole('link', { name: new RegExp(`${serial}.*It smells burnt`) })
  await expect(line).toContainText('danger')
  await expect(line).toContainText('to be seen by today')
  const { jobState } = await ask<JobRecord>(office, `/api/jobs/${jobId}`)
  expect(Object.values(jobState.callbacks)[0]!.call!.flags).toEqual(['smell'])
})
