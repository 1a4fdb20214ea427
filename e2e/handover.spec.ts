import { expect } from '@playwright/test'
import { accessible } from './support/accessible'
import { browserOf, desk, faultsOf, jobAt, person, phone, pick, test } from './support/people'

test('the handover rests on evidence; the household keeps its home behind a PIN of its own, and guests a card', async ({ browser }) => {
  const crew = await person(browser, 'bram.ash', phone)
  const office = await person(browser, 'lena.moss', desk)
  const jobId = await jobAt(office, 'The Net Loft')
  for (const page of [crew, office]) await page.goto(`/jobs/${jobId}/handover`)
  const list = crew.getByText('Household members invited and accepted').locator('..')

  await test.step('who was invited is waited for; the office sees it come', async () => {
    const name = crew.getByLabel('Name of a household member')
    for (const one of ['Wren', 'Tobin']) {
      await name.fill(one)
      await name.press('Enter')
      await expect(crew.getByRole('button', { name: `${one} has accepted` })).toBeVisible()
    }
    await name.fill('wren')
    await name.press('Enter')
    await expect(crew.getByTestId('refusal')).toContainText('wren is on the list already.')
    await expect(name).toHaveValue('wren')
    await crew.getByRole('button', { name: 'Wren has accepted' }).click()
    await expect(list).toContainText('Tobin has not accepted yet')
    await expect(office.getByText('Tobin has not accepted yet')).toBeVisible()
    await office.getByRole('button', { name: 'Tobin has accepted' }).click()
    await expect(list).toContainText('Wren, Tobin accepted.')
  })

  await test.step('what nobody measured says on what it rests', async () => {
    await crew.getByRole('checkbox', { name: /Installer’s own access/ }).click()
    await crew.getByRole('button', { name: /What rests it on: Installer/ }).click()
    await crew
      .getByRole('group', { name: /What shows it: Installer/ })
      .getByRole('button', { name: 'by the customer’s word' })
      .click()
    await crew.getByLabel(/Note: Installer/).fill('Wren looked at the list in the app')
    await crew.getByRole('button', { name: 'Store it' }).click()
    await expect(office.getByText(/by the customer’s word: Wren looked at the list in the app/)).toBeVisible()
  })

  await test.step('a picture that is taken on the spot', async () => {
    await crew.getByRole('checkbox', { name: /^Labels on/ }).click()
    await crew.getByRole('button', { name: /What rests it on: Labels/ }).click()
    await crew
      .getByRole('group', { name: /What shows it: Labels/ })
      .getByRole('button', { name: 'by a picture' })
      .click()
    await crew.getByLabel('Take the picture').setInputFiles('docs/screenshots/phone-visit.png')
    await expect(crew.getByText(/by a picture/).last()).toBeVisible()
    await expect(crew.getByRole('link', { name: 'the picture' })).toBeVisible()
    await expect(office.getByRole('link', { name: 'the picture' })).toBeVisible()
  })

  await test.step('warranties, registered by the office', async () => {
    const maker = office.getByRole('region', { name: 'Warranty' })
    await maker.getByLabel(/^Warranty number of/).fill('HR-771')
    await maker.getByLabel(/ends on$/).fill('2031-11-29')
    await maker.getByRole('button', { name: 'All 2 registered' }).click()
    await expect(crew.getByText('2 devices, each with its maker.')).toBeVisible()
  })

  const keeps = crew.getByRole('region', { name: 'What the household keeps' })
  let [address, sealedFile, passphrase] = ['', '', '']
  let shown: string[] = []
  await test.step('their page: a square to take along with their telephone', async () => {
    await keeps.getByLabel('Their own PIN').fill('12345')
    await keeps.getByRole('button', { name: 'Make the page' }).click()
    await expect(keeps.getByRole('alert')).toContainText(/six to twelve digits|missing or wrong/)
    await keeps.getByLabel('Their own PIN').fill('482615')
    await keeps.getByRole('button', { name: 'Make the page' }).click()
    await expect(keeps.getByText(/Nobody has opened it yet/)).toBeVisible()
    address = (await keeps.getByRole('link', { name: 'Look at it' }).getAttribute('href'))!
    await expect(keeps.getByRole('img', { name: /^Square code/ })).toBeVisible()
  })
  for (const page of [crew, office]) await accessible(page)

  await test.step('the link is sent, but not with the PIN in it', async () => {
    await keeps.getByRole('button', { name: 'Send the link' }).click()
    const letter = keeps.getByLabel('What they are written')
    await expect(letter).toHaveValue(new RegExp(`${address}.*the PIN you chose`))
    const written = await letter.inputValue()
    await letter.fill(`${written} Your PIN: 482615`)
    await keeps.getByRole('button', { name: 'Send it' }).click()
    await expect(keeps.getByRole('alert')).toContainText('Their PIN stands in the message.')
    await letter.fill(written)
    await keeps.getByRole('button', { name: 'Send it' }).click()
    await expect(keeps.getByText(/^\s*(Text|Mail) to .*:\s+sent/)).toBeVisible()
    await accessible(crew)
  })

  const customer = await browserOf(browser, phone)
  await test.step('the customer opens it without an account: codes only with the PIN', async () => {
    await customer.goto(address)
    await expect(customer.getByRole('heading', { name: 'The Net Loft: what is where, and what to do.' })).toBeVisible()
    await expect(customer.getByRole('region', { name: 'When something is wrong' })).toContainText('do not close the breaker again')
    await expect(customer.getByRole('region', { name: 'What is where' })).toContainText('HR-771')
    const codes = customer.getByRole('region', { name: 'Setup codes' })
    await codes.getByLabel('Your PIN').fill('111111')
    await codes.getByRole('button', { name: 'Show them' }).click()
    await expect(codes.getByRole('alert')).toContainText('The PIN is wrong.')
    await expect(codes.locator('.code')).toHaveCount(0)
    await codes.getByLabel('Your PIN').fill('482615')
    await codes.getByRole('button', { name: 'Show them' }).click()
    await expect(codes.locator('.code')).toHaveCount(2)
    await accessible(customer)
    const [file] = await Promise.all([
      customer.waitForEvent('download'),
      codes.getByRole('button', { name: 'Keep a file with the codes, sealed' }).click(),
    ])
    expect(file.suggestedFilename()).toBe('our-home-with-codes.html')
    sealedFile = test.info().outputPath('our-home-with-codes.html')
    await file.saveAs(sealedFile)
    shown = await codes.locator('.entry .code').allTextContents()
    passphrase = (await codes.getByRole('status').locator('.code').textContent())!
    await accessible(customer)
    await codes.getByRole('button', { name: 'I have written it down' }).click()
    await codes.getByRole('button', { name: 'Hide them' }).click()
    await expect(codes.locator('.code')).toHaveCount(0)
  })
  await test.step('the sealed file opens its codes without a network, and only with its passphrase', async () => {
    const kept = await browserOf(browser, phone)
    await kept.context().setOffline(true)
    await kept.goto(`file://${sealedFile}`)
    const typed = kept.getByLabel('The passphrase of this file')
    await typed.fill('AAAA-AAAA-AAAA-AAAA')
    await kept.getByRole('button', { name: 'Show them' }).click()
    await expect(kept.getByRole('status')).toHaveText('That is not the passphrase of this file.')
    await expect(kept.locator('.code')).toHaveCount(0)
    await typed.fill(passphrase.toLowerCase().replaceAll('-', ' '))
    await kept.getByRole('button', { name: 'Show them' }).click()
    await expect(kept.locator('.code')).toHaveText(shown)
    await accessible(kept)
  })
  await test.step('a file that loads nothing, and a card for guests', async () => {
    const [file] = await Promise.all([customer.waitForEvent('download'), customer.getByRole('link', { name: 'Keep it as a file' }).click()])
    expect(file.suggestedFilename()).toBe('our-home.html')
    const kept = await browserOf(browser, phone)
    const asked: string[] = []
    kept.on('request', (request) => asked.push(request.url()))
    const path = test.info().outputPath('our-home.html')
    await file.saveAs(path)
    await kept.goto(`file://${path}`)
    await expect(kept.getByRole('heading', { name: 'When something is wrong' })).toBeVisible()
    expect(asked).toHaveLength(1)
    await accessible(kept)
    for (const as of ['card', 'pdf']) {
      const paper = await customer.request.get(`${address.replace('/home/', '/api/home-pages/')}/file?as=${as}`)
      expect([paper.status(), (await paper.body()).subarray(0, 5).toString()]).toEqual([200, '%PDF-'])
    }
  })
  await test.step('closed, it opens nothing any more', async () => {
    await crew.reload()
    await expect(keeps.getByText(/Codes shown 1 time/)).toBeVisible()
    await keeps.getByRole('button', { name: 'Close it' }).click()
    await expect(keeps.getByRole('button', { name: 'Make the page' })).toBeVisible()
    await customer.reload()
    await expect(customer.getByRole('heading', { name: 'There is no home here.' })).toBeVisible()
  })
})

