<script setup lang="ts">
import { sentence } from '../../../core/site'
import { permitDayWords, permitStates, permitWords, ranOut, type PermitState } from '../../../core/job'

/** The permit of the job and its inspection: what needs one is not handed over before it is released. */
const { job, region, submitJob } = injectJobRecord()
defineProps<{ mayChange: boolean }>()
const { busy, refusal, run } = useAction()
const permit = computed(() => job.value!.permit ?? null)
const form = reactive({ number: '', state: 'applied' as PermitState, on: '', note: '' })
const dayOfState = computed(() => (form.state === 'none' ? null : permitDayWords[form.state]))
const over = computed(() => permit.value !== null && ranOut(permit.value, todayIn(region.value)))
const open = ref(false)
const begin = () => {
  Object.assign(form, { number: permit.value?.number ?? '', state: permit.value?.state ?? 'applied', on: permit.value?.on ?? '', note: '' })
  open.value = true
}
// A day of another state is another thing.
watch(
  () => form.state,
  (state) => (form.on = state === permit.value?.state ? (permit.value.on ?? '') : ''),
)
const states = permitStates.map((value) => ({ value, label: permitWords[value] }))
const store = async () => {
  if (await run(() => submitJob({ type: 'notePermit', ...form, on: form.on || null }))) open.value = false
}
</script>

<template>
  <section class="stack" aria-label="Permit">
    <h2 class="kicker">Permit and inspection</h2>
    <p>
      <template v-if="permit"
        ><template v-if="permit.number"
          ><span class="mono">{{ permit.number }}</span
          >, </template
        ><b :class="permit.state === 'failed' ? 'bad' : permit.state === 'released' ? 'good' : ''">{{ permitWords[permit.state] }}</b
        ><template v-if="permit.on && permit.state !== 'none'"
          >,
          <span :class="{ bad: over }"
            >{{ permitDayWords[permit.state] }} {{ dayWord(permit.on, region) }}{{ over ? ': it ran out' : '' }}</span
          ></template
        >{{ permit.note ? `: ${permit.note}` : '' }} <span class="soft small">{{ permit.by }}</span></template
      ><span v-else class="soft">Nobody has said whether this job needs one. Local rules decide.</span>
      <UButton v-if="mayChange && !open" variant="link" class="p-0 ml-2" @click="begin">{{ permit ? 'Change' : 'Note it' }}</UButton>
    </p>
    <form v-if="open" class="permit" @submit.prevent="store">
      <UFormField label="Number"><UInput v-model="form.number" maxlength="60" /></UFormField>
      <UFormField label="It is"><USelect v-model="form.state" :items="states" class="w-full" /></UFormField>
      <UFormField v-if="dayOfState" :label="sentence(dayOfState)"
        ><CommonDay v-model="form.on" :label="sentence(dayOfState)" :region="region"
      /></UFormField>
      <UFormField label="Note" class="wide"><UInput v-model="form.note" maxlength="500" class="w-full" /></UFormField>
      <div class="row wide">
        <UButton type="submit" variant="solid" :loading="busy">Store it</UButton>
        <UButton variant="link" @click="open = false">Cancel</UButton>
      </div>
    </form>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
.permit {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 10px;
}
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 520px) {
  .permit {
    grid-template-columns: 1fr;
  }
}
</style>
