<script setup lang="ts">
import { readSetupCode } from '../../../core/commission'
import { codePlaces, type CodePlace, type Unit } from '../../../core/job'

/** Device, tab and card of one device say one setup code: read the others, and they are compared with the one on record. */
const props = defineProps<{ unit: Unit }>()
const { job, onCrew, submitJob } = injectJobRecord()
const { busy, refusal, run } = useAction()
const from = ref<CodePlace>('card')
const places = codePlaces.map((value) => ({ value, label: `on the ${value}` }))
const checks = computed(() => job.value!.codeChecks[props.unit.id] ?? {})
const lines = computed(() =>
  codePlaces.flatMap((place) => {
    const seen = checks.value[place]
    if (!seen) return []
    const other = seen.ofUnitId ? job.value!.units[seen.ofUnitId] : undefined
    const whose = other ? `: that of ${other.name || other.serial}. Swap the two.` : ': of no device of this job.'
    return [
      {
        place,
        agrees: seen.agrees,
        words: `The ${place} says ${seen.agrees ? 'the same.' : `another code, …${seen.ending}${whose}`} ${seen.by}`,
      },
    ]
  }),
)
const unreadable = ref('')
function read(text: string) {
  const kind = props.unit.model.setupCode === 'plain' ? 'plain' : 'openHome'
  const reading = readSetupCode(kind, text, text)
  unreadable.value = reading.ok ? '' : reading.problem
  if (reading.ok) void run(() => submitJob({ type: 'checkCode', unitId: props.unit.id, from: from.value, setupCode: text }))
}
</script>

<template>
  <details class="mt-2" :open="lines.some(({ agrees }) => !agrees)">
    <summary class="small soft">
      Setup code …{{ unit.code.ending }}: {{ lines.length ? lines.map(({ place }) => place).join(' and ') : 'card and tab not' }} compared
    </summary>
    <p v-for="line in lines" :key="line.place" class="small" :class="line.agrees ? 'good' : 'bad'">
      {{ line.words }}
      <UButton
        v-if="onCrew && !line.agrees && line.place !== 'device'"
        variant="link"
        class="p-0"
        :loading="busy"
        @click="run(() => submitJob({ type: 'checkCode', unitId: unit.id, from: line.place, setupCode: '' }))"
        >The {{ line.place }} is taken away</UButton
      >
    </p>
    <div v-if="onCrew" class="row wrap mt-2">
      <USelect v-model="from" :items="places" :aria-label="`Where the code of ${unit.serial} is read`" class="w-40" />
      <StockScanField class="grow" :label="`Setup code of ${unit.serial}, read again`" placeholder="scan, or type the code" @read="read" />
    </div>
    <p v-if="unreadable" class="note amber small" role="alert">{{ unreadable }}</p>
    <p v-else-if="busy" class="soft small">Comparing …</p>
    <CommonRefusal :refusal="refusal" />
  </details>
</template>
