<script setup lang="ts">
import { failedInShop, preparedOf, unitInBag, unitAt } from '../../../core/job'
import type { BoxState } from '../../../core/site'
import { dateIn } from '../../../core/units'

/** Serial and setup code of one gang's device, as its label says; what the shop recorded of it is not asked again. */
const props = defineProps<{ box: BoxState; gang: number }>()
const emit = defineEmits<{ done: [] }>()
const { page, job, submitJob } = injectJobRecord()
const session = useSession()
const { busy, refusal, run } = useAction()
const unit = computed(() => unitAt(job.value!, props.box.id, props.gang))
const model = computed(() => job.value!.boxes[props.box.id]?.devices[props.gang]?.model ?? null)
const kind = computed(() => model.value?.setupCode ?? 'none')
const serial = ref(unit.value?.serial ?? '')
const serialGood = ref(false)
const code = ref('')
const again = ref('')
const codeGood = ref(false)
/** What the shop knows of the device in the hand, and of the one that lies ready for this gang. */
const shop = computed(() => preparedOf(job.value!, serial.value))
const inBag = computed(() => {
  const ready = unit.value ? null : unitInBag(job.value!, props.box.id, props.gang)
  return ready && !failedInShop(ready) && ready.model.id === model.value?.id ? ready : null
})
const region = session.regionAt(page.value!.job.branchId)
const codeKnown = computed(() => Boolean(shop.value?.code) && !unit.value)
const ready = computed(
  () =>
    serialGood.value &&
    (kind.value === 'none' || codeGood.value || (codeKnown.value && !code.value.trim())) &&
    !(shop.value && failedInShop(shop.value)),
)
async function record() {
  const command = {
    type: 'recordUnit' as const,
    unitId: unit.value?.id ?? newId(),
    boxId: props.box.id,
    gang: props.gang,
    serial: serial.value,
    setupCode: code.value,
    setupCodeAgain: again.value,
  }
  if (!(await run(() => submitJob(command)))) return
  serial.value = code.value = again.value = ''
  emit('done')
}
</script>

<template>
  <form class="stack" @submit.prevent="record">
    <p v-if="inBag && !serial.trim()" class="note petrol row wrap" data-testid="bag-serial">
      <span class="grow"
        >In its bag from the shop: serial <b class="mono">{{ inBag.serial }}</b>. Read it on the device itself.</span
      ><UButton @click="serial = inBag.serial">It is this one</UButton>
    </p>
    <BenchSerialField v-model="serial" v-model:good="serialGood" :job-id="job!.jobId" :model="model" />
    <p v-if="shop" class="note" :class="failedInShop(shop) ? 'red' : 'petrol'" role="status" data-testid="from-shop">
      <template v-if="failedInShop(shop)"><b>It failed in the shop:</b> {{ shop.note }}. Take another, and send this one back.</template>
      <template v-else
        >Prepared in the shop by {{ shop.by }}, {{ dateIn(shop.madeAt.slice(0, 10), region.locale)
        }}{{ shop.version ? `; runs ${shop.version}` : '' }}{{ shop.settings ? `; set: ${shop.settings}` : ''
        }}{{ codeKnown ? `. Its code, ending in ${shop.code!.ending}, is on record` : '' }}.</template
      >
    </p>
    <BenchSetupCode
      v-if="kind !== 'none'"
      v-model:code="code"
      v-model:again="again"
      v-model:good="codeGood"
      :kind="kind"
      :label="codeKnown ? 'Setup code, only if it says otherwise here' : undefined"
    />
    <JobAct type="submit" :loading="busy" :disabled="!ready">Store serial{{ kind === 'none' || codeKnown ? '' : ' and code' }}</JobAct>
    <CommonRefusal :refusal="refusal" />
  </form>
</template>
