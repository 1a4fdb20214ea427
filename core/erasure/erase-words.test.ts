import type { z } from 'zod'
import { foldEvents, understood, type StreamReducer } from '../stream'
import { streamSchemas } from '../stream-schemas'
import { streams } from '../streams'
import { goldenFiles, goldenStreams } from '../testing/golden'
import { withoutPicture, withoutWords, wordPaths } from './erase-words'
import { erasedWord } from './words'

/** Names of fields that hold text and stay: of each it was decided. A name that is on no list fails below. */
const stays = {
  'ids, times and words of the program':
    'alarms voids reached suspends asks bound open closed flags symptoms question carry words id madeAt startsAt endsAt windowFrom windowTo expiresAt dueAt finishedAt expectedAt dueOn callBackOn since until on date kept resumeAt explained basis verdict skills trips measured value warning settings',
  'what was wired, measured and fitted':
    'letter letters a b cable number labelAsFound onward finish capped connector terminals splices through line common sense neutral fedBy from to was serial oldSerial version vendor product maker family reset restart firstIndicator ownNetwork sign battery scanned reference instrument calibrationDue provedGoodAt address worksWith',
  'how the record says where': 'room place builder lock',
  'why somebody did what they answer for, and who': 'why notice measure offLimits second declaredBy ownerName initials people contact',
}
/** Names that are kept in some entries and erased in others: each such place is named by the table, or here. */
const keptPlaces: Record<string, readonly string[]> = {
  name: [
    'job.circuitVerified',
    'job.deviceNamed',
    'job.jobOpened',
    'job.partMoved',
    'job.planSold',
    'job.pointRecorded',
    'job.routineDropped',
    'job.routineSet',
    'job.sensorDropped',
    'job.sensorSet',
    'job.unitNameContested',
    'job.unitNamed',
    'site.absenceDeclared',
    'site.absentEnded',
    'site.boxCorrected',
    'site.boxRecorded',
    'site.boxSplit',
    'site.instrumentFailed',
    'site.panelRecorded',
    'site.panelRetired',
    'site.panelUnfed',
    'site.proofStarted',
    'site.referenceSeen',
    'site.roomRecorded',
    'site.siteLaidOut',
    'site.siteLeft',
    'site.sourceRecorded',
    'site.testerRechecked',
  ],
  reason: [
    'job.pointRetired',
    'job.readingsForgotten',
    'site.absenceDeclared',
    'site.absentEnded',
    'site.boxRetired',
    'site.boxesMerged',
    'site.breakerRetired',
    'site.grantOverridden',
    'site.offLimitsMarked',
    'site.panelRetired',
    'site.panelUnfed',
    'site.proofAbandoned',
    'site.proofFinished',
    'site.roundsForgotten',
    'site.sourceRuledOut',
    'site.switchesUntied',
    'site.tagOverridden',
  ],
  note: [
    'site.breakerObserved',
    'site.causeRecorded',
    'site.energiseAsked',
    'site.liveObserved',
    'site.openAsked',
    'site.stopTold',
    'site.workResumed',
  ],
  how: ['site.boxGuarded'],
  what: ['site.neutralParted', 'job.baselineKept', 'job.planSold', 'job.pointTested', 'job.pointTestedWiresOut'],
  cause: ['site.tagRehung', 'site.tripCauseRecorded', 'job.callbackOpened'],
  text: ['job.stepMarked'],
  label: [],
  network: [],
}

/** Every place in a form where text stands: `job.jobOpened` and its path. */
function textsOf(schema: z.core.$ZodType, path: string[] = []): string[] {
  const { def } = (schema as z.core.$ZodTypes)._zod
  switch (def.type) {
    case 'object':
      return Object.entries(def.shape).flatMap(([name, one]) => textsOf(one, [...path, name]))
    case 'array':
      return textsOf(def.element, [...path, '*'])
    case 'record':
      return textsOf(def.valueType, [...path, '*'])
    case 'union':
      return def.options.flatMap((one) => textsOf(one, path))
    case 'nullable':
    case 'optional':
    case 'default':
      return textsOf(def.innerType, path)
    case 'string':
      return [path.join('.')]
    default:
      return []
  }
}
const entries = (['site', 'job'] as const).flatMap((kind) =>
  [...streamSchemas[kind].payloads].map(([type, schema]) => ({ kind, type, texts: [...new Set(textsOf(schema))] })),
)
const lastName = (path: string) =>
  path
    .split('.')
    .filter((name) => name !== '*')
    .at(-1)!

