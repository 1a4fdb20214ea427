import { counted } from '../units/counted'
import { inTrade } from '../units/trade-words'
import { typedNumber } from '../units/typed-number'
import { z } from 'zod'
import { loadTechnologies } from '../fit'
import { name, pick, readRows, text, yesNo, type RowOf } from './cells'
import { keyFor } from './keys'
import { checkJobFile, jobFileVersion, type FileProblem, type FileReading, type JobFile, type JobFileText } from './job-file'

const within = (low: number, high: number) =>
  z.string().trim().regex(/^\d+$/, 'expects a whole number').transform(Number).pipe(z.number().min(low).max(high))
const size = (high: number) =>
  z
    .string()
    .trim()
    .transform((cell, context) => {
      if (cell === '') return null
      const value = typedNumber(cell)
      if (Number.isFinite(value) && value > 0 && value <= high) return value
      context.addIssue({ code: 'custom', message: 'expects a number above 0' })
      return z.NEVER
    })

/** One line per control location: a point switched from two places has two lines with the same room and name. */
const columns = {
  room: name,
  box: name,
  gangs: within(1, 6),
  volume_in3: size(500),
  depth_mm: size(200),
  gang: within(1, 6),
  point: name,
  load: pick(loadTechnologies),
  lamps: within(1, 60),
  watts_each: z
    .string()
    .trim()
    .regex(/^\d+([.,]\d+)?$/, 'expects a number')
    .transform(typedNumber),
  dimmable: yesNo,
  panel: text(80),
  breaker: text(12),
  breaker_label: text(120),
}
export const csvColumns = Object.keys(columns)
type Row = RowOf<typeof columns>

export type CsvHead = Pick<JobFileText, 'job' | 'customer' | 'site'>

/** Reads a CSV of points under a head typed by the dispatcher, into the same document a JSON file gives. */
export function readPointsCsv(source: string, head: CsvHead): FileReading<JobFile> {
  const problems: FileProblem[] = []
  const rows = readRows(columns, '', source, problems)
  if (rows.length === 0 && problems.length === 0) problems.push({ where: 'line 2', problem: 'There are no points in this file.' })
  const panels = new Map<string, JobFile['panels'][number]>()
  const rooms = new Map<string, JobFile['rooms'][number]>()
  const boxes = new Map<string, JobFile['boxes'][number]>()
  const points = new Map<string, JobFile['points'][number]>()
  const say = (row: Row, problem: string) => problems.push({ where: `line ${row.line}`, problem })
  for (const row of rows) {
    const roomKey = keyFor(row.room)
    rooms.set(roomKey, { key: roomKey, name: row.room, place: null })
    const panelName = row.panel || inTrade('{panel}', head.site.scheme)
    const panelKey = keyFor(panelName)
    const panel = panels.get(panelKey) ?? {
      key: panelKey,
      name: panelName,
      place: '',
      main: { number: 'main', amps: null, source: 'service', state: 'closed' },
      otherMains: [],
      fedFrom: null,
      alsoFedFrom: [],
      breakers: [],
    }
    panels.set(panelKey, panel)
    if (row.breaker) {
      const known = panel.breakers.find((breaker) => breaker.number === row.breaker)
      if (!known)
        panel.breakers.push({
          number: row.breaker,
          poles: 1,
          amps: null,
          label: row.breaker_label,
          state: 'closed',
          offLimits: null,
          protection: 'unknown',
        })
      else if (row.breaker_label && known.label && known.label !== row.breaker_label)
        say(row, `{Breaker} ${row.breaker} was labelled “${known.label}” on an earlier line.`)
    }
    const boxKey = keyFor(`${row.room} ${row.box}`)
    const box = boxes.get(boxKey) ?? {
      key: boxKey,
      room: roomKey,
      name: row.box,
      gangs: row.gangs,
      volumeIn3: row.volume_in3,
      depthMm: row.depth_mm,
      material: 'unknown' as const,
      internalClamps: 0,
      feeds: [],
      unknownFeed: false,
      survey: {},
    }
    boxes.set(boxKey, box)
    if (box.gangs !== row.gangs) say(row, `${row.box} had ${counted(box.gangs, 'gang')} on an earlier line.`)
    if (row.gang > row.gangs) say(row, `gang ${row.gang} of ${row.gangs} does not exist.`)
    if (row.breaker && !box.feeds.some((feed) => feed.panel === panelKey && feed.breaker === row.breaker))
      box.feeds.push({ panel: panelKey, breaker: row.breaker })
    if (!row.breaker) box.unknownFeed = true
    const pointKey = keyFor(`${row.room} ${row.point}`)
    const load = { technology: row.load, lamps: row.lamps, wattsEach: row.watts_each, dimmable: row.dimmable }
    const point = points.get(pointKey)
    if (!point)
      points.set(pointKey, {
        name: row.point,
        room: roomKey,
        load,
        mustRun: false,
        fixture: null,
        controls: [{ box: boxKey, gang: row.gang }],
      })
    else if (JSON.stringify(point.load) !== JSON.stringify(load)) say(row, `${row.point} had another load on an earlier line.`)
    else point.controls.push({ box: boxKey, gang: row.gang })
  }
  if (problems.length) return { ok: false, problems }
  return checkJobFile({
    format: 'circuitry.job',
    version: jobFileVersion,
    ...head,
    panels: [...panels.values()],
    rooms: [...rooms.values()],
    boxes: [...boxes.values()],
    points: [...points.values()],
  })
}
