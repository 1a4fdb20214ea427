import { expect, type Page } from '@playwright/test'
import { accessible } from './support/accessible'
import { ask, desk, faultsOf, jobAt, loseNetwork, lonePhone, person, test } from './support/people'

interface Unit {
  id: string
  name: string
}
const unitsOf = async (page: Page, jobId: string): Promise<Unit[]> => {
  const { jobState } = await ask<{ jobState: { units: Record<string, Unit> } }>(page, `/api/jobs/${jobId}`)
  return Object.values(jobState.units)
}

test('names as they are heard: one phrase moves two, a better name is taken over, labels are printed; the other phone follows', async ({
  browser,
}) => {
  const lead = await person(browser, 'odo.reed', desk)
  const mate = await person(browser, 'kit.ivers', lonePhone)
  const jobId = await jobAt(lead, 'The Net Loft')
  const before = await unitsOf(lead, jobId)
  await lead.goto(`/jobs/${jobId}/tests`)
  await lead.getByRole('link', { name: 'Names as they are heard' }).click()
  await mate.goto(`/jobs/${jobId}/names`)
  const sentence = (page: Page) => page.getByTestId('names-sentence')
  await expect(sentence(lead)).toHaveText('1 phrase moves what is not meant.')
  const wrong = lead.getByRole('region', { name: 'What goes wrong' })
  await expect(wrong.getByText(/“Net store”\s+also moves\s+Net store ceiling/)).toBeVisible()

  await test.step('a phrase is tried before the customer says it', async () => {
    await lead.getByLabel('Try a phrase').fill('net store')
    await expect(lead.getByTestId('tried')).toContainText(/whatever holds the words\s*Net store ceiling, Net store/)
    await expect(lead.getByTestId('tried')).toContainText(/exactly this name\s*Net store/)
    await lead.getByLabel('Try a phrase').fill('boathouse')
    await expect(lead.getByTestId('tried')).toContainText(/exactly this name\s*nothing/)
  })
  for (const page of [lead, mate]) {
    await accessible(page)
  }

  await test.step('the better name is taken over, and heard on both', async () => {
    const better = lead.getByRole('region', { name: 'Better names' })
    await expect(better.getByRole('checkbox')).toHaveCount(1)
    await better.getByRole('checkbox').click()
    await expect(better.getByRole('button', { name: 'Take over 0 names' })).toBeDisabled()
    await better.getByRole('checkbox').click()
    await better.getByRole('button', { name: 'Take over 1 name' }).click()
    for (const page of [lead, mate]) await expect(sentence(page)).toHaveText('All 2 names are told apart.')
    await expect(better).toHaveCount(0)
  })
  await test.step('one by hand: what is taken is refused with its reason, and stays typed', async () => {
    const all = lead.getByRole('region', { name: 'All names' })
    const [one, other] = (await unitsOf(lead, jobId)).map(({ name }) => name)
    const field = all.getByRole('textbox', { name: `Another name for ${one}` })
    await field.fill(other!.toUpperCase())
    await field.press('Enter')
    await expect(lead.getByTestId('refusal')).toContainText(/already used in this home/)
    await expect(field).toHaveValue(other!.toUpperCase())
    await field.fill('off light')
    await field.press('Enter')
    await expect(sentence(lead)).toHaveText('1 name will not be understood.')
    await expect(wrong.getByText(/“off light” begins with a word that listeners keep for themselves/)).toBeVisible()
  })
  await test.step('labels', async () => {
    const labels = await lead.request.get(`/api/jobs/${jobId}/name-labels`)
    expect([labels.status(), (await labels.body()).subarray(0, 5).toString()]).toEqual([200, '%PDF-'])
    const [file] = await Promise.all([lead.waitForEvent('download'), lead.getByRole('button', { name: 'Labels (SVG)' }).click()])
    expect(file.suggestedFilename()).toMatch(/^names \d+\.svg$/)
  })
  await test.step('without a network it still listens, and what is named waits', async () => {
    await loseNetwork(mate)
    await mate.getByLabel('Try a phrase').fill('off light')
    await expect(mate.getByTestId('tried')).toContainText(/exactly this name\s*off light/)
    await mate.context().setOffline(false)
  })
  // As journeys after this one know it.
  for (const { id, name } of before)
    await ask(lead, '/api/commands', {
      ...{ id: crypto.randomUUID(), stream: 'job', streamId: jobId, at: new Date().toISOString() },
      command: { type: 'nameUnit', unitId: id, pointId: null, name, despiteClash: true },
    })
  expect([...faultsOf(lead), ...faultsOf(mate)]).toEqual([])
})
