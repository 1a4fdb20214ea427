import { expect } from '@playwright/test'
import { squareCode } from '../core/testing/square-code'
import { accessible } from './support/accessible'
import { homeJob } from './support/box'
import { giving, type JobRecord } from './support/give'
import { ask, desk, faultsOf, person, phone, test } from './support/people'
import { restartServer } from './support/restart'

const tag = Date.now() % 100_000
const card = (number: number) => squareCode((tag + number) % 4096, 20_000_000 + tag * 31 + number)
const devices = [
  ['tide door', 'Tide switch, with neutral', `LK-${tag}-1`],
  ['sail arch', 'Rowan dimmer, deep', `LK-${tag}-2`],
  ['mud porch', 'Tide switch, with neutral', `LK-${tag}-5G`],
] as const

test('a room is commissioned: joined, one rescued from the wrong band, tested, named, scheduled for a year, and left to the household', async ({
  browser,
}) => {
  const office = await person(browser, 'lena.moss', desk)
  const bram = await person(browser, 'bram.ash', phone)
  const jobId = await homeJob(office, ['bram.ash', 'kit.ivers'], { boxes: devices.map(([name]) => ({ name, breakers: ['2'] })) })
  const give = giving(bram, jobId)
  const { siteState, jobState } = await ask<JobRecord>(bram, `/api/jobs/${jobId}`)
  const breakerId = Object.values(siteState.breakers).find(({ number }) => number === '2')!.id
  const { catalogue } = await ask<{ catalogue: { id: string; name: string }[] }>(bram, '/api/catalogue')
  await give('site', { type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' })
  for (const [index, [name, model, serial]] of devices.entries()) {
    const boxId = Object.values(siteState.boxes).find((box) => box.name === name)!.id
    const pointIds = Object.values(jobState.points).flatMap(({ id, controls }) => (controls.some((one) => one.boxId === boxId) ? [id] : []))
    await give('job', { type: 'chooseDevice', boxId, gang: 1, modelId: catalogue.find((one) => one.name === model)!.id, pointIds })
    const code = card(index)
    await give('job', { type: 'recordUnit', unitId: crypto.randomUUID(), boxId, gang: 1, serial, setupCode: code, setupCodeAgain: code })
  }
  await give('site', { type: 'observeBreaker', breakerId, state: 'closed', how: 'did', note: '' })
  const now = bram.getByTestId('pair-now')
  const at = (serial: string) => bram.getByTestId(`link-${serial}`)

  await test.step('the link joins what waits; the record keeps how well it hears', async () => {
    await bram.goto(`/jobs/${jobId}/windows`)
    for (const [index, serial] of [devices[1][2], devices[0][2]].entries()) {
      await expect(now).toBeVisible()
      // Two switches burn down alike: which of them is first is nobody’s concern.
      if (!(await now.textContent())!.includes(serial))
        await bram
          .getByTestId(`strip-${serial}`)
          .getByRole('button', { name: /first$/ })
          .click()
      await now.getByRole('button', { name: 'Join it over the link' }).click()
      await expect(now.getByText(serial, { exact: true })).toBeHidden({ timeout: 60_000 })
      const { jobState } = await ask<JobRecord>(bram, `/api/jobs/${jobId}`)
      const units = Object.values(jobState.units).filter(({ pairing }) => pairing?.result === 'joined')
      expect(units).toHaveLength(index + 1)
      expect(units[0]!.pairing!.signal).toEqual({ kind: 'dbm', dbm: -55 })
    }
  })

  await test.step('one is on the wrong band: a sentence, then the advice; after it the link finds it', async () => {
    await now.getByRole('button', { name: 'Saw it' }).click()
    await now.getByRole('button', { name: 'Join it over the link' }).click()
    await expect(now.getByRole('status').filter({ hasText: 'No device with this code answers' })).toBeVisible({ timeout: 60_000 })
    await accessible(bram)
    await expect(now).toContainText('Phone onto 2.4 GHz')
    await give('job', { type: 'pauseBand', minutes: 10 })
    await now.getByRole('button', { name: 'Join it over the link' }).click()
    await expect(bram.getByTestId('windows-sentence')).toHaveText('All 3 are paired.', { timeout: 60_000 })
  })

  await test.step('they are tried by themselves, and somebody presses at the wall; an open box keeps the link from it', async () => {
    await bram.goto(`/jobs/${jobId}/tests`)
    await at(devices[1][2]).getByRole('button', { name: 'Test it over the link' }).click()
    await expect(at(devices[1][2]).getByText('5 checks passed.')).toBeVisible({ timeout: 60_000 })
    await expect(bram.getByText(/measured: 75 % after \d+ ms/)).toBeVisible()
    await at(devices[0][2]).getByRole('button', { name: 'Test it over the link' }).click()
    await expect(at(devices[0][2]).getByText(/checks passed/)).toBeVisible({ timeout: 60_000 })
    await give('site', { type: 'observeBreaker', breakerId, state: 'open', how: 'did', note: '' })
    await at(devices[0][2]).getByRole('button', { name: 'Test it over the link' }).click()
    await expect(at(devices[0][2]).getByRole('alert')).toContainText('is off: nothing can be tested')
    await give('site', { type: 'observeBreaker', breakerId, state: 'closed', how: 'did', note: '' })
  })

  await test.step('a name is written into the device and read again', async () => {
    const unit = bram.getByTestId(`unit-${devices[0][2]}`)
    await unit.getByLabel(`Name of ${devices[0][2]}`).fill('tide door light')
    await unit.getByRole('button', { name: 'Name it' }).click()
    await at(devices[0][2]).getByRole('button', { name: 'Write its name into it' }).click()
    await expect(at(devices[0][2]).getByText('It keeps “tide door light”.')).toBeVisible({ timeout: 60_000 })
  })
  const { jobState: named } = await ask<JobRecord>(bram, `/api/jobs/${jobId}`)
  const units = devices.map(([, , serial]) => Object.values(named.units).find((unit) => unit.serial === serial)!.id)

  await test.step('the server is restarted; everybody goes on where they were', async () => {
    await office.goto(`/jobs/${jobId}/names`)
    // What comes after the page has come, too: a browser does not ask again for a part that it failed to get.
    await office.waitForFunction(() => {
      const parts = performance.getEntriesByType('resource').filter(({ name }) => name.endsWith('.js')) as PerformanceResourceTiming[]
      return performance.now() - Math.max(...parts.map(({ responseEnd }) => responseEnd)) > 2_000
    })
    await restartServer()
    for (const page of [office, bram]) await expect(page.getByText('live', { exact: true }).first()).toBeVisible({ timeout: 60_000 })
  })

  await test.step('one phrase moves two: the better name is taken over, and written into the device', async () => {
    for (const [index, name] of ['tide door light', 'tide door light two', 'mud porch fan'].entries())
      await give('job', { type: 'nameUnit', unitId: units[index]!, pointId: null, name, despiteClash: true })
    await expect(office.getByRole('region', { name: 'All names' })).toContainText('mud porch fan')
    const sentence = office.getByTestId('names-sentence')
    await expect(sentence).toHaveText('1 phrase moves what is not meant.', { timeout: 60_000 })
    await expect(office.getByRole('region', { name: 'What goes wrong' })).toContainText('“tide door light” also moves tide door light two')
    await office
      .getByRole('region', { name: 'Better names' })
      .getByRole('button', { name: /^Take over \d name/ })
      .click()
    await expect(sentence).toHaveText('All 3 names are told apart.')
    await bram.reload()
    // Whichever of the two has the better name now, its device still has the one of before, or none.
    for (const serial of [devices[0][2], devices[1][2]]) {
      const write = at(serial).getByRole('button', { name: 'Write its name into it' })
      await expect(at(serial).getByRole('button', { name: 'Test it over the link' })).toBeVisible()
      if (await write.isVisible()) await write.click()
      await expect(at(serial).getByText(/^It keeps “/)).toBeVisible({ timeout: 60_000 })
    }
  })

  await test.step('bedtime, a pair by the sun, a pump that must run: a year is played, and what goes wrong is mended', async () => {
    await office.goto(`/jobs/${jobId}/schedules`)
    const sheet = office.getByRole('dialog')
    for (const start of ['On and off by the sun', 'Bedtime with a night light']) {
      await office.getByRole('button', { name: start }).click()
      await sheet.getByRole('button', { name: 'Save it' }).click()
      await expect(sheet).toHaveCount(0)
    }
    await office.getByRole('button', { name: 'Change what mud porch fan does by itself' }).click()
    await sheet.getByRole('checkbox', { name: 'It must run, whatever happens' }).check()
    await sheet.getByRole('button', { name: 'Save it' }).click()
    const wrong = office.getByRole('region', { name: 'What goes wrong' })
    const conflict = wrong.getByText(/“mud porch fan” must run, and does not come back on by itself/)
    await expect(conflict).toBeVisible({ timeout: 60_000 })
    await wrong.getByRole('button', { name: 'On after every power interruption' }).click()
    await expect(conflict).toHaveCount(0)
    await expect(office.getByText(/must run · after an interruption on/)).toBeVisible()
  })

  await test.step('the handover says the same of that year as the page of schedules', async () => {
    const played = office.getByTestId('schedules-sentence')
    await expect(played).toContainText(/in a year of it|nothing goes wrong/, { timeout: 60_000 })
    const said = await played.innerText()
    await office.goto(`/jobs/${jobId}/handover`)
    await expect(office.getByRole('region', { name: 'What it does by itself' })).toContainText(`${said} 2 schedules and rules`, {
      timeout: 60_000,
    })
  })

  await test.step('before handover the household joins each with its own app, and the installer is taken off', async () => {
    await expect(office.getByText('The installer is taken off every device').first()).toBeVisible()
    const held = office.getByRole('region', { name: 'Installer on the devices' })
    await expect(held).toContainText('3 devices carry the installer still.')
    // Alone on it, the installer is not taken off by mistake: the device would forget its name.
    await held.getByRole('button', { name: 'Take the installer off' }).first().click()
    await expect(held.getByText('No other home is on this device').first()).toBeVisible({ timeout: 60_000 })
    await held.getByRole('button', { name: 'Ask all 3 who is on them' }).click()
    await expect(held.getByText('Nobody of the household is on it yet.', { exact: false }).nth(2)).toBeVisible({ timeout: 60_000 })
    for (const [, , serial] of devices) {
      await office.getByTestId(`link-${serial}`).getByRole('button', { name: 'Open it for the household' }).click()
      await expect(office.getByTestId(`link-${serial}`).getByTestId('opened')).toContainText(/\d{11}/, { timeout: 60_000 })
    }
    await accessible(office)
    await expect(async () => {
      await held
        .getByRole('button', { name: /^Ask (all 3 )?who is on/ })
        .first()
        .click()
      await expect(held.getByText('On it: Household.')).toHaveCount(3, { timeout: 5_000 })
    }).toPass({ timeout: 60_000 })
    await held.getByRole('button', { name: 'Take it off all 3' }).click()
    await expect(held).toBeHidden({ timeout: 60_000 })
    const { jobState } = await ask<JobRecord>(office, `/api/jobs/${jobId}`)
    expect(Object.values(jobState.units).map(({ pairing }) => pairing!.result)).toEqual(['joined', 'joined', 'joined'])
    await expect(office.getByText('the link holds no key of this home any more')).toBeVisible()
    await office.goto('/settings?part=links')
    await expect(office.getByTestId('link-Stand-ins of the demo')).toContainText('asks for work')
    await accessible(office)
  })
  for (const page of [office, bram]) expect(faultsOf(page)).toEqual([])
})
