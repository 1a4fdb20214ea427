import type { QueuedCommand, OutboxStorage } from '../outbox'

/** What every storage of an outbox keeps to, whatever it is made of. */
export function describeOutboxStorage(name: string, open: () => OutboxStorage<QueuedCommand & { text: string }>): void {
  const entry = (personId: string, text: string) => ({
    personId,
    text,
    makes: [`made by ${text}`],
    state: 'pending' as const,
    refusal: null,
  })
  describe(`${name} as an outbox`, () => {
    test('keeps entries in the order they came, each person’s own', async () => {
      const storage = open()
      const keys = []
      for (const [who, text] of [
        ['ann', 'one'],
        ['ben', 'two'],
        ['ann', 'three'],
      ] as const)
        keys.push(await storage.add(entry(who, text)))
      expect(new Set(keys).size).toBe(3)
      expect((await storage.list('ann')).map(({ key, text }) => [key, text])).toEqual([
        [keys[0], 'one'],
        [keys[2], 'three'],
      ])
      expect(await storage.list('nobody')).toEqual([])
    })
    test('changes what is named and leaves the rest', async () => {
      const storage = open()
      const key = await storage.add(entry('ann', 'one'))
      const other = await storage.add(entry('ann', 'two'))
      const refusal = { code: 'no', reasons: ['It is not so.'], toYes: [] }
      await storage.change(key, { state: 'refused', refusal })
      expect(await storage.list('ann')).toEqual([
        { ...entry('ann', 'one'), key, state: 'refused', refusal },
        { ...entry('ann', 'two'), key: other },
      ])
    })
    test('drops for good; dropping or changing what is gone does nothing', async () => {
      const storage = open()
      const key = await storage.add(entry('ann', 'one'))
      await storage.drop(key)
      await storage.drop(key)
      await storage.change(key, { state: 'refused' })
      expect(await storage.list('ann')).toEqual([])
      // Its place in the order is not given to another.
      expect(await storage.add(entry('ann', 'two'))).toBeGreaterThan(key)
    })
    test('what was handed in or out is a copy', async () => {
      const storage = open()
      const mine = entry('ann', 'one')
      await storage.add(mine)
      mine.makes.push('later')
      ;(await storage.list('ann'))[0]!.makes.push('later')
      expect((await storage.list('ann'))[0]!.makes).toEqual(['made by one'])
    })
  })
}
