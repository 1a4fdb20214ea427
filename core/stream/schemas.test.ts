import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { streamSchemas } from '../stream-schemas'
import { streams } from '../streams'
import { upcast, type StreamEvent } from './index'
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
test.each(readdirSync('core/job/golden').filter((name) => name.endsWith('.json')))(
  'reading an entry of %s changes nothing in it',
  (name) => {
    const { events } = JSON.parse(readFileSync(join('core/job/golden', name), 'utf8')) as { events: StreamEvent[] }
    const lifted = events.map((event) => upcast(streams[event.stream].reducer.upcasters, event))
    const read = lifted.map(({ stream, type, payload }) => ({ type, payload: readerOf(streamSchemas[stream].payloads)(type, payload) }))
    expect(read).toEqual(lifted.map(({ type, payload }) => ({ type, payload })))
  },
)
