import { z } from 'zod'
import { loadTechnologies } from '../fit/words'
import {
  boxFaults,
  boxKinds,
  connectorKinds,
  groundFinds,
  holdKinds,
  housingKinds,
  lookDepths,
  networkBands,
  networkKinds,
  neutralFinds,
  oldDevices,
  plateKinds,
  protections,
} from '../site/survey-words'
import { breakerStates, conductorColours, sourceKinds } from '../site/words'
import { list, name, number, optional, pick, pickOrNothing, text, whole, yesNo, type RowOf } from './cells'

export const surveyColumnTypes = {
  home: { housing: pickOrNothing(housingKinds), builder: text(80), neutral_earthed: pickOrNothing(['yes', 'no'] as const) },
  sources: { source: name, kind: pick(sourceKinds) },
  rooms: {
    room: name,
    placed: pickOrNothing(['plan', 'between'] as const),
    floor: optional(whole),
    x: optional(number),
    y: optional(number),
    width: optional(number),
    depth: optional(number),
    metres: optional(number),
    walls: optional(whole),
    floors: optional(whole),
  },
  panels: { panel: name, place: text(80) },
  breakers: {
    panel: text(80),
    breaker: text(12).min(1, 'is empty'),
    main_of: text(80),
    feeds_panel: text(80),
    poles: optional(whole),
    amps: optional(number),
    label: text(120),
    state: pick(breakerStates),
    protection: pickOrNothing(protections),
    off_limits: text(200),
    neutral_with: list(text(100)),
  },
  boxes: {
    room: name,
    box: name,
    kind: pickOrNothing(boxKinds),
    gangs: whole,
    volume_in3: optional(number),
    depth_mm: optional(number),
    material: pickOrNothing(['plastic', 'metal', 'unknown'] as const),
    clamps: optional(whole),
    fittings: optional(whole),
    feeds: list(text(100)),
    feed_unknown: yesNo,
    looked: pickOrNothing(lookDepths),
    neutral: pickOrNothing(neutralFinds),
    ground: pickOrNothing(groundFinds),
    onward: text(120),
    plate: pickOrNothing(plateKinds),
    finish: text(40),
    free_length_mm: optional(whole),
    faults: list(
      z
        .string()
        .regex(
          new RegExp(`^(${boxFaults.join('|')})( (open|offered|declined))?$`),
          `expects faults of ${boxFaults.join(', ')}, each with open, offered or declined`,
        )
        .transform((cell) => {
          const [is, then = 'open'] = cell.split(' ')
          return { is: is as (typeof boxFaults)[number], then: then as 'open' | 'offered' | 'declined' }
        }),
    ),
  },
  devices: {
    room: name,
    box: name,
    gang: whole,
    is: pick(oldDevices),
    holds: pickOrNothing(holdKinds),
    on_when: pickOrNothing(['up', 'down', 'either'] as const),
    keep: pickOrNothing(['yes', 'no'] as const),
  },
  cables: {
    room: name,
    box: name,
    gauge_awg: optional(whole),
    area_mm2: optional(number),
    colours: list(pick(conductorColours)),
    stranded: yesNo,
  },
  splices: { room: name, box: name, connector: pick(connectorKinds), conductors: whole, free_ports: whole },
  points: {
    room: name,
    point: name,
    load: pick(loadTechnologies),
    lamps: whole,
    watts_each: number,
    dimmable: yesNo,
    must_run: yesNo,
    fixture_room: text(80),
    fixture_box: text(80),
    switch_room: name,
    switch_box: name,
    gang: whole,
  },
  networks: {
    network: name,
    kind: pick(networkKinds),
    bands: list(pick(networkBands)),
    channel: optional(whole),
    own_name: yesNo,
    isolated: yesNo,
    holds: optional(whole),
    holds_most: optional(whole),
    bound: list(text(80)),
    room: text(80),
    note: text(200),
  },
  signals: {
    room: text(80),
    box: text(80),
    network: text(300),
    band: pick(networkBands),
    dbm: optional(whole),
    bars: optional(whole),
    round_trip_ms: optional(whole),
  },
} satisfies Record<string, Record<string, z.ZodType<unknown, string>>>

export type SurveyTable = keyof typeof surveyColumnTypes
export const surveyTableNames = Object.keys(surveyColumnTypes) as SurveyTable[]
/** The columns of a table, in order. */
export const surveyColumns = (table: SurveyTable): string[] => Object.keys(surveyColumnTypes[table])
export type Cell = string | number | boolean | null
export type Cells<T extends SurveyTable> = Record<keyof (typeof surveyColumnTypes)[T] & string, Cell>
export type Row<T extends SurveyTable> = RowOf<(typeof surveyColumnTypes)[T]>

/** A {breaker} in one cell: its {panel} and number, or its number alone where it is a disconnect. */
export const breakerCell = (panelName: string | null, breaker: string) => (panelName === null ? breaker : `${panelName} / ${breaker}`)
/** A network in one cell: by its note where another bears its name. */
export const networkCell = ({ name, note }: { name: string; note: string }, all: { name: string }[]) =>
  all.filter((one) => one.name === name).length > 1 ? `${name} (${note})` : name
