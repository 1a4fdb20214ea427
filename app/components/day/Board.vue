<script setup lang="ts">
import type { Region } from '~/utils/time'
import { DateTime } from 'luxon'
import { formatOf } from '../../../core/units/region'
import type { DayVisit } from '../../../core/protocol'
import type { Outlook, Change } from '../../../core/dispatch'
import type { Tried } from '~/workers/day'
import { present, type Away } from '../../../core/dispatch/away'
import { runsLate } from '../../../core/dispatch/promise'

/**
 * Crews against time. Promises are brackets, with a mark where they may not hold; the way is drawn before each visit; time that is
 * uncertain is a pale tail; what is proposed is a dashed outline.
 */
const props = defineProps<{
  visits: DayVisit[]
  region: Region
  day: string
  now: number
  /** As they were worked out; without, crews follow from who is named first. */
  crews: { id: string; personIds: string[] }[]
  outlook: Outlook | null
  /** Who does not work at some time of that day. */
  away: Away[]
  changes: Change[]
  nameOf: (siteId: string) => string
  /** What one of its people has to be able to do. */
  skillsOf: (visitId: string) => readonly string[]
  /** What a visit would do elsewhere; null where nobody may move any. */
  tryAt: ((id: string, crew: string, startAt: string) => Promise<Tried | null>) | null
  /** Shown to be found: by name, address or person. */
  filter: string
}>()
const emit = defineEmits<{
  pick: [visit: DayVisit]
  drop: [visit: DayVisit, crew: string, startAt: string, tried: Tried | null]
}>()
const session = useSession()

const left = 104
const width = 970
/** With more crews than this the rows are scrolled under their hours. */
const fitCrews = 14
const hoursHeight = 24
/** So high is the board at most before it is scrolled. */
const roomForRows = 520

const start = computed(() => DateTime.fromISO(props.day, { zone: props.region.zone }).startOf('day'))
/** Of the day that is shown: a board of three hundred visits asks thousands of times. */
const hours = computed(() => ({ from: start.value, known: new Map<string, number>() }))
function hourOf(iso: string): number {
  const { from, known } = hours.value
  let hour = known.get(iso)
  if (hour === undefined) known.set(iso, (hour = DateTime.fromISO(iso, { zone: props.region.zone }).diff(from, 'hours').hours))
  return hour
}
/** A tag takes so much of a low bracket. */
const tagRoom = 42
const range = computed(() => {
  const hours = props.visits.flatMap((visit) => [hourOf(visit.startsAt), hourOf(visit.endsAt)])
  return { from: Math.max(0, Math.floor(Math.min(8, ...hours) - 0.25)), to: Math.min(24, Math.ceil(Math.max(17, ...hours) + 0.25)) }
})
const scale = computed(() => (width - left - 30) / (range.value.to - range.value.from))
const x = (hour: number) => left + (Math.min(range.value.to, Math.max(range.value.from, hour)) - range.value.from) * scale.value
const ticks = computed(() => Array.from({ length: range.value.to - range.value.from + 1 }, (_, index) => range.value.from + index))
/** As one says it there: 18, or 6 PM; on the day the clock is changed, too. */
const hourWord = (hour: number) =>
  formatOf(props.region.locale, { timeZone: props.region.zone, hour: 'numeric' }).format(start.value.plus({ hours: hour }).toMillis())
const nowHour = computed(() => hourOf(new Date(Math.floor(props.now / 60_000) * 60_000).toISOString()))
const showNow = computed(() => nowHour.value >= range.value.from && nowHour.value <= range.value.to)

