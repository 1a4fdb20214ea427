import type { SiteCommand } from '../../core/site'
import type { CommandEnvelope } from '../../core/stream'
import { crew, Scenario } from '../../core/testing/scenario'
import { defaultBranchSettings } from '../../core/units'
import { foldUnsent, forbiddenOn } from './fold-unsent'

/** A home with one box proven dead by Ann, as it is on her phone. */
function onAnnsPhone() {
  const scenario = new Scenario()
  scenario.openAndTag(['1'])
  scenario.conductors('door', 'ABC')
  scenario.prove('door')
  const states = { site: structuredClone(scenario.site), job: structuredClone(scenario.job) }
  const session = { viewer: crew.ann, instruments: [], catalogue: [], people: [] } as never
  const here = { session, settings: defaultBranchSettings, madeAt: new Date(scenario.now).toISOString() }
  const envelope = (command: SiteCommand): CommandEnvelope => ({
    id: scenario.newId(),
    stream: 'site',
    streamId: scenario.site.siteId,
    at: here.madeAt,
    basedOnSeq: scenario.site.seq,
    jobSeq: null,
    heldMs: 0,
    command,
  })
  return { scenario, states, here, envelope, boxId: scenario.box('door').id }
}

test('without network a neutral with current in it is not parted: refused there and then', () => {
  const { scenario, states, here, envelope, boxId } = onAnnsPhone()
  const part = (amps: number) =>
    envelope({ type: 'openNeutral', partId: scenario.newId(), boxId, what: 'the splice', basis: { kind: 'clamp', amps, loadsOn: true } })
  expect(forbiddenOn(states, part(3), here)).toMatchObject({ code: expect.any(String), reasons: [expect.stringContaining('3 A')] })
  expect(forbiddenOn(states, part(0), here)).toBeNull()
})
test('a fact is kept whatever the record says', () => {
  const { states, here, envelope, boxId } = onAnnsPhone()
  const seen = envelope({ type: 'observeLive', boxId, what: 'lightOn', volts: null, impedance: null, note: '' })
  expect(forbiddenOn(states, seen, here)).toBeNull()
  states.site.unknownEvent = 'laterThing v1'
  expect(forbiddenOn(states, seen, here)).toBeNull()
  // Only an update can judge the rest: it is kept, and nothing is granted meanwhile.
  expect(forbiddenOn(states, envelope({ type: 'closeBox', boxId }), here)).toBeNull()
})
test('what is kept shows on top of the record, and what it forbids from then on is forbidden here too', () => {
  const { states, here, envelope, boxId } = onAnnsPhone()
  const close = envelope({ type: 'closeBox', boxId })
  foldUnsent(states, close, here)
  expect(states.site.boxes[boxId]!.closure).toBe('closed')
  expect(forbiddenOn(states, envelope({ type: 'closeBox', boxId }), here)).toMatchObject({ code: 'alreadyClosed' })
})