test('a circuit of a 230 V home is measured: judged while it is typed, stored as it is, and printed', async ({ browser }) => {
  const sefa = await person(browser, 'sefa.vale', phone)
  const path = `/jobs/${await jobAt(sefa, 'The Lamp Store')}`
  await sefa.goto(`${path}/tests`)
  const circuits = sefa.getByRole('region', { name: 'Verification of circuits' })
  const first = circuits.getByRole('region').first()
  await expect(first).toContainText('passes')
  await accessible(sefa)
  await first.getByRole('button', { name: 'Measured again' }).click()
  await accessible(sefa)
  await first.getByLabel('Loop, Ω').fill('nothing')
  await expect(first.getByText('Write a number, like 0.45 or >999.')).toBeVisible()
  await first.getByLabel('Loop, Ω').fill('900')
  await expect(first).toContainText('Nothing trips in time at a fault to earth')
  // What is beyond the tester is its largest value, with a comma or a point.
  await first.getByLabel('Insulation, MΩ').fill('>999')
  await first.getByLabel('Loop, Ω').fill('1,1')
  await expect(first.getByRole('button', { name: 'Store: it passes' })).toBeEnabled()
  await first.getByLabel('Insulation, MΩ').fill('0.4')
  await first.getByRole('button', { name: 'Store: it does not pass yet' }).click()
  await expect(first).toContainText('does not pass')
  await sefa.goto(`${path}/handover`)
  await expect(sefa.getByText(/does not pass/).first()).toBeVisible()
  const paper = await sefa.request.get(`/api${path}/verification`)
  expect([paper.status(), paper.headers()['content-type']]).toEqual([200, 'application/pdf'])
  // A permit that waits for its inspector holds a handover; here it is noted, and released.
  const permit = sefa.getByRole('region', { name: 'Permit' })
  await permit.getByRole('button', { name: 'Note it' }).click()
  await pick(sefa, 'It is', 'inspected and released')
  await permit.getByRole('button', { name: 'Store it' }).click()
  await expect(permit.getByTestId('refusal')).toContainText('A permit that was granted has a number.')
  await permit.getByLabel('Number').fill('MQ 208')
  await expect(permit.getByText('Released on')).toBeVisible()
  await permit.getByRole('button', { name: 'Store it' }).click()
  await expect(permit).toContainText('MQ 208, inspected and released')
  expect(faultsOf(sefa)).toEqual([])
})
