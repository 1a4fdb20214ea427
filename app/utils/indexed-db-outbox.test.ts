import 'fake-indexeddb/auto'
import { openDB, type IDBPDatabase } from 'idb'
import type { QueuedCommand } from '../../core/stream/client'
import { describeOutboxStorage } from '../../core/stream/client/testing/outbox-conformance'
import { indexedDbOutbox, makeOutboxStore, NoKey, type Sealing } from './indexed-db-outbox'
import { importKey } from './sealing'

let opened = 0
const freshBase = () => openDB(`outbox ${++opened}`, 1, { upgrade: makeOutboxStore })
describeOutboxStorage('the browser’s database', () => {
  const base = freshBase()
  return indexedDbOutbox(() => base)
})

interface Entry extends QueuedCommand {
  text: string
}
const entry = (personId: string, text: string, more: object = {}): Entry => ({
  ...{ personId, text, makes: [`made by ${text}`], state: 'pending', refusal: null },
  ...more,
})
const keyOf = (seed: number) => importKey(Buffer.alloc(32, seed).toString('base64'))
const sealingBy = (key: () => Promise<CryptoKey | null>): Sealing<Entry> => ({
  ...{ here: key, anywhere: key },
  lost: ({ key: at, personId }) => ({ ...entry(personId, 'lost'), key: at, state: 'refused' }),
})
describeOutboxStorage('the browser’s database, sealed', () => {
  const base = freshBase()
  return indexedDbOutbox<QueuedCommand & { text: string }>(
    () => base,
    sealingBy(() => keyOf(1)),
  )
})

/** Everything in it, as somebody who holds the device reads it. */
async function lettersIn(base: Promise<IDBPDatabase>): Promise<string> {
  const letters: string[] = []
  const read = (value: unknown): void => {
    if (typeof value === 'string') letters.push(value)
    else if (value instanceof ArrayBuffer) letters.push(Buffer.from(value).toString('latin1'))
    else if (ArrayBuffer.isView(value)) letters.push(Buffer.from(value.buffer as ArrayBuffer).toString('latin1'))
    else if (typeof value === 'object' && value !== null)
      for (const [name, part] of Object.entries(value)) {
        letters.push(name)
        read(part)
      }
  }
  read(await (await base).getAll('entries'))
  return letters.join('\n')
}

describe('sealed', () => {
  test('whoever holds the device reads nothing of it but whose it is; their person reads all, pictures too', async () => {
    const base = freshBase()
    const storage = indexedDbOutbox<Entry>(
      () => base,
      sealingBy(() => keyOf(1)),
    )
    const picture = new Blob(['a picture of the gate'], { type: 'image/jpeg' })
    const key = await storage.add(entry('ann', 'MT:Y.K9042C00KA0648G00', { photo: { id: 'p', blob: picture } }))
    await storage.change(key, { state: 'refused', refusal: { code: 'no', reasons: ['At Gull Cottage it is not so.'], toYes: [] } })
    const letters = await lettersIn(base)
    for (const secret of ['MT:Y', 'Gull Cottage', 'picture of the gate', 'made by', 'refused']) expect(letters).not.toContain(secret)
    expect(letters).toContain('ann')
    const [back] = (await storage.list('ann')) as (Entry & { photo: { id: string; blob: Blob } })[]
    expect(back).toMatchObject({ key, text: 'MT:Y.K9042C00KA0648G00', state: 'refused', photo: { id: 'p' } })
    expect(back!.photo.blob.type).toBe('image/jpeg')
    expect(await back!.photo.blob.text()).toBe('a picture of the gate')
  })
  test('what was kept before there was a key is sealed at the first look', async () => {
    const base = freshBase()
    let key: CryptoKey | null = null
    const storage = indexedDbOutbox<Entry>(
      () => base,
      sealingBy(() => Promise.resolve(key)),
    )
    const at = await storage.add(entry('ann', 'hall two'))
    expect(await lettersIn(base)).toContain('hall two')
    key = await keyOf(1)
    expect(await storage.list('ann')).toMatchObject([{ key: at, text: 'hall two' }])
    expect(await lettersIn(base)).not.toContain('hall two')
    expect(await storage.list('ann')).toMatchObject([{ key: at, text: 'hall two' }])
  })
  test('without a key nobody is told that there is nothing, and nothing is changed', async () => {
    const base = freshBase()
    let key: CryptoKey | null = await keyOf(1)
    const storage = indexedDbOutbox<Entry>(
      () => base,
      sealingBy(() => Promise.resolve(key)),
    )
    const at = await storage.add(entry('ann', 'one'))
    key = null
    await expect(storage.list('ann')).rejects.toThrow(NoKey)
    await expect(storage.change(at, { state: 'refused' })).rejects.toThrow(NoKey)
    expect(await storage.list('ben')).toEqual([])
    key = await keyOf(1)
    expect(await storage.list('ann')).toMatchObject([{ text: 'one', state: 'pending' }])
  })
  test('another key, another’s name on it, or a bit turned: it is said to be lost, and the others are read', async () => {
    const base = freshBase()
    let key = await keyOf(1)
    const storage = indexedDbOutbox<Entry>(
      () => base,
      sealingBy(() => Promise.resolve(key)),
    )
    const [one, two] = [await storage.add(entry('ann', 'one')), await storage.add(entry('ann', 'two'))]
    const row = (await (await base).get('entries', one)) as { personId: string; sealed: { text: { bytes: ArrayBuffer } } }
    await (await base).put('entries', { ...row, personId: 'ben' })
    expect(await storage.list('ben')).toMatchObject([{ key: one, text: 'lost', state: 'refused' }])
    new Uint8Array(row.sealed.text.bytes)[3]! ^= 1
    await (await base).put('entries', row)
    expect(await storage.list('ann')).toMatchObject([
      { key: one, text: 'lost' },
      { key: two, text: 'two' },
    ])
    key = await keyOf(2)
    expect(await storage.list('ann')).toMatchObject([{ text: 'lost' }, { text: 'lost' }])
    await storage.change(two, { state: 'pending' })
    await storage.drop(one)
    key = await keyOf(1)
    expect(await storage.list('ann')).toMatchObject([{ key: two, text: 'two' }])
  })
  test('a change of what went out meanwhile brings nothing back', async () => {
    const base = freshBase()
    const storage = indexedDbOutbox<Entry>(
      () => base,
      sealingBy(() => keyOf(1)),
    )
    const key = await storage.add(entry('ann', 'one'))
    const changing = storage.change(key, { state: 'refused' })
    await storage.drop(key)
    await changing
    expect(await storage.list('ann')).toEqual([])
  })
})
