import { foldEvents, type StreamReducer } from '../stream'
import { streams } from '../streams'
import { goldenFiles, goldenStreams } from '../testing/golden'

test.each(goldenFiles.flatMap((name) => goldenStreams(name).map((stream) => [name, stream.kind, stream.id, stream] as const)))(
  '%s: %s %s still folds to the same state',
  (_name, kind, id, { events, expected }) => {
    const reducer = streams[kind].reducer as StreamReducer<{ seq: number; understoodSeq: number; unknownEvent: string | null }>
    expect(JSON.parse(JSON.stringify(foldEvents(reducer, streams[kind].empty(id), events)))).toEqual(expected)
  },
)
