<script setup lang="ts">
import {
  cartonPartsOf,
  cartonWords,
  failedInShop,
  mayBench,
  preparedOf,
  type BagDevice,
  type PreparedUnit,
  type ShopResult,
} from '../../../core/job'

/** In the shop, one device for one place: carton, code, update, settings and the lamp. It is stored as far as it goes. */
const props = defineProps<{ boxId: string; device: BagDevice }>()
const emit = defineEmits<{ done: [] }>()
const { job, submitJob } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const { model } = props.device
const may = mayBench(model)
/** What is known of one device: of another nothing is taken over. */
const knownOf = (unit: PreparedUnit | null) => ({
  carton: { ...unit?.carton },
  version: unit?.version ?? '',
  settings: unit?.settings ?? '',
  lamp: unit?.lamp ?? 'none',
  power: unit?.power ?? 'none',
  meter: unit?.meter ?? 'none',
  note: unit?.note ?? '',
})
// After one that failed, the next is another.
const before = props.device.unit && !failedInShop(props.device.unit) ? props.device.unit : null
const form = reactive({ serial: before?.serial ?? '', ...knownOf(before) })
const unit = computed(() => (job.value ? preparedOf(job.value, form.serial) : null))
watch(
  () => unit.value?.serial ?? '',
  () => Object.assign(form, knownOf(unit.value)),
)
// What was tried with other settings, or before an update, was tried with those.
watch(
  () => [form.settings.trim(), form.version.trim()],
  ([settings, version]) => {
    const stored = unit.value
    if (stored?.power === 'passed' && (settings !== stored.settings || version !== stored.version)) form.power = 'none'
  },
)
const serialGood = ref(false)
const code = ref('')
const again = ref('')
const codeGood = ref(false)
const parts = cartonPartsOf(model)
const ticks = parts.map((value) => ({ value, label: cartonWords[value] }))
const ticked = computed(() => parts.filter((part) => form.carton[part]))
const results: { value: ShopResult; label: string }[] = [
  { value: 'passed', label: 'Good' },
  { value: 'failed', label: 'Not good' },
]
const tests = computed(() => [
  ...(may.lamp
    ? [{ key: 'lamp' as const, what: model.kind === 'dimmer' ? 'On, off, and dims the test lamp' : 'Switches the test lamp' }]
    : []),
  ...(may.meter ? [{ key: 'meter' as const, what: 'Reads the watts of the test lamp' }] : []),
  ...(may.lamp ? [{ key: 'power' as const, what: 'Comes back as set once power was away' }] : []),
])
const failed = computed(() => tests.value.some(({ key }) => form[key] === 'failed'))
const unset = computed(() => form.power === 'passed' && !form.settings.trim())
async function store() {
  const command = {
    type: 'prepareUnit' as const,
    boxId: props.boxId,
    gang: props.device.gang,
    ...form,
    carton: { ...form.carton },
    setupCode: code.value,
    setupCodeAgain: again.value,
  }
  if (await run(() => submitJob(command))) emit('done')
}
</script>

<template>
  <form class="stack prepare" :aria-label="`Prepare ${model.name}`" @submit.prevent="store">
    <BenchSerialField v-model="form.serial" v-model:good="serialGood" :job-id="job!.jobId" :model="model" />
    <div>
      <p class="small soft">In the carton</p>
      <CommonToggles spoken="In the carton" :items="ticks" :chosen="ticked" @choose="(part) => (form.carton[part] = !form.carton[part])" />
    </div>
    <p v-if="unit?.code" class="small">Its code, ending in {{ unit.code.ending }}, is on record.</p>
    <BenchSetupCode
      v-if="model.setupCode !== 'none'"
      v-model:code="code"
      v-model:again="again"
      v-model:good="codeGood"
      :kind="model.setupCode"
      :label="unit?.code ? 'Another code' : undefined"
    />
    <div v-if="may.update" class="pair">
      <UFormField label="Runs, after its update" help="The version, as its app shows it."
        ><UInput v-model="form.version" placeholder="2.4.1" autocomplete="off" class="w-full"
      /></UFormField>
      <UFormField label="Set for this place" help="What comes after an interruption, the lowest step, region and so on."
        ><UInput v-model="form.settings" placeholder="off after an interruption" class="w-full"
      /></UFormField>
    </div>
    <template v-if="tests.length">
      <p class="note amber small">
        {{
          t(
            `The bench is guarded and behind {a rcd}; dead while leads are changed; nobody touches a lead under power. Test lamp${model.minWatts ? ` of at least ${model.minWatts} W` : ''}, of a kind the maker allows.`,
          )
        }}
      </p>
      <div v-for="{ key, what } in tests" :key="key" class="row wrap test">
        <span class="grow">{{ what }}</span>
        <CommonToggles
          :spoken="what"
          :items="results"
          :chosen="form[key]"
          @choose="(result) => (form[key] = form[key] === result ? 'none' : result)"
        />
      </div>
    </template>
    <p v-if="unset" class="small warn">It comes back “as set” only once something was set: note what.</p>
    <UFormField v-if="failed" label="What did you see?"><UInput v-model="form.note" class="w-full" /></UFormField>
    <CommonRefusal :refusal="refusal" />
    <JobAct
      type="submit"
      :loading="busy"
      :disabled="!serialGood || (code.trim() !== '' && !codeGood) || (failed && form.note.trim().length < 3) || unset"
      >Store what was done</JobAct
    >
  </form>
</template>

<style scoped>
.prepare {
  padding: 8px 0 16px;
  border-left: 3px solid var(--petrol);
  padding-left: 12px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.test {
  min-height: 48px;
}
@media (max-width: 760px) {
  .pair {
    grid-template-columns: 1fr;
  }
}
</style>