/** Visits none of whose people has a row: everybody who was to go is away. */
const nobody = 'nobody'
const rows = computed(() => {
  if (props.crews.length) {
    const known = new Set(props.crews.flatMap(({ personIds }) => personIds))
    const lost = props.visits.filter(({ personIds }) => !personIds.some((id) => known.has(id)))
    return lost.length ? [...props.crews, { id: nobody, personIds: [...new Set(lost.flatMap(({ personIds }) => personIds))] }] : props.crews
  }
  const byLeader = new Map<string, string[]>()
  for (const { personIds } of props.visits)
    byLeader.set(personIds[0] ?? '', [...new Set([...(byLeader.get(personIds[0] ?? '') ?? []), ...personIds])])
  return [...byLeader].map(([id, personIds]) => ({ id, personIds }))
})
const expected = computed(() => new Map((props.outlook?.visits ?? []).map((one) => [one.id, one])))
const overtime = computed(() => new Map((props.outlook?.crews ?? []).map((one) => [one.id, one.overtime])))
const sought = computed(() => props.filter.trim().toLowerCase())
const isSought = (text: string) => text.toLowerCase().includes(sought.value)
const found = (visit: DayVisit) => {
  if (!sought.value) return true
  const people = visit.personIds.map((id) => session.person(id)).map((person) => `${person?.name ?? ''} ${person?.initials ?? ''}`)
  return [visit.siteName, visit.address, visit.jobTitle, ...people, ...props.skillsOf(visit.id)].some(isSought)
}
/** Looked for by what they can do. */
const able = (personIds: readonly string[]) => sought.value !== '' && personIds.some((id) => session.person(id)?.skills.some(isSought))
const aboutCrew = (personIds: readonly string[]) => {
  const people = personIds.flatMap((id) => session.person(id) ?? [])
  const van = session.vanNameOf(personIds)
  const skills = [...new Set(people.flatMap((person) => person.skills))]
  return [people.map(({ name }) => name).join(', '), ...(van ? [`in ${van}`] : []), ...(skills.length ? [skills.join(', ')] : [])].join(
    '; ',
  )
}
const crews = computed(() =>
  rows.value.map((crew, index) =>
    looksOf({
      id: crew.id,
      name: crew.id === nobody ? 'Nobody' : `Crew ${index + 1}`,
      people: crew.id === nobody ? 'away' : session.initials(crew.personIds),
      about: aboutCrew(crew.personIds),
      able: able(crew.personIds),
      overtime: (overtime.value.get(crew.id) ?? 0) >= oftenLate,
      visits: props.visits
        // Two crews at one home: it stands with both.
        .filter((visit) =>
          visit.personIds.some((id) => rows.value.some((one) => one.id === id))
            ? visit.personIds.includes(crew.id)
            : visit.personIds.some((id) => crew.personIds.includes(id)),
        )
        .map((visit) => entryOf(visit)),
    }),
  ),
)
/** What its row shows, so that a row that looks the same is not drawn anew. */
function looksOf<T extends { visits: ReturnType<typeof entryOf>[] }>(crew: T): T & { looks: string } {
  return { ...crew, looks: JSON.stringify(crew) }
}
function entryOf(visit: DayVisit) {
  const from = hourOf(visit.arrivedAt ?? visit.startsAt)
  const planned = hourOf(visit.endsAt)
  const to = visit.finishedAt ? hourOf(visit.finishedAt) : planned
  const late =
    (visit.status === 'planned' && nowHour.value > hourOf(visit.windowTo)) || (visit.status === 'onSite' && from > hourOf(visit.windowTo))
  const overrun = visit.status === 'onSite' && nowHour.value > planned ? nowHour.value : null
  const way = visit.status === 'planned' ? (expected.value.get(visit.id) ?? null) : null
  const chance = way?.late ?? 0
  const gone = visit.status === 'planned' && present(props.away, visit).length === 0
  const word = gone
    ? 'nobody there'
    : visit.tags.length && visit.status === 'onSite'
      ? `power off, ${counted(visit.tags.length, 'tag')}`
      : late
        ? 'late'
        : visit.status === 'onSite'
          ? `${visit.passed} of ${visit.points} pass`
          : visit.status === 'done'
            ? 'done'
            : visit.setOffAt
              ? visit.expectedAt && runsLate(visit.windowTo, visit.expectedAt)
                ? 'comes late'
                : 'on the way'
              : chance >= oftenLate
                ? 'likely late'
                : visit.kind === 'install'
                  ? ''
                  : visit.kind
  return { visit, from, to, late: late || gone, overrun, word, way, chance, shown: found(visit) }
}
const rowHeight = computed(() => Math.max(42, Math.min(122, Math.floor(roomForRows / Math.max(1, crews.value.length)))))
const dense = computed(() => rowHeight.value < 84)
const body = computed(() => ({ top: 7, height: rowHeight.value - (dense.value ? 17 : 50) }))
const height = computed(() => 40 + crews.value.length * rowHeight.value)
const fit = (text: string, from: number, to: number) => {
  const room = Math.floor((x(to) - x(from) - 12) / 7.2)
  return text.length <= room ? text : room > 3 ? `${text.slice(0, room - 1)}…` : ''
}
/** What is off comes before a name: a short bracket has no room for both. */
const nameIn = ({ visit, from, to }: { visit: DayVisit; from: number; to: number }) =>
  fit(visit.siteName, from, dense.value && visit.tags.length ? to - tagRoom / scale.value : to)
