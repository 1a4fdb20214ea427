import { readFileSync } from 'node:fs'
import { expect } from '@playwright/test'
import { accessible } from './support/accessible'
import { ask, desk, faultsOf, person, phone, test } from './support/people'

/** A home whose labels say nothing: six breakers, one off limits, and two lamps nobody knows the feed of. */
function home(): string {
  const file = JSON.parse(readFileSync('core/format/testing/gate-house-v1.json', 'utf8'))
  file.job.title = 'Which is which'
  file.site = { ...file.site, name: 'Label Cottage', address: `9-${Date.now() % 100_000} Withy Bank, Port Sallow`, doorCode: '' }
  const breaker = file.panels[0].breakers[0]
  file.panels[0].breakers = ['1', '2', '3', '4', '5', '6'].map((number) => ({
    ...breaker,
    number,
    label: number === '2' ? 'router' : '',
    offLimits: number === '6' ? 'pump of the neighbour' : null,
    state: 'closed',
  }))
  file.rooms = [
    { key: 'hall', name: 'Hall' },
    { key: 'loft', name: 'Loft' },
  ]
  const box = (key: string, room: string, name: string) => ({ ...file.boxes[0], key, room, name, feeds: [], unknownFeed: true })
  file.boxes = [box('a', 'hall', 'hall arch'), box('b', 'loft', 'loft hatch')]
  const point = (name: string, room: string, key: string) => ({ ...file.points[0], name, room, controls: [{ box: key, gang: 1 }] })
  file.points = [point('Hall lamp', 'hall', 'a'), point('Loft lamp', 'loft', 'b')]
  return JSON.stringify(file)
}
const truth: Record<string, string> = { 'hall arch': '5', 'loft hatch': '2' }

test('one at the panel, one in the rooms: every feed is found, confirmed, and kept as the panel directory', async ({ browser }) => {
  const panel = await person(browser, 'odo.reed', desk)
  const { branches } = await ask<{ branches: { id: string; name: string }[] }>(panel, '/api/branches')
  const { jobId } = await ask<{ jobId: string }>(panel, '/api/jobs/import', {
    branchId: branches.find((branch) => branch.name === 'Port Sallow')!.id,
    newHome: true,
    source: { kind: 'json', text: home() },
  })
  // A lead is on every crew; the second browser of the same person stands in the rooms.
  const rooms = await person(browser, 'odo.reed', phone)
  await panel.goto(`/jobs/${jobId}/panel`)
  await panel.getByRole('link', { name: 'Find what feeds what' }).click()
  // The record comes late to the rooms: what was done while it was on its way is there all the same.
  let opened = () => {}
  const isOpened = new Promise<void>((go) => (opened = go))
  await rooms.route(`**/api/jobs/${jobId}`, async (route) => {
    const response = await route.fetch()
    await isOpened
    await route.fulfill({ response })
  })
  await rooms.goto(`/jobs/${jobId}/tracing`)
  const sentence = (page: typeof panel) => page.getByTestId('tracing-sentence')
  await expect(sentence(panel)).toContainText('Round 1:')
  let rounds = 0
  for (; rounds < 12; rounds++) {
    await expect(sentence(panel)).toContainText(new RegExp(`Round ${rounds + 1}:|Every feed`))
    const words = (await sentence(panel).textContent())!
    if (words.startsWith('Every feed')) break
    const open = /: (.*) open, all/.exec(words)![1]!.split(', ')
    expect(open).not.toContain('6')
    const toOpen = panel.getByRole('button', { name: /^I opened/ })
    const leave = panel.getByRole('button', { name: /^Ask to close/ })
    const ready = panel.getByText('The panel is as this round wants it.')
    await expect(toOpen.or(leave).or(ready).first()).toBeVisible()
    if (await toOpen.isVisible()) {
      if (open.includes('2') && (await toOpen.textContent())!.includes('2'))
        await expect(panel.getByText('the router and computers drop')).toBeVisible()
      await toOpen.click()
      await expect(toOpen).toBeHidden()
    }
    await expect(leave.or(ready).first()).toBeVisible()
    if (await leave.isVisible()) {
      await leave.click()
      await panel.getByRole('button', { name: 'They are closed' }).click()
    }
    await expect(ready).toBeVisible()
    opened()
    for (const [box, breaker] of Object.entries(truth))
      await rooms
        .getByRole('group', { name: `Lamp of ${box}` })
        .getByRole('button', { name: open.includes(breaker) ? 'off' : 'on', exact: true })
        .click()
    await rooms.getByRole('button', { name: 'Store what I see (2 of 2)' }).click()
    // A refusal of it is told by name, not by a round that never comes.
    await expect(sentence(rooms).or(rooms.getByTestId('refusal')).filter({ hasNotText: words }).first()).toBeVisible()
    await expect(rooms.getByTestId('refusal')).toBeHidden()
  }
  // Five breakers and "none": three rounds find, a few more make sure against one wrong look.
  expect(rounds).toBeGreaterThanOrEqual(3)
  expect(rounds).toBeLessThanOrEqual(7)
  for (const [box, breaker] of Object.entries(truth)) {
    const line = rooms.getByTestId(`tracing-${box}`)
    await expect(line).toContainText(`confirmed: ${breaker}`)
    await line.getByRole('button', { name: `Record: ${breaker}` }).click()
    await expect(line.getByRole('button')).toBeHidden()
  }
  await accessible(rooms, 'practice')

  await panel.goto(`/jobs/${jobId}/directory`)
  await expect(panel.getByTestId('directory-sentence')).toContainText('2 of 2 feeds confirmed.')
  await expect(panel.getByRole('row', { name: /^5/ })).toContainText('Hall: hall arch')
  await accessible(panel, 'practice')
  const pdf = await panel.request.get((await panel.getByRole('link', { name: 'PDF for the panel door' }).getAttribute('href'))!)
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-')
  const csv = await panel.request.get((await panel.getByRole('link', { name: 'CSV' }).getAttribute('href'))!)
  expect(await csv.text()).toMatch(/^\uFEFFpanel,breaker,amps,.*\r\n.*\r\n(.*\r\n)*panel,5,.*,Hall,hall arch,confirmed,no\r\n/)
  for (const page of [panel, rooms]) expect(faultsOf(page)).toEqual([])
})
