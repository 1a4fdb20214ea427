import {
  applyEvent,
  currentVersion,
  foldEvents,
  SeqGap,
  UnknownEventVersion,
  upcast,
  type StreamEvent,
  type StreamReducer,
  type StreamState,
} from './index'

interface Total extends StreamState {
  grams: number
}
const reducer: StreamReducer<Total> = {
  // Version 1 said ounces, version 2 pounds as text, version 3 says grams.
  upcasters: {
    weighed: [
      (payload) => ({ pounds: `${Number(payload.ounces) / 16}` }),
      (payload) => ({ grams: Math.round(Number(payload.pounds) * 453.6) }),
    ],
  },
  knows: (type) => type === 'weighed',
  evolve: (state, event) => {
    state.grams += (event.payload as { grams: number }).grams
  },
}
const fresh = (): Total => ({ seq: 0, unknownEvent: null, understoodSeq: 0, grams: 0 })
const event = (seq: number, version: number, payload: object, type = 'weighed') =>
  ({
    id: `e${seq}`,
    stream: 'job',
    streamId: 's',
    seq,
    commandId: 'c',
    version,
    at: '',
    receivedAt: '',
    actor: {},
    type,
    payload,
  }) as unknown as StreamEvent

test('old versions are lifted step by step', () => {
  expect(currentVersion(reducer.upcasters, 'weighed')).toBe(3)
  const state = foldEvents(reducer, fresh(), [event(1, 1, { ounces: 32 }), event(2, 2, { pounds: '1' }), event(3, 3, { grams: 10 })])
  expect(state).toEqual({ seq: 3, unknownEvent: null, understoodSeq: 3, grams: 907 + 454 + 10 })
})
test('a repeated event changes nothing, a gap is said', () => {
  const state = foldEvents(reducer, fresh(), [event(1, 3, { grams: 5 }), event(1, 3, { grams: 5 })])
  expect(state.grams).toBe(5)
  expect(() => applyEvent(reducer, state, event(3, 3, { grams: 1 }))).toThrow(SeqGap)
})
test('an unknown type or a newer version is counted, marked and never hidden', () => {
  const state = foldEvents(reducer, fresh(), [event(1, 4, { tons: 1 }), event(2, 3, { grams: 5 })])
  expect(state).toEqual({ seq: 2, unknownEvent: 'weighed v4', understoodSeq: 0, grams: 5 })
  expect(foldEvents(reducer, fresh(), [event(1, 1, {}, 'melted')]).unknownEvent).toBe('melted v1')
  expect(() => upcast(reducer.upcasters, event(1, 9, {}))).toThrow(UnknownEventVersion)
})