const labelOf = ({ visit, word, way }: ReturnType<typeof entryOf>) =>
  [
    visit.siteName,
    `${clockTime(visit.startsAt, props.region)} to ${clockTime(visit.endsAt, props.region)}`,
    word || visit.status,
    ...(way && way.late >= maybeLate ? [lateWords(way.late)] : []),
  ].join(', ')

/** What is proposed, in the rows of who would go. */
const outlines = computed(() =>
  props.changes.flatMap((change) =>
    change.quiet
      ? []
      : rows.value.flatMap((crew, row) =>
          change.personIds.includes(crew.id) ? [{ change, row, from: hourOf(change.startAt), to: hourOf(change.endAt) }] : [],
        ),
  ),
)
const leaving = computed(() => new Set(props.changes.filter(({ quiet }) => !quiet).map(({ id }) => id)))

// A visit in the hand: by pointer, or by keys.
const svg = useTemplateRef<SVGSVGElement>('svg')
const held = shallowRef<{ visit: DayVisit; row: number; hour: number; grab: number; by: 'pointer' | 'keys'; moved: boolean } | null>(null)
const tried = shallowRef<Tried | null>(null)
/** The visit in the hand, where it is one of this row’s. */
const heldIn = (crew: { visits: readonly { visit: DayVisit }[] }) => {
  const now = held.value
  return now?.moved && crew.visits.some(({ visit }) => visit.id === now.visit.id) ? now.visit.id : null
}
const mayMove = (visit: DayVisit) => props.tryAt !== null && visit.status === 'planned'
const isoOf = (hour: number) =>
  start.value
    .plus({ minutes: Math.round(hour * 60) })
    .toUTC()
    .toISO()!
