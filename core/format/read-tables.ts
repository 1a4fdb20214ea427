import { readRows } from './cells'
import { checkJobFile, jobFileVersion, pointKey, type FilePoint, type FileProblem, type FileReading, type JobFile } from './job-file'
import { keysFor } from './keys'
import type { CsvHead } from './points-csv'
import { breakerCell, networkCell, surveyColumnTypes, surveyTableNames, type Row, type SurveyTable } from './survey-columns'

const same = (cell: string) => cell.trim().toLowerCase()
/**
 * Reads the tables of a survey under a head that somebody typed, into the same document a JSON file gives. A table that is not
 * there is empty; rooms that only other tables name are taken from them. Faults are listed by table and line.
 */
export function readSurveyTables(given: { name: string; text: string }[], head: CsvHead): FileReading<JobFile> {
  const problems: FileProblem[] = []
  const source = new Map<SurveyTable, string>()
  for (const { name: fileName, text: content } of given) {
    const table = fileName
      .toLowerCase()
      .replace(/^.*[\\/]/, '')
      .replace(/\.csv$/, '') as SurveyTable
    if (!surveyTableNames.includes(table))
      problems.push({ where: fileName, problem: `There is no such table. Tables: ${surveyTableNames.join(', ')}.` })
    else if (source.has(table)) problems.push({ where: fileName, problem: 'This table is there twice.' })
    else source.set(table, content)
  }
  const rows = <T extends SurveyTable>(table: T) =>
    source.has(table) ? (readRows(surveyColumnTypes[table], `${table}.csv`, source.get(table)!, problems) as Row<T>[]) : []
  const say = (table: SurveyTable, { line }: { line: number }, problem: string) =>
    problems.push({ where: `${table}.csv, line ${line}`, problem })
  /** Named things, by what they are called; a name that comes twice is said. */
  const named = <R extends { line: number }>(table: SurveyTable, all: R[], nameOf: (row: R) => string) => {
    const keys = keysFor(all.map((row) => ({ id: same(nameOf(row)), name: nameOf(row) })))
    const seen = new Set<string>()
    for (const row of all) {
      if (seen.has(same(nameOf(row)))) say(table, row, `${nameOf(row)} stands there twice.`)
      seen.add(same(nameOf(row)))
    }
    return keys
  }

  const [sources, boxes, points] = [rows('sources'), rows('boxes'), rows('points')]
  const networks = rows('networks')
  const [kindOfHome] = rows('home')
  const listedRooms = rows('rooms')
  const nothing = { placed: null, floor: null, x: null, y: null, width: null, depth: null, metres: null, walls: null, floors: null }
  const rooms = source.has('rooms')
    ? listedRooms
    : [...new Map([...boxes, ...points, ...networks].filter(({ room }) => room).map((row) => [same(row.room), row])).values()].map(
        ({ room, line }): Row<'rooms'> => ({ ...nothing, room, line }),
      )
  const panels = rows('panels')
  const breakers = rows('breakers')
  const roomKey = named('rooms', rooms, ({ room }) => room)
  const panelKey = named('panels', panels, ({ panel }) => panel)
  const sourceKey = named('sources', sources, ({ source: one }) => one)
  const boxId = ({ room, box }: { room: string; box: string }) => `${room} ${box}`
  const boxKey = named('boxes', boxes, boxId)
  const networkNames = networks.map(({ network }) => ({ name: network }))
  const networkId = ({ network, note }: Row<'networks'>) => networkCell({ name: network, note }, networkNames)
  const networkKey = named('networks', networks, networkId)
  const found = (keys: Map<string, string>, table: SurveyTable, row: { line: number }, what: string, called: string) => {
    const key = keys.get(same(called))
    if (!key) say(table, row, `There is no ${what} “${called}”.`)
    return key ?? 'x'
  }
  const inRoom = (table: SurveyTable, row: { line: number; room: string }) => found(roomKey, table, row, 'room', row.room)
  const inBox = (table: SurveyTable, row: { line: number }, at: { room: string; box: string }) =>
    found(boxKey, table, row, 'box', boxId(at))

  const pointOf = new Map<string, FilePoint>()
  const breakerId = ({ panel, breaker }: Row<'breakers'>) => same(breakerCell(panel || null, breaker))
  for (const row of breakers)
    if (!row.main_of)
      pointOf.set(breakerId(row), {
        panel: row.panel ? found(panelKey, 'breakers', row, '{panel}', row.panel) : null,
        breaker: row.breaker,
      })
  const feed = (table: SurveyTable, row: { line: number }, cell: string): FilePoint[] => {
    const plain = same(cell.replace(/\s*\/\s*/, ' / '))
    // A number alone is enough where only one {panel} is there.
    const point = pointOf.get(plain) ?? (panels.length === 1 ? pointOf.get(same(breakerCell(panels[0]!.panel, cell))) : undefined)
    const hint = !cell.includes('/') && panels.length > 1 ? ` Write it with its {panel}: “${panels[0]!.panel} / ${cell}”.` : ''
    if (!point) say(table, row, `There is no {breaker} “${cell}”.${hint}`)
    return point ? [point] : []
  }
  const facts = (row: Row<'breakers'>): JobFile['disconnects'][number] => ({
    number: row.breaker,
    poles: row.poles ?? 1,
    amps: row.amps,
    label: row.label,
    state: row.state,
    offLimits: row.off_limits || null,
    protection: row.protection ?? 'unknown',
  })
  const ofPanel = (name: string) => breakers.filter(({ panel }) => same(panel) === same(name))
  const sharedNeutrals = breakers.flatMap((row) => {
    const mates = row.neutral_with.flatMap((cell) => feed('breakers', row, cell))
    return mates.length ? [[pointOf.get(breakerId(row))!, ...mates]] : []
  })
  const tieKey = (tie: FilePoint[]) => tie.map(pointKey).sort().join()

  const gathered = new Map<string, { first: Row<'points'>; controls: { box: string; gang: number }[] }>()
  for (const row of points) {
    const id = same(`${row.room} ${row.point}`)
    const control = { box: inBox('points', row, { room: row.switch_room, box: row.switch_box }), gang: row.gang }
    const known = gathered.get(id)
    if (!known) gathered.set(id, { first: row, controls: [control] })
    else {
      const differs = (['load', 'lamps', 'watts_each', 'dimmable', 'must_run', 'fixture_box'] as const).find(
        (column) => known.first[column] !== row[column],
      )
      if (differs) say('points', row, `${row.point} had another ${differs} on an earlier line.`)
      known.controls.push(control)
    }
  }
  const [devices, cables, splices, signals] = [rows('devices'), rows('cables'), rows('splices'), rows('signals')]
  const at = <R extends { room: string; box: string }>(all: R[], box: Row<'boxes'>): R[] =>
    all.filter((row) => same(boxId(row)) === same(boxId(box)))
  for (const [table, all] of [
    ['devices', devices],
    ['cables', cables],
    ['splices', splices],
  ] as const)
    for (const row of all) inBox(table, row, row)

  const file = {
    format: 'circuitry.job',
    version: jobFileVersion,
    ...head,
    site: {
      ...head.site,
      ...(kindOfHome
        ? {
            ...{ housing: kindOfHome.housing, builder: kindOfHome.builder },
            neutralEarthed: kindOfHome.neutral_earthed === null ? null : kindOfHome.neutral_earthed === 'yes',
          }
        : {}),
      ...(sources.length
        ? { sources: sources.map((row) => ({ key: sourceKey.get(same(row.source))!, kind: row.kind, name: row.source })) }
        : {}),
    },
    panels: panels.map((row) => {
      const inside = ofPanel(row.panel)
      const mains = inside.flatMap((one) =>
        one.main_of
          ? [
              {
                number: one.breaker,
                amps: one.amps,
                source: sources.length ? found(sourceKey, 'breakers', one, 'source', one.main_of) : 'service',
                state: one.state,
              },
            ]
          : [],
      )
      const [fedFrom = null, ...alsoFedFrom] = breakers.flatMap((one) =>
        one.feeds_panel.split(';').some((cell) => cell.trim() && same(cell) === same(row.panel)) ? [pointOf.get(breakerId(one))!] : [],
      )
      return {
        key: panelKey.get(same(row.panel))!,
        ...{ name: row.panel, place: row.place, main: mains[0] ?? null, otherMains: mains.slice(1), fedFrom, alsoFedFrom },
        breakers: inside.filter(({ main_of }) => !main_of).map(facts),
      }
    }),
    disconnects: breakers.filter(({ panel, main_of }) => !panel && !main_of).map(facts),
    sharedNeutrals: [...new Map(sharedNeutrals.map((tie) => [tieKey(tie), tie])).values()],
    rooms: rooms.map((row) => {
      const plan = { kind: 'plan', floor: row.floor, x: row.x, y: row.y, width: row.width, depth: row.depth }
      const between = { kind: 'between', metres: row.metres, walls: row.walls, floors: row.floors }
      return {
        key: roomKey.get(same(row.room))!,
        name: row.room,
        place: row.placed === 'plan' ? plan : row.placed === 'between' ? between : null,
      }
    }),
    boxes: boxes.map((row) => {
      const old = at(devices, row).map(({ gang, is, holds, on_when: onWhen, keep }) => ({
        ...{ gang, is, holds, onWhen },
        keep: keep === null ? null : keep === 'yes',
      }))
      const entered = at(cables, row).map(({ gauge_awg: gaugeAwg, area_mm2: areaMm2, colours, stranded }) => ({
        ...{ gaugeAwg, areaMm2, colours, stranded },
      }))
      const joined = at(splices, row).map(({ connector, conductors, free_ports: freePorts }) => ({
        connector,
        conductors,
        freePorts,
      }))
      const said = {
        ...{ kind: row.kind, looked: row.looked, supportFittings: row.fittings, neutral: row.neutral, ground: row.ground },
        ...{ plate: row.plate, finish: row.finish || null, onward: row.onward || null, freeLengthMm: row.free_length_mm },
        ...{ old: old.length ? old : null, cables: entered.length ? entered : null, splices: joined.length ? joined : null },
        faults: row.faults.length ? row.faults : null,
      }
      return {
        key: boxKey.get(same(boxId(row)))!,
        room: inRoom('boxes', row),
        ...{ name: row.box, gangs: row.gangs, volumeIn3: row.volume_in3, depthMm: row.depth_mm },
        ...{ material: row.material ?? 'unknown', internalClamps: row.clamps ?? 0 },
        feeds: row.feeds.flatMap((cell) => feed('boxes', row, cell)),
        unknownFeed: row.feed_unknown,
        survey: Object.fromEntries(Object.entries(said).filter(([, value]) => value !== null)),
      }
    }),
    points: [...gathered.values()].map(({ first, controls }) => ({
      name: first.point,
      room: inRoom('points', first),
      load: { technology: first.load, lamps: first.lamps, wattsEach: first.watts_each, dimmable: first.dimmable },
      mustRun: first.must_run,
      fixture: first.fixture_box ? inBox('points', first, { room: first.fixture_room, box: first.fixture_box }) : null,
      controls,
    })),
    networks: networks.map((row) => ({
      key: networkKey.get(same(networkId(row)))!,
      ...{ kind: row.kind, name: row.network, bands: row.bands, channel: row.channel, ownName: row.own_name, isolated: row.isolated },
      ...{ holds: row.holds, holdsMost: row.holds_most, bound: row.bound, note: row.note },
      room: row.room ? inRoom('networks', row) : null,
    })),
    signals: signals.map((row) => ({
      box: row.box ? inBox('signals', row, row) : null,
      room: row.box || !row.room ? null : inRoom('signals', row),
      network: row.network ? found(networkKey, 'signals', row, 'network', row.network) : null,
      ...{ band: row.band, dbm: row.dbm, bars: row.bars, roundTripMs: row.round_trip_ms },
    })),
  }
  // What the tables cannot be made into is not looked at further: each fault is said once.
  if (problems.length) return { ok: false, problems }
  if (!boxes.length && !rooms.length && !panels.length)
    return { ok: false, problems: [{ where: '(files)', problem: 'There is nothing in these tables.' }] }
  const reading = checkJobFile(file)
  const lines: Partial<Record<string, { line: number }[]>> = {
    rooms,
    boxes,
    panels,
    networks,
    signals,
    points: [...gathered.values()].map(({ first }) => first),
  }
  const byLine = ({ where, problem }: FileProblem): FileProblem => {
    const [, table = '', index = ''] = /^(\w+)\[(\d+)\]/.exec(where) ?? []
    const row = lines[table]?.[Number(index)]
    const part = where.split('.').at(-1)!
    return row
      ? { where: `${table}.csv, line ${row.line}`, problem: where.includes('.') ? `${part}: ${problem}` : problem }
      : { where, problem }
  }
  return reading.ok ? reading : { ok: false, problems: reading.problems.map(byLine) }
}