test('of every text that an entry may hold it is decided whether it is erased with a customer', () => {
  const decided = new Set(Object.values(stays).flatMap((names) => names.split(' ')))
  const open = entries.flatMap(({ kind, type, texts }) =>
    texts
      .filter((path) => !wordPaths(kind, type).includes(path))
      .filter((path) => {
        const name = lastName(path)
        if (/Ids?$/.test(name) || /[mM]odel/.test(path)) return false
        return name in keptPlaces ? !keptPlaces[name]!.includes(`${kind}.${type}`) : !decided.has(name)
      })
      .map((path) => `${kind}.${type}: ${path}`),
  )
  expect(open).toEqual([])
})

test('what is erased is named as the forms name it', () => {
  for (const { kind, type, texts } of entries)
    for (const path of wordPaths(kind, type))
      expect([type, [...texts, 'strokes', 'household.strokes']]).toEqual([type, expect.arrayContaining([path])])
})

const golden = goldenFiles.flatMap((file) => goldenStreams(file).map((stream) => [file, stream] as const))

test.each(golden)('%s: a record of before is read without its words, and says the same of the work', (_file, { kind, id, events }) => {
  const reducer = streams[kind].reducer as StreamReducer<never>
  const erased = events.map((event) => JSON.parse(JSON.stringify(withoutWords(event))) as typeof event)
  for (const entry of erased) {
    expect(streamSchemas[kind].payloads.get(entry.type)?.safeParse(understood(reducer, entry)!.payload).error).toBeUndefined()
    // Said again it changes nothing.
    expect(withoutWords(entry)).toBe(entry)
  }
  const [before, after] = [events, erased].map(
    (all) => foldEvents(reducer, streams[kind].empty(id) as never, all) as unknown as { seq: number; unknownEvent: string | null },
  )
  expect(after!.unknownEvent).toBe(before!.unknownEvent)
  expect(after!.seq).toBe(before!.seq)
})

const entry = (type: string, payload: unknown, stream: 'job' | 'site' = 'job') => ({
  ...{
    id: 'e1',
    stream,
    streamId: 's1',
    seq: 1,
    commandId: 'c1',
    version: streams[stream].reducer.upcasters[type]?.length ?? 0,
    type,
    payload,
  },
  ...{ at: '2026-01-02T10:00:00Z', receivedAt: '2026-01-02T10:00:00Z' },
  actor: { personId: 'p1', name: 'Odo Reed', initials: 'OR', role: 'lead' as const, licensed: true },
})
const now = (type: string, payload: unknown, stream?: 'job' | 'site') => {
  const made = entry(type, payload, stream)
  return { ...made, version: made.version + 1 }
}

test('words, signatures and codes go; what was measured stays', () => {
  expect(withoutWords(now('handoverSigned', { signer: 'Wren Alder', strokes: [[[0, 0]]], openDefects: [] })).payload).toMatchObject({
    signer: erasedWord,
    strokes: [],
  })
  expect(withoutWords(now('pointTested', { pointId: 'a', note: '', what: 'on and off', result: 'pass' })).payload).toEqual({
    pointId: 'a',
    note: '',
    what: 'on and off',
    result: 'pass',
  })
  expect(
    withoutWords(now('unitRecorded', { serial: 'S-1', code: { kind: 'manual', sealed: 'v2:x', ending: '42', checked: 'checkDigit' } }))
      .payload,
  ).toEqual({ serial: 'S-1', code: { kind: 'manual', sealed: null, ending: '', checked: 'checkDigit' } })
  expect(withoutWords(now('habitsSet', { habits: { people: [{ name: 'Wren', wakes: 400 }] } })).payload).toEqual({
    habits: { people: [{ name: erasedWord, wakes: 400 }] },
  })
  expect(withoutWords(now('stopTold', { note: 'the mate is not seen' }, 'site')).payload).toEqual({ note: 'the mate is not seen' })
})

test('one picture: only its own entry is another', () => {
  const picture = now('photoAdded', { photoId: 'one', boxId: null, kind: 'other', caption: 'the hall of Wren' })
  expect(withoutPicture(picture, new Set(['two']))).toBeNull()
  expect(withoutPicture(now('jobOpened', {}), new Set(['one']))).toBeNull()
  expect(withoutPicture(picture, new Set(['one']))!.payload).toEqual({
    photoId: 'one',
    boxId: null,
    kind: 'other',
    caption: erasedWord,
    erased: true,
  })
})