const quarter = (hour: number) => Math.round(hour * 4) / 4
const spot = computed(() => (held.value ? `${held.value.row} ${quarter(held.value.hour)}` : null))
let asking = 0
watch(spot, async (now) => {
  tried.value = null
  if (!now || !held.value?.moved) return
  const mine = ++asking
  const { visit, row, hour } = held.value
  const answer = await props.tryAt!(visit.id, rows.value[row]!.id, isoOf(quarter(hour)))
  if (mine === asking && held.value) tried.value = answer
})
function at(event: PointerEvent) {
  const box = svg.value!.getBoundingClientRect()
  const to = (event.clientX - box.left) * (width / box.width)
  const down = hoursHeight + (event.clientY - box.top) * ((height.value - hoursHeight) / box.height)
  return {
    hour: range.value.from + (to - left) / scale.value,
    row: Math.min(crews.value.length - 1, Math.max(0, Math.floor((down - 40) / rowHeight.value))),
  }
}
function grab(event: PointerEvent, visit: DayVisit, row: number) {
  if (!mayMove(visit) || event.button !== 0) return
  const from = hourOf(visit.startsAt)
  held.value = { visit, row, hour: from, grab: at(event).hour - from, by: 'pointer', moved: false }
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent) {
  const now = held.value
  if (now?.by !== 'pointer') return
  const { hour, row } = at(event)
  const moved = now.moved || Math.abs(hour - now.grab - now.hour) > 0.1 || row !== now.row
  if (moved) held.value = { ...now, hour: hour - now.grab, row, moved }
}
function letGo() {
  const now = held.value
  if (!now) return
  held.value = null
  const elsewhere =
    now.moved && (quarter(now.hour) !== quarter(hourOf(now.visit.startsAt)) || !now.visit.personIds.includes(rows.value[now.row]!.id))
  if (elsewhere) emit('drop', now.visit, rows.value[now.row]!.id, isoOf(quarter(now.hour)), tried.value)
  else if (!now.moved) emit('pick', now.visit)
}
/** A click that no pointer made, by a screen reader, say. */
const clicked = (visit: DayVisit, { detail }: MouseEvent) => {
  if (!mayMove(visit) || detail === 0) emit('pick', visit)
}
const steps: Record<string, [rows: number, hours: number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -0.25],
  ArrowRight: [0, 0.25],
}
function key(event: KeyboardEvent, visit: DayVisit, row: number) {
  const now = held.value
  if (event.key === 'Enter' || event.key === ' ') {
    event.preventDefault()
    if (now?.by === 'keys') letGo()
    else emit('pick', visit)
  } else if (event.key === 'Escape' && now) {
    event.preventDefault()
    held.value = null
  } else if (steps[event.key] && mayMove(visit)) {
    event.preventDefault()
    const [down, later] = steps[event.key]!
    const from = now ?? { visit, row, hour: hourOf(visit.startsAt), grab: 0, by: 'keys' as const, moved: false }
    held.value = {
      ...from,
      by: 'keys',
      moved: true,
      row: Math.min(crews.value.length - 1, Math.max(0, from.row + down)),
      hour: from.hour + later,
    }
  }
}
const said = computed(() => {
  const now = held.value
  if (!now?.moved) return ''
  const where = `${now.visit.siteName}: ${crews.value[now.row]!.people}, ${clockTime(isoOf(quarter(now.hour)), props.region)}.`
  if (!tried.value) return where
  const late = tried.value.late.map(
    ({ id, minutes }) => `${props.visits.find((visit) => visit.id === id)?.siteName ?? 'It'} would begin ${minutesWords(minutes)} late`,
  )
  const breaks = tried.value.breaks.map((one) => breakWords[one])
  const wrong = [...late, ...breaks]
  return `${where} ${wrong.length ? `${sentenceOf(wrong.join('; '))}.` : 'Every promise holds.'}`
})
const spoils = computed(() => Boolean(tried.value && (tried.value.late.length || tried.value.breaks.length)))
</script>

