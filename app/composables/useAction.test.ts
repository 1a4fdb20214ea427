import { provideNuxt, settle } from '../testing/nuxt'
import type { Submission } from './useJobRecord'

const yes: Submission = { ok: true, refusal: null }
const no = (code: string): Submission => ({ ok: false, refusal: { code, reasons: ['No.'], toYes: [] } })
/** Something that is decided when the test says so. */
function later() {
  let decide: (submission: Submission) => void = () => undefined
  const decided = new Promise<Submission>((resolve) => (decide = resolve))
  let begun = 0
  return { work: () => (begun++, decided), decide: (submission: Submission) => decide(submission), begun: () => begun }
}
async function action() {
  provideNuxt()
  return (await import('./useAction')).useAction()
}

test('a second tap while something is being decided is no second order', async () => {
  const { run, busy } = await action()
  const first = later()
  const done = run(first.work)
  expect(await run(first.work)).toBe(false)
  expect([busy.value, first.begun()]).toEqual([true, 1])
  first.decide(yes)
  expect([await done, busy.value]).toEqual([true, false])
})
test('changes one after the other: each begins when the one before is decided, and a refusal stays until all are', async () => {
  const { inTurn, refusal } = await action()
  const [first, second, third] = [later(), later(), later()]
  const all = Promise.all([first, second, third].map(({ work }) => inTurn(work)))
  expect([first.begun(), second.begun()]).toEqual([1, 0])
  first.decide(no('one'))
  await settle()
  expect([second.begun(), third.begun(), refusal.value?.code]).toEqual([1, 0, 'one'])
  second.decide(yes)
  third.decide(yes)
  expect(await all).toEqual([false, true, true])
  expect(refusal.value?.code).toBe('one')
  await inTurn(async () => yes)
  expect(refusal.value).toBeNull()
})
test('what throws ends its own turn only', async () => {
  const { inTurn, busy } = await action()
  const broken = inTurn(() => Promise.reject(new Error('gone')))
  const next = inTurn(async () => yes)
  await expect(broken).rejects.toThrow('gone')
  expect([await next, busy.value]).toEqual([true, false])
})
