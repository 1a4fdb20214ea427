<script setup lang="ts">
import { DateTime } from 'luxon'
import type { Visit } from '../../../core/job'
import type { Refusal } from '../../../core/stream'
import { longestPromiseHours, visitWords } from '../../../core/job'
import { workWords } from '../../../core/dispatch/work'
import { lackingOf } from '../../../core/dispatch/board/needs'
import type { ApiAnswer, PersonView } from '../../../core/protocol'
import { numberIn } from '../../../core/units'

type Booked = Pick<Visit, 'id' | 'kind' | 'startsAt' | 'endsAt' | 'windowFrom' | 'windowTo' | 'personIds'>
/** Schedules a visit, or changes one. Times are the branch's. */
const props = defineProps<{ jobId: string; branchId: string; visit?: Booked | null; kind?: Visit['kind']; callbackId?: string | null }>()
const emit = defineEmits<{ done: []; needs: [] }>()
const session = useSession()
const { t } = useTrade()
const region = computed(() => session.regionAt(props.branchId))
const local = (iso: string) => DateTime.fromISO(iso, { zone: region.value.zone })
const soon = DateTime.now().setZone(region.value.zone).plus({ minutes: 30 })
const first = props.visit
  ? local(props.visit.startsAt)
  : soon.set({ minute: soon.minute < 30 ? 30 : 0, second: 0 }).plus({ hours: soon.minute < 30 ? 0 : 1 })
const form = reactive({
  kind: props.visit?.kind ?? props.kind ?? 'install',
  date: first.toISODate() ?? '',
  from: first.toFormat('HH:mm'),
  hours: String(props.visit ? (Date.parse(props.visit.endsAt) - Date.parse(props.visit.startsAt)) / 3_600_000 : 2),
  windowFrom: props.visit ? local(props.visit.windowFrom).toFormat('HH:mm') : first.toFormat('HH:mm'),
  windowTo: props.visit ? local(props.visit.windowTo).toFormat('HH:mm') : first.plus({ hours: 2 }).toFormat('HH:mm'),
  people: [...(props.visit?.personIds ?? [])],
})
/** What is left to do says how long it takes, until somebody says otherwise. */
const expected = shallowRef<ApiAnswer<'GET /api/jobs/:id/duration'> | null>(null)
const own = ref(false)
/** Said on this form: what it takes is read anew. */
const said = ref(0)
function needsSaid() {
  said.value++
  emit('needs')
}
const asked = computed(() => ({
  said: said.value,
  params: { id: props.jobId },
  query: { kind: form.kind as Visit['kind'], people: [...form.people].sort().join() },
}))
watchDebounced(
  asked,
  async (given) => {
    const answer = await api('GET /api/jobs/:id/duration', { params: given.params, query: given.query })
    if (!answer.ok || asked.value !== given) return
    expected.value = answer.value
    if (!own.value && !props.visit) form.hours = String(Math.min(12, answer.value.hours))
  },
  { debounce: 200, immediate: true },
)
const hoursWords = (minutes: number) => numberIn(Math.round(minutes / 6) / 10, region.value.locale)
const expectedWords = computed(() => {
  if (!expected.value) return undefined
  const { minutes, low, high, parts, visits } = expected.value
  const made = parts
    .filter(({ kind }) => kind !== 'arrive' && kind !== 'pairing')
    .map(({ kind, count }) => counted(Math.max(1, Math.round(count)), ...workWords[kind]))
  const from = visits ? `; learnt from ${counted(visits, 'finished visit')}` : '; nothing was learnt yet'
  return `About ${hoursWords(minutes)} h; four of five such visits take ${hoursWords(low)} to ${hoursWords(high)} h. ${made.join(', ')}${from}.`
})
const crew = computed(() =>
  session.people.filter((person) => person.branchId === props.branchId && person.active && person.role !== 'dispatcher'),
)
const comes = (id: string) => session.person(id) ?? []
const lacking = computed(() => (expected.value && form.people.length ? lackingOf(expected.value.needs, form.people.flatMap(comes)) : null))
/** Whose van they would go in, if it is known. */
const van = computed(() => session.vanNameOf(form.people))
const about = ({ role, licensed, skills, vanName }: PersonView) =>
  [role, licensed ? 'licensed' : 'no licence', ...skills, ...(vanName ? [vanName] : [])].join(', ')
const kinds = Object.entries(visitWords).map(([value, label]) => ({ value, label }))
const busy = ref(false)
const refusal = ref<Refusal | null>(null)

function toggle(id: string) {
  form.people = toggled(form.people, id)
}
const instant = (time: string) => DateTime.fromISO(`${form.date}T${time}`, { zone: region.value.zone })