<template>
  <div class="board" :class="{ many: crews.length > fitCrews }">
    <svg class="hours" :viewBox="`0 0 ${width} ${hoursHeight}`" aria-hidden="true">
      <text v-for="hour in ticks" :key="hour" :x="x(hour)" y="17" text-anchor="middle" class="hour">{{ hourWord(hour) }}</text>
    </svg>
    <svg
      ref="svg"
      :viewBox="`0 ${hoursHeight} ${width} ${height - hoursHeight}`"
      role="group"
      aria-label="Crews against time"
      :class="{ dense }"
    >
      <path v-for="hour in ticks" :key="hour" :d="`M${x(hour)} ${hoursHeight}V${height}`" stroke="var(--line)" />
      <!-- A hand that moves draws no row anew but its own. -->
      <g
        v-for="(crew, row) in crews"
        :key="crew.id"
        v-memo="[crew.looks, row, ticks.length, range.from, rowHeight, leaving, heldIn(crew)]"
        :transform="`translate(0 ${44 + row * rowHeight})`"
      >
        <text x="0" :y="dense ? 16 : 26" class="crew" :class="{ able: crew.able }">
          {{ crew.name }}
          <title>{{ crew.about }}</title>
        </text>
        <text x="0" :y="dense ? 30 : 46" class="people">
          {{ crew.people }}
          <tspan v-if="crew.overtime" class="over">over</tspan>
        </text>
        <path :d="`M${left} ${rowHeight - (dense ? 6 : 26)}H${width}`" stroke="var(--line)" />
        <template v-for="entry in crew.visits" :key="`p${entry.visit.id}`">
          <path
            v-if="entry.way && entry.way.way"
            class="way"
            :d="`M${x(entry.from - hourOf(entry.way.arriveAt) + hourOf(entry.way.leaveAt))} ${body.top + body.height / 2}H${x(entry.from) - 2}`"
          />
          <rect
            v-if="entry.way && hourOf(entry.way.fourAt) > entry.from"
            class="tail"
            :x="x(entry.from)"
            :y="body.top + body.height"
            :width="Math.max(0, x(hourOf(entry.way.fourAt)) - x(entry.from))"
            height="4"
          />
          <path
            :d="`M${x(hourOf(entry.visit.windowFrom))} 2v-7H${x(hourOf(entry.visit.windowTo))}v7`"
            fill="none"
            :stroke="entry.late ? 'var(--live)' : 'var(--soft)'"
            stroke-width="1.6"
          />
          <path
            v-if="entry.chance >= maybeLate"
            :d="`M${x(hourOf(entry.visit.windowTo)) - 5} -5h10l-5 9z`"
            :fill="entry.chance >= oftenLate ? 'var(--live)' : 'var(--amber)'"
            stroke="var(--ink)"
            stroke-width=".8"
          />
          <rect
            v-if="entry.overrun !== null"
            :x="x(entry.to) - 4"
            :y="body.top + 6"
            :width="Math.max(0, x(entry.overrun) - x(entry.to) + 4)"
            :height="Math.max(6, body.height - 12)"
            fill="var(--mute)"
            stroke="var(--line)"
          />
        </template>
        <g
          v-for="entry in crew.visits"
          :key="entry.visit.id"
          class="visit"
          :class="{ pale: !entry.shown || leaving.has(entry.visit.id), held: held?.moved && held.visit.id === entry.visit.id }"
          role="button"
          tabindex="0"
          :aria-label="labelOf(entry)"
          @click="clicked(entry.visit, $event)"
          @pointerdown="grab($event, entry.visit, row)"
          @pointermove="drag"
          @pointerup="letGo"
          @pointercancel="held = null"
          @keydown="key($event, entry.visit, row)"
          @blur="held?.by === 'keys' && (held = null)"
        >
          <rect
            class="body"
            :x="x(entry.from)"
            :y="body.top"
            :width="Math.max(14, x(entry.to) - x(entry.from))"
            :height="body.height"
            rx="4"
            :fill="entry.visit.status === 'done' ? 'var(--mute)' : 'var(--sheet)'"
            :stroke="entry.late ? 'var(--live)' : 'var(--ink)'"
            :stroke-width="entry.late ? 2.5 : 1.6"
          />
          <text :x="x(entry.from) + 7" :y="body.top + (dense ? body.height / 2 + (body.height >= 34 ? -1 : 5) : 24)" class="title">
            {{ nameIn(entry) }}
          </text>
          <text
            v-if="body.height >= 34"
            :x="x(entry.from) + 7"
            :y="body.top + (dense ? body.height / 2 + 13 : 44)"
            class="word"
            :class="{ late: entry.late || entry.word === 'likely late' }"
          >
            {{ fit(entry.word, entry.from, entry.to) }}
          </text>
          <path
            v-if="entry.visit.status === 'onSite' && dense"
            :d="`M${x(entry.from)} ${body.top + 4}v${body.height - 8}`"
            stroke="var(--copper)"
            stroke-width="5"
          />
          <g
            v-if="entry.visit.tags.length"
            :transform="dense ? `translate(${x(entry.to) - 40} ${body.top + body.height - 5})` : `translate(${x(entry.from) + 9} 66)`"
          >
            <path d="M0 0h9M24 0h9" stroke="var(--copper-bar)" stroke-width="5" />
            <path d="M24 0l-12 -9" stroke="var(--ink)" stroke-width="3.2" stroke-linecap="round" />
          </g>
        </g>
      </g>
      <g
        v-for="{ change, row, from, to } in outlines"
        :key="`c${change.id}${row}`"
        :transform="`translate(0 ${44 + row * rowHeight})`"
        class="outline"
      >
        <rect :x="x(from)" :y="body.top" :width="Math.max(14, x(to) - x(from))" :height="body.height" rx="4" />
        <text :x="x(from) + 7" :y="body.top + (dense ? body.height / 2 + 5 : 24)" class="title">
          {{ fit(nameOf(change.siteId), from, to) }}
        </text>
      </g>
      <g v-if="held?.moved" :transform="`translate(0 ${44 + held.row * rowHeight})`" class="outline in-hand" :class="{ spoils }">
        <rect
          :x="x(quarter(held.hour))"
          :y="body.top"
          :width="Math.max(14, ((Date.parse(held.visit.endsAt) - Date.parse(held.visit.startsAt)) / 3_600_000) * scale)"
          :height="body.height"
          rx="4"
        />
      </g>
      <g v-if="showNow" aria-hidden="true" class="now">
        <path :d="`M${x(nowHour)} 26V${height}`" stroke="var(--copper)" stroke-width="2" />
        <circle :cx="x(nowHour)" cy="30" r="5" fill="var(--copper)" />
      </g>
    </svg>
    <p class="said" :class="{ warn: spoils }" aria-live="polite">{{ said }}</p>
  </div>
