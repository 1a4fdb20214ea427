<script setup lang="ts">
import { DateTime } from 'luxon'
import type { Route } from '~/workers/day'
import type { Region } from '~/utils/time'

/** The day on paper, visits to a spreadsheet and back, hours for the office, ways as GeoJSON. */
const props = defineProps<{
  branchId: string
  region: Region
  day: string
  routes: (() => Promise<Route[]>) | null
  crewName: (id: string) => string
}>()
const open = ref(false)
const from = ref(props.day)
const to = ref(props.day)
watch(open, (now) => {
  if (!now) return
  from.value = props.day
  to.value = DateTime.fromISO(props.day).plus({ days: 6 }).toISODate()!
})
const query = computed(() => `branchId=${props.branchId}&from=${from.value}&to=${to.value}`)
const wrong = computed(() => (from.value && to.value && from.value <= to.value ? undefined : 'From a day to a later one.'))

async function saveRoutes() {
  const routes = await props.routes!()
  const features = routes.map(({ crew, line, metres }) => ({
    type: 'Feature',
    properties: { crew: props.crewName(crew), day: props.day, metres: Math.round(metres) },
    geometry: { type: 'LineString', coordinates: line },
  }))
  saveText(`ways-${props.day}.geojson`, 'application/geo+json', JSON.stringify({ type: 'FeatureCollection', features }))
}

// A table that comes back: what it would do is said before it is done.
const text = ref('')
const told = ref<{ moved: number; made: number; same: number } | null>(null)
const taken = ref('')
const { busy, problem, give } = useGiving()
let id = newId()
const table = (checkOnly: boolean) =>
  give(() => api('POST /api/dispatch/visits', { body: { id, branchId: props.branchId, text: text.value, checkOnly } }))
async function takeOver() {
  const given = await table(false)
  if (!given) return
  taken.value = `${counted(given.moved, 'visit')} moved, ${given.made} made.`
  told.value = null
  id = newId()
}
async function read(event: Event) {
  const input = event.target as HTMLInputElement
  text.value = (await input.files?.[0]?.text()) ?? ''
  input.value = ''
  told.value = null
  taken.value = ''
  if (text.value) told.value = await table(true)
}
</script>

<template>
  <span>
    <UButton icon="i-lucide-files" square aria-label="Files of the day" @click="open = true" />
    <USlideover
      :open="open"
      title="Files"
      description="The day on paper, tables for the office, ways for a map."
      @update:open="open = $event"
    >
      <template #body>
        <div class="stack">
          <UButton :to="`/api/dispatch/sheet?branchId=${branchId}&date=${day}`" external data-paper target="_blank" icon="i-lucide-printer"
            >Day sheet of everybody (PDF)</UButton
          >
          <UButton v-if="routes" icon="i-lucide-map" @click="saveRoutes">Ways of the day (GeoJSON)</UButton>
          <div class="grid gap-3">
            <UFormField label="From"><CommonDay v-model="from" label="From" :region="region" name="filesFrom" required /></UFormField>
            <UFormField label="To"><CommonDay v-model="to" label="To" :region="region" name="filesTo" required /></UFormField>
          </div>
          <p v-if="wrong" class="small warn">{{ wrong }}</p>
          <template v-else>
            <UButton :to="`/api/dispatch/hours?${query}`" external icon="i-lucide-clock">Hours by person and visit (CSV)</UButton>
            <UButton :to="`/api/dispatch/visits?${query}`" external icon="i-lucide-table">Visits (CSV), to change and read back</UButton>
          </template>
          <label class="small"
            >Read visits back (CSV). Rows with an id move a visit, rows without make one
            <input type="file" accept=".csv,text/csv" class="pick-file" @change="read" />
          </label>
          <CommonProblem :problem="problem" />
          <template v-if="told">
            <p>
              {{ counted(told.moved, 'visit moves', 'visits move') }}, {{ told.made }} would be made, {{ told.same }} stay as they are.
              Customers are not told by this.
            </p>
            <UButton variant="solid" :loading="busy" :disabled="!told.moved && !told.made" @click="takeOver">Take it over</UButton>
          </template>
          <p v-if="taken" role="status">{{ taken }}</p>
        </div>
      </template>
    </USlideover>
  </span>
</template>
