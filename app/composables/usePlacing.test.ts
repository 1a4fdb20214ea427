import { ref } from 'vue'
import { emptyPlan, type WiringPlan } from '../../core/wiring'
import { onScreen, provideNuxt, settle } from '../testing/nuxt'

async function bench({ reading = false, looksOnly = false } = {}) {
  provideNuxt()
  const { usePlacing: usePlacing } = await import('./usePlacing')
  const base: WiringPlan = {
    ...emptyPlan,
    devices: [{ gang: 1, terminals: { line: ['A'], load: [] } }],
  }
  const recorded = ref<WiringPlan | null>(base)
  const busy = ref(false)
  const finding = ref(reading)
  const stored: (WiringPlan | null)[] = []
  const { made } = onScreen(() =>
    usePlacing({
      plan: () => recorded.value,
      layable: () => (looksOnly || finding.value ? null : recorded.value),
      busy: () => busy.value,
      reading: () => finding.value,
      looksOnly: () => looksOnly,
      store: (plan) => void stored.push(plan),
    }),
  )
  return { ...made, recorded, busy, finding, stored }
}
const terminal = (key: string) => ({ kind: 'terminal' as const, part: 'gang1', key })

test('while roles are open two picked conductors are a pair, the older one goes for a third', async () => {
  const { picked, pick, stored } = await bench({ reading: true })
  pick('A')
  pick('B')
  pick('C')
  expect([picked.value, stored]).toEqual([['B', 'C'], []])
  pick('B')
  expect(picked.value).toEqual(['C'])
})
test('a conductor is picked and laid on a terminal: stored once, and nothing stays picked', async () => {
  const { picked, pick, place, stored } = await bench()
  pick('B')
  place(terminal('load'))
  expect(stored).toHaveLength(1)
  expect(stored[0]!.devices[0]!.terminals.load).toEqual(['B'])
  expect(picked.value).toEqual([])
})
test('a terminal in the hand gets a jumper to the next end; the same one again is put down', async () => {
  const { held, pick, place, stored } = await bench()
  place(terminal('line'))
  expect(held.value).toBe('gang1:line')
  place(terminal('line'))
  expect([held.value, stored]).toEqual([null, []])
  place(terminal('line'))
  pick('C')
  expect(stored[0]!.jumpers).toEqual([{ from: 'gang1:line', to: 'C' }])
})
test('what was laid is shown until the record says the same, or refuses', async () => {
  const { draft, pick, place, busy, recorded, stored } = await bench()
  pick('B')
  place(terminal('load'))
  busy.value = true
  await settle()
  expect(draft.value).toEqual(stored[0])
  recorded.value = stored[0]!
  await settle()
  expect(draft.value).toEqual(stored[0])
  busy.value = false
  await settle()
  expect(draft.value).toBeNull()
})
test('whoever only looks picks and lays nothing', async () => {
  const { picked, pick, place, lay, stored } = await bench({ looksOnly: true })
  pick('B')
  place(terminal('load'))
  lay('B', terminal('load'))
  expect([picked.value, stored]).toEqual([[], []])
})
test('what was pointed at to be read is not in the hand once the roles are known', async () => {
  const { picked, pick, finding } = await bench({ reading: true })
  pick('A')
  finding.value = false
  await settle()
  expect(picked.value).toEqual([])
})
