import { commandsThat, defineStream, entriesOf, foldEvents, type EntryFrame, type StreamEvent } from './index'
import { emptyStock, rooms, stockStream, type StockCommand, type StockEvent } from './testing/stock'

const frame = { streamId: 's', commandId: 'c', at: '', receivedAt: '', actor: {} } as EntryFrame
const decide = (command: StockCommand, stock = emptyStock('s'), mayTake = true) => {
  const { type, ...submission } = command
  return stockStream.commands.get(type)!.rules.decide(stock, submission as never, { mayTake })
}

test('a stream of its own is composed of its rooms, and the kernel knows nothing of it', () => {
  expect([...stockStream.commands.keys()]).toEqual(['put', 'take'])
  expect([...stockStream.events.keys()]).toEqual(['piecesPut', 'piecesTaken'])
  expect([...commandsThat(stockStream, ({ queues }) => queues)]).toEqual(['put'])
  expect(stockStream.commands.get('put')!.rules.label!({ what: 'plates', pieces: 3 } as never)).toBe('3 plates')
})
test('what was decided becomes entries of today’s version, and folds', () => {
  const decision = decide({ type: 'put', what: 'plates', pieces: 3 })
  if (!decision.ok) throw new Error('refused')
  const entries = entriesOf(stockStream, 0, decision.events, frame, () => 'e')
  expect(entries).toMatchObject([
    { seq: 1, stream: 'stock', version: 3, type: 'piecesPut', payload: { what: 'plates', pieces: 3, note: '' } },
  ])
  const stock = foldEvents(stockStream.reducer, emptyStock('s'), entries)
  expect(stock).toMatchObject({ seq: 1, understoodSeq: 1, pieces: { plates: 3 }, moved: 1 })
  expect(decide({ type: 'take', what: 'plates', pieces: 4 }, stock)).toMatchObject({ ok: false, refusal: { code: 'tooFew' } })
  expect(decide({ type: 'take', what: 'plates', pieces: 3 }, stock, false)).toMatchObject({ ok: false, refusal: { code: 'notYours' } })
  const last: StockEvent = { type: 'piecesTaken', payload: { what: 'plates', pieces: 3, note: '' } }
  const empty = foldEvents(
    stockStream.reducer,
    stock,
    entriesOf(stockStream, 1, [last], frame, () => 'e'),
  )
  expect(empty).toMatchObject({ pieces: { plates: 0 }, moved: 1 })
  expect(stockStream.events.get('piecesTaken')!.rules.say(last.payload as never, { stock: empty })).toEqual({
    what: 'took the last 3 plates',
    tone: 'alarm',
  })
})
test('old versions are lifted through every step between', () => {
  const old = (seq: number, version: number, payload: object) => ({
    ...frame,
    id: '',
    stream: 'stock',
    seq,
    version,
    type: 'piecesPut',
    payload,
  })
  const entries = [old(1, 1, { what: 'plates', dozens: 2 }), old(2, 2, { what: 'plates', pieces: 1 })] as unknown as StreamEvent[]
  expect(foldEvents(stockStream.reducer, emptyStock('s'), entries).pieces).toEqual({ plates: 25 })
})
test('a payload that says nothing of its kind is not understood, whoever reads it', () => {
  const read = (_type: string, payload: unknown) => (typeof (payload as { pieces?: unknown }).pieces === 'number' ? payload : null)
  const strange = entriesOf(stockStream, 0, [{ type: 'piecesPut', payload: { what: 'plates', pieces: 'some' } }], frame, () => 'e')
  const stock = foldEvents({ ...stockStream.reducer, read }, emptyStock('s'), strange)
  expect(stock).toMatchObject({ seq: 1, understoodSeq: 0, unknownEvent: 'piecesPut v3', pieces: {} })
})
test('two things of one name are a mistake of the program', () => {
  expect(() =>
    defineStream('twice', {
      reducerVersion: 1,
      empty: emptyStock,
      rooms: [rooms.coming, { ...rooms.coming, put: { ...rooms.coming.put } }],
    }),
  ).toThrow('one name')
})
