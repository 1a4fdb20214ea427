<script setup lang="ts">
import { readSetupCode } from '../../../core/commission'
import { unitAt } from '../../../core/job'
import type { BoxState } from '../../../core/site'

/** Serial and setup code of one gang's device, as its label says. A scanner that types works in both fields. */
const props = defineProps<{ box: BoxState; gang: number }>()
const emit = defineEmits<{ done: [] }>()
const { job, submitJob } = injectJobRecord()
const { busy, refusal, run } = useAction()
const unit = computed(() => unitAt(job.value!, props.box.id, props.gang))
const kind = computed(() => job.value!.boxes[props.box.id]?.devices[props.gang]?.model.setupCode ?? 'none')
const serial = ref(unit.value?.serial ?? '')
const code = ref('')
const again = ref('')
const reading = computed(() =>
  kind.value === 'none' || code.value.trim() === '' ? null : readSetupCode(kind.value, code.value, again.value),
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
    <UFormField label="Serial" name="serial"
      ><UInput v-model="serial" name="serial" autocomplete="off" autocapitalize="characters"
    /></UFormField>
    <UFormField
      v-if="kind !== 'none'"
      :label="kind === 'openHome' ? 'Setup code, 11 or 21 digits, or the scanned text' : 'Setup code'"
      name="code"
      ><UInput v-model="code" name="code" autocomplete="off"
    /></UFormField>
    <UFormField v-if="kind === 'plain'" label="The same code again" name="again" help="This kind has no check digit."
      ><UInput v-model="again" name="again" autocomplete="off" @paste.prevent
    /></UFormField>
    <p v-if="reading" class="small" :class="reading.ok ? 'good' : 'bad'" role="status" data-testid="code-verdict">
      {{
        reading.ok
          ? reading.checked === 'checkDigit'
            ? 'Check digit fits.'
            : reading.checked === 'payload'
              ? 'Scanned text is whole.'
              : 'Both entries agree.'
          : reading.problem
      }}
    </p>
    <JobAct type="submit" :loading="busy" :disabled="serial.trim().length < 3 || (kind !== 'none' && !reading?.ok)"
      >Store serial{{ kind === 'none' ? '' : ' and code' }}</JobAct
    >
    <CommonRefusal :refusal="refusal" />
  </form>
</template>
