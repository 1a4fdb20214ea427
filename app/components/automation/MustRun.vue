<script setup lang="ts">
import { spanWords } from '../../../core/automation/findings'
import type { HomeDevice } from '../../../core/automation/home'
import { alertChecks, alertCheckWords, type AlertCheck } from '../../../core/automation/words'
import { automationOf, currentUnits, meteredPoint } from '../../../core/job'
import type { MonitorTalk } from '~/workers/monitor'
import type { Region } from '~/utils/time'

/** A motor that must run: its trace, the lines at which somebody is told, and the alert tried once. */
const props = defineProps<{ device: HomeDevice; region: Region; mayChange: boolean }>()
const { job, submitJob } = injectJobRecord()
const { number } = useTrade()
const kept = computed(() => automationOf(job.value!).monitors[props.device.id] ?? null)
const { answer, failed, thinking, put } = useNewestAnswer<MonitorTalk>(
  () => new Worker(new URL('../../workers/monitor.ts', import.meta.url), { type: 'module' }),
)
const text = ref('')
const tooLarge = ref(false)
const falls = ref(50)
const mostBytes = 4_000_000
async function take(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  tooLarge.value = file.size > mostBytes
  fromMeter.value = false
  text.value = tooLarge.value ? '' : await file.text()
  input.value = ''
}
/** The device that carries it and has a meter the link can read. */
const unit = computed(() => currentUnits(job.value!).find((one) => meteredPoint(job.value!, one)?.id === props.device.id) ?? null)
const { traceOf } = useJobLink()
const trace = computed(() => (unit.value ? traceOf(unit.value.id) : null))
const fromMeter = ref(false)
function takeTrace() {
  const { at, watts } = trace.value!.trace!
  fromMeter.value = true
  text.value = `time,watts\n${at.map((one, index) => `${one},${watts[index]}`).join('\n')}\n`
}
watch([text, falls], ([read, share]) => {
  if (read && share >= 5 && share <= 90) void put({ text: read, falls: share / 100, normal: kept.value && plain(kept.value.baseline) })
})
const found = computed(() => (text.value && answer.value?.problem === null ? answer.value : null))
const effect = reactive({ what: kept.value?.effect.what ?? '', value: '' })
const { busy, refusal, run } = useAction()
async function keep() {
  if (!found.value) return
  const { baseline, chosen } = plain(found.value)
  if (
    await run(() =>
      submitJob({ type: 'keepBaseline', deviceId: props.device.id, baseline, monitor: chosen.monitor, effect: { ...effect } }),
    )
  )
    text.value = ''
}
const note = ref('')
async function check(one: AlertCheck, result: 'pass' | 'fail') {
  if (await run(() => submitJob({ type: 'checkAlert', deviceId: props.device.id, check: one, result, note: note.value }))) note.value = ''
}
const open = computed(() => alertChecks.filter((one) => kept.value?.checks[one]?.result !== 'pass'))
const sentence = computed(() => {
  if (!kept.value) return 'Nothing watches it yet.'
  return open.value.length
    ? `Its alert is not tried to the end: ${counted(open.value.length, 'check')} open.`
    : 'Watched, and its alert was tried.'
})
</script>

