import {
  accept,
  adding,
  alarm,
  defineCommands,
  defineEvents,
  defineStream,
  refuse,
  type CommandsIn,
  type Decision,
  type EventDraft,
  type EventsIn,
  type StreamState,
} from '../index'

/** A record that exists for the tests of the kernel alone: what lies in a store, piece by piece. */
export interface Stock extends StreamState {
  storeId: string
  pieces: Record<string, number>
  moved: number
}
export const emptyStock = (storeId: string): Stock => ({ seq: 0, unknownEvent: null, understoodSeq: 0, storeId, pieces: {}, moved: 0 })

interface Context {
  mayTake: boolean
}
const stockEvent = defineEvents<Stock, { stock: Stock }, { moves?: true }>()
const stockCommand = defineCommands<Stock, Context, Decision<EventDraft>, { queues?: true }>()

interface Moved {
  what: string
  pieces: number
  note: string
}
const put = stockCommand('put', {
  queues: true,
  decide: (_stock, submission: { what: string; pieces: number }) => accept(piecesPut({ ...submission, note: '' })),
  label: ({ what, pieces }) => `${pieces} ${what}`,
})
const piecesPut = stockEvent('piecesPut', {
  moves: true,
  // Version 1 counted dozens; version 2 had no note.
  lifts: [({ dozens, ...payload }) => ({ ...payload, pieces: Number(dozens) * 12 }), adding({ note: '' })],
  evolve(stock, { what, pieces }: Moved) {
    stock.pieces[what] = (stock.pieces[what] ?? 0) + pieces
  },
  say: ({ what, pieces }) => `put ${pieces} ${what}`,
})
const take = stockCommand('take', {
  decide(stock, { what, pieces }: { what: string; pieces: number }, { mayTake }) {
    if (!mayTake) return refuse('notYours', 'The store is another crew’s.')
    if ((stock.pieces[what] ?? 0) < pieces) return refuse('tooFew', `There are ${stock.pieces[what] ?? 0} ${what}.`)
    return accept(piecesTaken({ what, pieces, note: 'taken' }))
  },
})
const piecesTaken = stockEvent('piecesTaken', {
  evolve(stock, { what, pieces }: Moved) {
    stock.pieces[what] = (stock.pieces[what] ?? 0) - pieces
  },
  say: ({ what, pieces }, { stock }) => (stock.pieces[what] === 0 ? alarm(`took the last ${pieces} ${what}`) : `took ${pieces} ${what}`),
})

const coming = { put, piecesPut, other: 'what a room exports besides is left alone' }
const going = { take, piecesTaken }
export type StockCommand = CommandsIn<typeof coming | typeof going>
export type StockEvent = EventsIn<typeof coming | typeof going>

export const stockStream = defineStream<Stock, Context, Decision<EventDraft>, { stock: Stock }, { moves?: true }, { queues?: true }>(
  'stock',
  {
    reducerVersion: 1,
    empty: emptyStock,
    rooms: [coming, going],
    around(stock, _event, { moves }, evolve) {
      evolve()
      if (moves) stock.moved++
    },
  },
)
export const rooms = { coming, going }
