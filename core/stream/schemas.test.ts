import { streamSchemas } from '../stream-schemas'
import { streams } from '../streams'
import { goldenFiles, goldenStreams } from '../testing/golden'
import { upcast } from './index'
import { readerOf } from './schemas'

const kinds = ['site', 'job'] as const

describe.each(kinds)('the %s stream', (kind) => {
  const { commands, events } = streams[kind]
  const { command, payloads } = streamSchemas[kind]
  test('every command and every kind of entry has its schema, and no schema is left over', () => {
    const options = (command as unknown as { options: { shape: { type: { value: string } } }[] }).options
    expect(options.map(({ shape }) => shape.type.value).sort()).toEqual([...commands.keys()].sort())
    expect([...payloads.keys()].sort()).toEqual([...events.keys()].sort())
  })
})

/** Reading may neither add nor drop: server and phone would fold different states. */
test.each(goldenFiles)('reading an entry of %s changes nothing in it', (name) => {
  for (const { kind, events } of goldenStreams(name)) {
    const read = readerOf(streamSchemas[kind].payloads)
    for (const { type, payload } of events.map((event) => upcast(streams[kind].reducer.upcasters, event)))
      expect({ type, payload: read(type, payload) }).toEqual({ type, payload })
  }
})
