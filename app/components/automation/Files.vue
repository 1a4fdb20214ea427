<script setup lang="ts">
import type { AutomatedHome, TakenIn } from '../../../core/automation'

/** What the home does by itself, out of here and back in. */
const props = defineProps<{ home: AutomatedHome; mayChange: boolean }>()
const { page, job, submitJob } = injectJobRecord()
/** How files are read and written comes with the first one. */
const files = () => import('../../../core/automation/files')
const save = async (ending: 'json' | 'csv', type: string) => {
  const { automationFile, schedulesCsv } = await files()
  const text = ending === 'csv' ? schedulesCsv(props.home) : JSON.stringify(automationFile(props.home), null, 2)
  saveText(`schedules ${page.value!.job.number}.${ending}`, type, text)
}
const read = ref<TakenIn | null>(null)
const taken = ref('')
const mostBytes = 2_000_000
async function take(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  taken.value = ''
  read.value =
    file.size > mostBytes
      ? { routines: [], sensors: [], behaviours: [], problems: ['The file is larger than 2 MB: no home has so many schedules.'] }
      : (await files()).readAutomation(await file.text(), props.home, newId)
  // The same file, corrected, can be chosen again.
  input.value = ''
}
const count = computed(() => (read.value ? read.value.routines.length + read.value.sensors.length + read.value.behaviours.length : 0))
const { busy, refusal, run } = useAction()
async function takeOver() {
  const { routines, sensors, behaviours } = read.value!
  const ok = await run(async () => {
    let last = null
    for (const give of [
      ...sensors.map((sensor) => () => submitJob({ type: 'setSensor', sensor })),
      ...routines.map((routine) => () => submitJob({ type: 'setRoutine', routine })),
      ...behaviours.map((one) => () => submitJob({ type: 'setBehaviour', ...one })),
    ]) {
      last = await give()
      if (!last.ok) return last
    }
    return last ?? { ok: true, refusal: null }
  })
  if (!ok) return
  taken.value = `${counted(count.value, 'entry is', 'entries are')} taken in.`
  read.value = null
}
</script>

<template>
  <section aria-label="Files" class="stack">
    <h2 class="kicker">Files</h2>
    <div class="row wrap">
      <UButton :href="`/api/jobs/${job!.jobId}/schedules`" external data-paper target="_blank" icon="i-lucide-printer"
        >Sheet for the household (PDF)</UButton
      >
      <UButton :href="`/api/jobs/${job!.jobId}/schedules?as=ics`" external icon="i-lucide-calendar">Calendar (iCalendar)</UButton>
      <UButton icon="i-lucide-download" @click="save('json', 'application/json')">All of it (JSON)</UButton>
      <UButton icon="i-lucide-table" @click="save('csv', 'text/csv')">Schedules (CSV)</UButton>
    </div>
    <label v-if="mayChange" class="small"
      >Take in a file (JSON, or CSV of schedules). Devices are known by their names
      <input type="file" accept=".json,.csv,application/json,text/csv" class="pick-file" @change="take" />
    </label>
    <template v-if="read">
      <p v-for="problem in read.problems.slice(0, 8)" :key="problem" class="note amber small">{{ problem }}</p>
      <p v-if="read.problems.length > 8" class="small">and {{ read.problems.length - 8 }} more.</p>
      <p v-if="count">
        {{ counted(read.routines.length, 'schedule or rule', 'schedules and rules') }}, {{ counted(read.sensors.length, 'sensor') }} and
        {{ counted(read.behaviours.length, 'device setting') }} can be taken in. What has the same name is replaced.
      </p>
      <UButton v-if="count" variant="solid" :loading="busy" class="self-start" @click="takeOver">Take it in</UButton>
    </template>
    <CommonRefusal :refusal="refusal" />
    <p v-if="taken" role="status">{{ taken }}</p>
  </section>
</template>
