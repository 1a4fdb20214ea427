import { expect } from '@playwright/test'
import { ask, desk, faultsOf, jobAt, person, phone, test } from './support/people'
// A home surveyed without a network is a journey of a new company: empty.spec.ts.
import { openSurvey } from './support/survey'

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
