<script setup lang="ts">
import { DateTime } from 'luxon'
import { numberIn } from '../../../core/units'
import type { Region } from '~/utils/time'

/** Seven days of a branch: how much of each is booked, who is away, and whether what waits has room. */
const props = defineProps<{ branchId: string; from: string; region: Region; today: string }>()
const emit = defineEmits<{ pick: [date: string] }>()
const session = useSession()
const { answer, problem } = useList('GET /api/dispatch/week', () => ({ query: { branchId: props.branchId, from: props.from } }), [
  'job',
  'jobs',
  'requests',
])
const hours = (minutes: number) => `${numberIn(Math.round(minutes / 6) / 10, props.region.locale)} h`
const days = computed(() =>
  (answer.value?.days ?? []).map((day) => {
    const date = DateTime.fromISO(day.date, { zone: 'UTC', locale: props.region.locale })
    return {
      ...day,
      weekday: date.toLocaleString({ weekday: 'short' }),
      short: date.toLocaleString({ day: 'numeric', month: 'short' }),
      share: day.capacity ? day.booked / day.capacity : day.booked ? 1 : 0,
      free: Math.max(0, day.capacity - day.booked),
      over: day.worked && day.booked > day.capacity,
      names: day.away.map((id) => session.person(id)?.initials ?? '?').join(', '),
    }
  }),
)
const free = computed(() => days.value.filter(({ date }) => date >= props.today).reduce((sum, day) => sum + day.free, 0))
const words = computed(() => {
  if (!answer.value) return ''
  const { count, minutes } = answer.value.waiting
  const room = `${hours(free.value)} of these days are free.`
  return count
    ? `${counted(count, 'visit waits', 'visits wait')}, about ${hours(minutes)} of work; ${room}`
    : `Nothing waits for a visit; ${room}`
})
</script>

<template>
  <section aria-label="The week">
    <CommonProblem :problem="problem" />
    <p v-if="answer" class="mb-3">{{ words }} <span class="soft small">On the road counts beside it.</span></p>
    <p v-else-if="!problem" class="soft">Adding up the week …</p>
    <div class="week">
      <button
        v-for="day in days"
        :key="day.date"
        type="button"
        class="day"
        :class="{ off: !day.worked && !day.visits, today: day.date === today }"
        :aria-label="`${day.weekday} ${day.short}: ${hours(day.booked)} of ${hours(day.capacity)} booked, ${counted(day.visits, 'visit')}${day.names ? `, away ${day.names}` : ''}`"
        @click="emit('pick', day.date)"
      >
        <b>{{ day.weekday }}</b><span class="soft small">{{ day.short }}</span>
        <span class="bar"
          ><span class="full" :class="{ over: day.over, beside: !day.worked }" :style="{ height: `${Math.min(100, day.share * 100)}%` }"
        /></span>
        <span class="mono small">{{ hours(day.booked) }}</span>
        <span class="soft small">{{ day.worked ? `of ${hours(day.capacity)}` : 'not worked' }}</span>
        <span class="small">{{ counted(day.visits, 'visit') }}</span>
        <span v-if="day.over" class="small warn">over</span>
        <span v-if="day.names" class="small soft">away {{ day.names }}</span>
      </button>
    </div>
  </section>
</template>

<style scoped>
.week {
  display: grid;
  grid-template-columns: repeat(7, minmax(0, 1fr));
  gap: 8px;
}
.day {
  display: grid;
  gap: 4px;
  justify-items: start;
  align-content: start;
  padding: 10px;
  border: 1.5px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
  text-align: left;
  min-height: 300px;
  cursor: pointer;
}
.day.today {
  border-color: var(--ink);
}
.day.off {
  background: transparent;
}
.bar {
  display: flex;
  align-items: end;
  width: 100%;
  height: 150px;
  border: 1px solid var(--line);
}
.full {
  display: block;
  width: 100%;
  background: var(--ink);
}
.full.beside {
  background: var(--soft);
}
.full.over {
  background: var(--copper);
}
@media (max-width: 760px) {
  .week {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
  .day {
    min-height: 0;
  }
  .bar {
    height: 60px;
  }
}
</style>
