<script setup lang="ts">
import type { Region } from '~/utils/time'
import { DateTime } from 'luxon'
import { formatOf } from '../../../core/units/region'
import type { DayVisit } from '../../../core/protocol'

/** Crews against time. Promises are brackets; a visit still running past its end grows a pale tail. */
const props = defineProps<{ visits: DayVisit[]; region: Region; day: string; now: number }>()
const emit = defineEmits<{ pick: [visit: DayVisit] }>()
const session = useSession()

const left = 104
const width = 970
const rowHeight = 122

const start = computed(() => DateTime.fromISO(props.day, { zone: props.region.zone }).startOf('day'))
const hourOf = (iso: string) => DateTime.fromISO(iso, { zone: props.region.zone }).diff(start.value, 'hours').hours
const range = computed(() => {
  const hours = props.visits.flatMap((visit) => [
    hourOf(visit.windowFrom),
    hourOf(visit.startsAt),
    hourOf(visit.endsAt),
    hourOf(visit.windowTo),
  ])
  return { from: Math.max(0, Math.floor(Math.min(8, ...hours) - 0.25)), to: Math.min(24, Math.ceil(Math.max(17, ...hours) + 0.25)) }
})
const x = (hour: number) =>
  left +
  ((Math.min(range.value.to, Math.max(range.value.from, hour)) - range.value.from) / (range.value.to - range.value.from)) *
    (width - left - 30)
const ticks = computed(() => Array.from({ length: range.value.to - range.value.from + 1 }, (_, index) => range.value.from + index))
/** As one says it there: 18, or 6 PM. */
const hourWord = (hour: number) =>
  formatOf(props.region.locale, { timeZone: 'UTC', hour: 'numeric' }).format(Date.UTC(2000, 0, 1, hour % 24))
const nowHour = computed(() => hourOf(new Date(props.now).toISOString()))
const showNow = computed(() => nowHour.value >= range.value.from && nowHour.value <= range.value.to)

const crews = computed(() => {
  const rows = new Map<string, DayVisit[]>()
  for (const visit of props.visits) {
    // A crew is its first person's: whoever else comes along changes from visit to visit.
    const key = visit.personIds[0] ?? ''
    rows.set(key, [...(rows.get(key) ?? []), visit])
  }
  return [...rows.values()].map((visits, index) => ({
    name: `Crew ${index + 1}`,
    people: [...new Set(visits.flatMap((visit) => visit.personIds))].map((id) => session.person(id)?.initials ?? '?').join(' · '),
    visits: visits.map((visit) => {
      const from = hourOf(visit.arrivedAt ?? visit.startsAt)
      const planned = hourOf(visit.endsAt)
      const to = visit.finishedAt ? hourOf(visit.finishedAt) : planned
      const late =
        (visit.status === 'planned' && nowHour.value > hourOf(visit.windowTo)) ||
        (visit.status === 'onSite' && from > hourOf(visit.windowTo))
      const overrun = visit.status === 'onSite' && nowHour.value > planned ? nowHour.value : null
      const word =
        visit.tags.length && visit.status === 'onSite'
          ? `power off, ${counted(visit.tags.length, 'tag')}`
          : late
            ? 'late'
            : visit.status === 'onSite'
              ? `${visit.passed} of ${visit.points} pass`
              : visit.status === 'done'
                ? 'done'
                : visit.kind === 'install'
                  ? ''
                  : visit.kind
      return { visit, from, to, late, overrun, word }
    }),
  }))
})
const height = computed(() => 40 + crews.value.length * rowHeight)
const fit = (text: string, from: number, to: number) => {
  const room = Math.floor((x(to) - x(from) - 16) / 7.2)
  return text.length <= room ? text : room > 3 ? `${text.slice(0, room - 1)}…` : ''
}
</script>

<template>
  <div class="board">
    <svg :viewBox="`0 0 ${width} ${height}`" role="group" aria-label="Crews against time">
      <g v-for="hour in ticks" :key="hour">
        <path :d="`M${x(hour)} 26V${height}`" stroke="var(--line)" />
        <text :x="x(hour)" y="17" text-anchor="middle" class="hour">{{ hourWord(hour) }}</text>
      </g>
      <g v-for="(crew, row) in crews" :key="crew.people" :transform="`translate(0 ${44 + row * rowHeight})`">
        <text x="0" y="26" class="crew">{{ crew.name }}</text>
        <text x="0" y="46" class="people">{{ crew.people }}</text>
        <path :d="`M${left} ${rowHeight - 26}H${width}`" stroke="var(--line)" />
        <template v-for="entry in crew.visits" :key="`p${entry.visit.id}`">
          <path
            :d="`M${x(hourOf(entry.visit.windowFrom))} 2v-7H${x(hourOf(entry.visit.windowTo))}v7`"
            fill="none"
            :stroke="entry.late ? 'var(--live)' : 'var(--soft)'"
            stroke-width="1.6"
          />
          <rect
            v-if="entry.overrun !== null"
            :x="x(entry.to) - 4"
            y="13"
            :width="Math.max(0, x(entry.overrun) - x(entry.to) + 4)"
            height="60"
            fill="var(--mute)"
            stroke="var(--line)"
          />
        </template>
        <g
          v-for="entry in crew.visits"
          :key="entry.visit.id"
          class="visit"
          role="button"
          tabindex="0"
          :aria-label="`${entry.visit.siteName}, ${clockTime(entry.visit.startsAt, region)} to ${clockTime(entry.visit.endsAt, region)}, ${entry.word || entry.visit.status}`"
          @click="emit('pick', entry.visit)"
          @keydown.enter="emit('pick', entry.visit)"
        >
          <rect
            class="body"
            :x="x(entry.from)"
            y="7"
            :width="Math.max(14, x(entry.to) - x(entry.from))"
            height="72"
            rx="4"
            :fill="entry.visit.status === 'done' ? 'var(--mute)' : 'var(--sheet)'"
            :stroke="entry.late ? 'var(--live)' : 'var(--ink)'"
            :stroke-width="entry.late ? 2.5 : 1.6"
          />
          <text :x="x(entry.from) + 9" y="31" class="title">{{ fit(entry.visit.siteName, entry.from, entry.to) }}</text>
          <text :x="x(entry.from) + 9" y="51" class="word" :class="{ late: entry.late }">{{ fit(entry.word, entry.from, entry.to) }}</text>
          <g v-if="entry.visit.tags.length" :transform="`translate(${x(entry.from) + 9} 66)`">
            <path d="M0 0h9M24 0h9" stroke="var(--copper-bar)" stroke-width="5" />
            <path d="M24 0l-12 -9" stroke="var(--ink)" stroke-width="3.2" stroke-linecap="round" />
          </g>
        </g>
      </g>
      <g v-if="showNow" aria-hidden="true">
        <path :d="`M${x(nowHour)} 26V${height}`" stroke="var(--copper)" stroke-width="2" />
        <circle :cx="x(nowHour)" cy="26" r="5" fill="var(--copper)" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.board {
  overflow-x: auto;
}
svg {
  width: 100%;
  min-width: 700px;
  display: block;
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
.people {
  font: 13px var(--font-mono);
  fill: var(--soft);
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
.word.late {
  fill: var(--live);
  font-weight: 640;
}
.visit {
  cursor: pointer;
}
.visit:focus-visible {
  outline: none;
}
.visit:focus-visible .body,
.visit:hover .body {
  stroke: var(--copper);
  stroke-width: 3;
}
</style>