<template>
  <section :aria-label="device.name" class="ruled stack">
    <p>
      <b>{{ device.name }}</b> must run. <span :class="kept && !open.length ? 'good' : 'warn'">{{ sentence }}</span>
    </p>
    <p v-if="kept" class="small">
      Takes {{ number(kept.baseline.watts, 0) }} W, give or take {{ number(kept.baseline.spread, 1) }} W; {{ kept.effect.what }}:
      {{ kept.effect.value }}. Told under {{ number(kept.monitor.low, 0) }} W or over {{ number(kept.monitor.high, 0) }} W for
      {{ spanWords(kept.monitor.readings * kept.monitor.every) }}, again every {{ spanWords(kept.monitor.repeat) }}, and not while it is
      meant off. {{ kept.by }}
    </p>
    <template v-if="kept">
      <div v-for="one in alertChecks" :key="one" class="row wrap small">
        <span class="grow"
          >{{ alertCheckWords[one]
          }}<span v-if="kept.checks[one]" class="soft">
            · {{ kept.checks[one]!.result }} {{ kept.checks[one]!.by }} {{ kept.checks[one]!.note }}</span
          ></span
        >
        <template v-if="mayChange">
          <UButton :loading="busy" :aria-label="`Pass: ${alertCheckWords[one]}`" @click="check(one, 'pass')">Pass</UButton>
          <UButton :loading="busy" :aria-label="`Fail: ${alertCheckWords[one]}`" @click="check(one, 'fail')">Fail</UButton>
        </template>
      </div>
      <UFormField v-if="mayChange" label="Note (a fail needs one)"><UInput v-model="note" maxlength="200" class="w-full" /></UFormField>
    </template>
    <template v-if="mayChange">
      <div v-if="unit" class="stack">
        <LinkAsk :unit="unit" :doings="['trace']" />
        <UButton v-if="trace" class="self-start" @click="takeTrace"
          >Take what its meter read, {{ dayAndTime(trace.doneAt ?? trace.askedAt, region) }}</UButton
        >
      </div>
      <label class="small"
        >{{ kept ? 'Read a newer trace' : 'Read its trace while all is well' }} (CSV with columns time and watts)
        <input type="file" accept=".csv,text/csv,text/plain" class="pick-file" @change="take" />
      </label>
      <p v-if="tooLarge" class="note amber small">The file is larger than 4 MB: a month by the minute is enough.</p>
      <p v-if="failed" class="note amber small">The trace could not be worked out on this device.</p>
      <p v-if="text && thinking" class="small soft">A healthy year is played to find the lines …</p>
      <p v-else-if="text && answer?.problem" class="note amber small">{{ answer.problem }}</p>
      <template v-if="found">
        <LazyAutomationPowerTrace :trace="found.trace" :monitor="found.chosen.monitor" :alerts="found.alerts" :region="region" />
        <p v-if="found.drift" class="note amber">
          It takes {{ number(found.drift.watts, 0) }} W since {{ dayAndTime(new Date(found.drift.since * 1000).toISOString(), region) }}:
          look for what changed before this becomes its normal.
        </p>
        <p v-if="fromMeter" class="note amber small">
          Two minutes say how it runs now, and nothing of nights, heat or a filter that fills: enough to try the alert with seconds. Before
          hours are set, read a trace of some days.
        </p>
        <p v-if="found.rests.byItself" class="note amber small">
          It stood still {{ found.rests.count }} times in this trace and ran again, for up to {{ spanWords(found.rests.longest) }}: it rests
          by itself. The word comes only after half as long again.
        </p>
        <p v-else-if="found.rests.count" class="note amber small">
          It stood still {{ found.rests.count === 1 ? 'once' : 'twice' }} in this trace, for up to {{ spanWords(found.rests.longest) }}. If
          nobody switched it off, it rests by itself, and each rest would be told as a fault: read a longer trace.
        </p>
        <p v-if="found.left" class="small warn">{{ counted(found.left, 'line') }} of the table could not be read.</p>
        <p>
          It takes {{ number(found.baseline.watts, 0) }} W, give or take {{ number(found.baseline.spread, 1) }} W{{
            found.baseline.start === null ? '' : `, and ${Math.round(found.baseline.start)} W when it starts`
          }}. Told {{ spanWords(found.chosen.delay) }} after a fault; a healthy one gives
          {{ number(Math.round(found.chosen.falseAYear * 10) / 10) }} false alarms in a year that was played.
        </p>
        <AutomationMinutes v-model="falls" label="% of its normal is a fault" :least="5" :most="90" />
        <div class="grid gap-2 sm:grid-cols-2">
          <UFormField label="What it does, beside its watts"
            ><UInput v-model="effect.what" placeholder="airflow at the grille" maxlength="80" class="w-full"
          /></UFormField>
          <UFormField label="As read now"><UInput v-model="effect.value" placeholder="2.1 m/s" maxlength="80" class="w-full" /></UFormField>
        </div>
        <UButton variant="solid" :loading="busy" :disabled="!effect.what.trim() || !effect.value.trim()" class="self-start" @click="keep"
          >Keep it as its normal</UButton
        >
      </template>
    </template>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>