const hours = computed(() => typedHours(form.hours))
/** What a new customer is told follows the plan, until somebody says otherwise; a promise that was made stands. */
const promised = ref(props.visit !== undefined && props.visit !== null)
watch(
  () => form.from,
  (from) => {
    if (promised.value || !instant(from).isValid) return
    form.windowFrom = from
    form.windowTo = instant(from).plus({ hours: 2 }).toFormat('HH:mm')
  },
)
/** A promise that runs past midnight ends the next day; one of more than half a day is a slip. */
const windowEnd = computed(() => {
  const from = instant(form.windowFrom)
  const to = instant(form.windowTo)
  return to <= from ? to.plus({ days: 1 }) : to
})
const wrong = computed(() => ({
  hours: hours.value > 0 && hours.value <= 12 ? undefined : t('Hours such as 2, 4.5 h or 4:30, at most 12.'),
  windowTo:
    windowEnd.value.diff(instant(form.windowFrom), 'hours').hours > longestPromiseHours
      ? `${clockTime(instant(form.windowFrom).toISO(), region.value)} to ${clockTime(windowEnd.value.toISO(), region.value)} would run overnight. Which is meant?`
      : undefined,
}))
const oddTimes = computed(() => !instant(form.from).isValid || !instant(form.windowFrom).isValid || !windowEnd.value.isValid)

async function save(alsoBooked = false) {
  const start = instant(form.from)
  const times = {
    startsAt: start.toISO()!,
    endsAt: start.plus({ hours: hours.value }).toISO()!,
    windowFrom: instant(form.windowFrom).toISO()!,
    windowTo: windowEnd.value.toISO()!,
    personIds: form.people,
    alsoBooked,
  }
  const command = props.visit
    ? { type: 'moveVisit', visitId: props.visit.id, ...times }
    : { type: 'scheduleVisit', visitId: newId(), kind: form.kind, callbackId: props.callbackId ?? null, ...times }
  busy.value = true
  const given = await submitJobCommand(props.jobId, command)
  busy.value = false
  refusal.value = given.refusal
  if (given.ok) emit('done')
}
</script>

<template>
  <form class="stack" @submit.prevent="save()">
    <UFormField v-if="!visit && !callbackId" label="Kind" name="kind"
      ><USelect v-model="form.kind" :items="kinds" class="w-full"
    /></UFormField>
    <div class="grid grid-cols-2 gap-3">
      <UFormField label="Day" name="date" class="col-span-2"
        ><CommonDay v-model="form.date" label="Day" :region="region" name="date" required
      /></UFormField>
      <UFormField label="Starts" name="from"><CommonTime v-model="form.from" label="Starts" :region="region" name="from" /></UFormField>
      <UFormField label="Hours" name="hours" :error="wrong.hours"
        ><UInput v-model="form.hours" inputmode="decimal" name="hours" required @update:model-value="own = true"
      /></UFormField>
      <p class="small soft col-span-2" data-testid="expected-duration">{{ expectedWords }}</p>
      <UFormField label="Promised from" name="windowFrom"
        ><CommonTime v-model="form.windowFrom" label="Promised from" :region="region" name="windowFrom" @entered="promised = true"
      /></UFormField>
      <UFormField label="Promised to" name="windowTo" :error="wrong.windowTo"
        ><CommonTime v-model="form.windowTo" label="Promised to" :region="region" name="windowTo" @entered="promised = true"
      /></UFormField>
    </div>
    <DayNeeds v-if="expected" :job-id="jobId" :branch-id="branchId" :needs="expected.needs" @changed="needsSaid" />
    <fieldset class="stack">
      <legend class="font-semibold mb-1">Crew</legend>
      <UCheckbox
        v-for="person in crew"
        :key="person.id"
        :model-value="form.people.includes(person.id)"
        :label="`${person.initials} · ${person.name}`"
        :description="about(person)"
        @update:model-value="toggle(person.id)"
      />
      <p v-if="form.people.length && !form.people.some((id) => session.person(id)?.licensed)" class="note amber">
        Nobody on this crew is licensed, and a proof needs a licensed witness.
      </p>
      <p v-if="lacking" class="note amber">This crew lacks: {{ lackWords(lacking) }}.</p>
      <p v-if="van" class="small soft">They go in {{ van }}.</p>
    </fieldset>
    <p v-if="oddTimes" class="small warn">Enter the day and all three times.</p>
    <CommonRefusal :refusal="refusal" />
    <UButton v-if="refusal?.code === 'doubleBooked'" :loading="busy" @click="save(true)">Book them anyway</UButton>
    <UButton
      type="submit"
      variant="solid"
      size="xl"
      :loading="busy"
      :disabled="form.people.length === 0 || oddTimes || wrong.hours !== undefined || wrong.windowTo !== undefined"
      >{{ visit ? 'Save the visit' : 'Schedule the visit' }}</UButton
    >
  </form>
</template>