</template>

<style scoped>
@media (min-width: 900px) and (min-height: 600px) {
  .board.many {
    max-height: calc(100vh - 90px);
  }
}
.hours {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--paper);
}
.board {
  overflow-x: auto;
}
svg {
  width: 100%;
  min-width: 700px;
  display: block;
  touch-action: pan-y;
}
.hour {
  font: 13px var(--font-mono);
  fill: var(--soft);
}
.crew {
  font-weight: 640;
  font-size: 15px;
  fill: var(--ink);
}
.able {
  text-decoration: underline 2px var(--copper);
}
.people {
  font: 13px var(--font-mono);
  fill: var(--soft);
}
.over {
  fill: var(--live);
  font-weight: 640;
}
.dense .crew,
.dense .title {
  font-size: 13px;
}
.title {
  font-weight: 620;
  font-size: 14px;
  fill: var(--ink);
}
.word {
  font-size: 13px;
  fill: var(--soft);
}
.dense .word {
  font-size: 12px;
}
.word.late {
  fill: var(--live);
  font-weight: 640;
}
.way {
  fill: none;
  stroke: var(--soft);
  stroke-width: 3;
  stroke-dasharray: 2 3;
}
.tail {
  fill: var(--line);
}
.visit {
  cursor: pointer;
}
.visit.pale {
  opacity: 0.35;
}
.visit.held {
  opacity: 0.2;
}
.visit:focus-visible {
  outline: none;
}
.visit:focus-visible .body,
.visit:hover .body {
  stroke: var(--copper);
  stroke-width: 3;
}
.outline {
  pointer-events: none;
}
.outline rect {
  fill: var(--sheet);
  fill-opacity: 0.85;
  stroke: var(--copper);
  stroke-width: 2.2;
  stroke-dasharray: 6 4;
}
.outline.spoils rect {
  stroke: var(--live);
}
.now {
  pointer-events: none;
}
.said {
  min-height: 1.5em;
  font-size: 14px;
}
.many .said {
  position: sticky;
  bottom: 0;
  background: var(--paper);
}
.warn {
  color: var(--live);
}
</style>
