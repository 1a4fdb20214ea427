<script setup lang="ts">
import type { AutomatedHome } from '../../../core/automation'
import { spanWords } from '../../../core/automation/findings'
import type { OfItsLog } from '../../../core/triage'
import type { Region } from '~/utils/time'
import type { SwitchLogTalk } from '~/workers/switch-log'

/** What an app or a hub wrote down of its switchings: what switched the device, and when. */
const props = defineProps<{
  home: AutomatedHome
  deviceId: string | null
  region: Region
  /** What using its sentence is called; empty: it cannot be used here. */
  use: string
}>()
const emit = defineEmits<{ use: [sentence: string]; read: [says: OfItsLog | null] }>()
const { t, number } = useTrade()
const { answer, failed, thinking, put } = useNewestAnswer<SwitchLogTalk>(
  () => new Worker(new URL('../../workers/switch-log.ts', import.meta.url), { type: 'module' }),
  { cancels: true },
)
const text = ref('')
const device = ref<string | undefined>()
const tooLarge = ref(false)
const mostBytes = 8_000_000
async function take(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  tooLarge.value = file.size > mostBytes
  device.value = undefined
  text.value = tooLarge.value ? '' : await file.text()
  input.value = ''
}
watch([text, device], ([read, chosen]) => {
  if (read) void put({ text: read, home: plain(props.home), deviceId: props.deviceId, device: chosen ?? null, locale: props.region.locale })
})
const said = computed(() => (text.value && !thinking.value && answer.value?.problem === null ? answer.value : null))
watch(said, (now) => emit('read', now?.found?.says ?? null))
const problem = computed(() => (text.value && !thinking.value ? (answer.value?.problem ?? null) : null))
/** A log of tomorrow was written by another clock, or in another zone. */
const ahead = computed(() => (said.value?.found ? said.value.found.explained.to * 1000 > Date.now() + 3_600_000 : false))
const when = (at: number) => dayAndTime(new Date(at * 1000).toISOString(), props.region)
</script>

<template>
  <section class="stack" aria-label="What switched it">
    <label class="small"
      >A log from an app or a hub (CSV with columns time, device and state): what switched it, and when
      <input type="file" accept=".csv,text/csv,text/plain" class="pick-file" @change="take" />
    </label>
    <p v-if="tooLarge" class="note amber small">The file is larger than 8 MB: take fewer days.</p>
    <p v-if="failed" class="note amber small">The log could not be worked out on this device.</p>
    <p v-if="text && thinking" class="small soft">Reading the log …</p>
    <p v-if="problem" class="note amber small">{{ problem }}</p>
    <template v-if="said">
      <UFormField v-if="said.devices.length > 1 || !said.device" label="As it is called in the log"
        ><USelect
          :model-value="said.device ?? undefined"
          :items="said.devices.slice(0, 1000)"
          placeholder="Choose the device"
          class="w-full"
          @update:model-value="device = String($event)"
      /></UFormField>
      <template v-if="said.found">
        <p class="note" :class="said.found.groups.some(({ strange }) => strange) ? 'amber' : 'petrol'">{{ t(said.found.sentence) }}</p>
        <p v-if="ahead" class="note amber small">It goes on past now: its clock is wrong, or its times are of another zone.</p>
        <ul class="small">
          <li v-for="group in said.found.groups.slice(0, 12)" :key="group.words" class="list-row switched">
            <span class="mono">{{ group.count }} ×</span>
            <span
              ><b v-if="group.strange">{{ t(group.words) }}</b
              ><template v-else>{{ t(group.words) }}</template
              ><br /><span class="soft">{{ group.times.slice(0, 3).map(when).join(' · ') }}</span></span
            >
          </li>
        </ul>
        <p class="small soft">
          On for {{ spanWords(said.found.explained.onSeconds) }} in all<template v-if="said.found.explained.energy !== null"
            >, about {{ number(said.found.explained.energy, 1) }} kWh by its load on record</template
          ><template v-if="said.found.explained.unreachable.times"
            >; out of reach {{ counted(said.found.explained.unreachable.times, 'time', 'times') }}, for
            {{ spanWords(said.found.explained.unreachable.seconds) }}</template
          ><template v-if="said.left">; {{ counted(said.left, 'line') }} could not be read</template>.
        </p>
        <UButton v-if="use" class="self-start" @click="emit('use', said.found.sentence)">{{ use }}</UButton>
      </template>
    </template>
  </section>
</template>

<style scoped>
.switched {
  grid-template-columns: 56px minmax(0, 1fr);
}
</style>
