<script setup lang="ts">
import { readSetupCode } from '../../../core/commission'
import type { DeviceModel } from '../../../core/fit'

/** The setup code of a device as its label, tab or card says; without a check digit it is typed twice. */
const props = defineProps<{ kind: Exclude<DeviceModel['setupCode'], 'none'>; label?: string }>()
const code = defineModel<string>('code', { required: true })
const again = defineModel<string>('again', { required: true })
const good = defineModel<boolean>('good', { required: true })
const reading = computed(() => (code.value.trim() === '' ? null : readSetupCode(props.kind, code.value, again.value)))
watch(reading, (now) => (good.value = Boolean(now?.ok)), { immediate: true })
const checkedWords = { checkDigit: 'Check digit fits.', payload: 'Scanned text is whole.', typedTwice: 'Both entries agree.' }
</script>

<template>
  <div class="stack">
    <UFormField :label="label ?? (kind === 'openHome' ? 'Setup code, 11 or 21 digits, or the scanned text' : 'Setup code')" name="code"
      ><UInput v-model="code" name="code" autocomplete="off"
    /></UFormField>
    <UFormField v-if="kind === 'plain'" label="The same code again" name="again" help="This kind has no check digit."
      ><UInput v-model="again" name="again" autocomplete="off" @paste.prevent
    /></UFormField>
    <p v-if="reading" class="small" :class="reading.ok ? 'good' : 'bad'" role="status" data-testid="code-verdict">
      {{ reading.ok ? checkedWords[reading.checked] : reading.problem }}
    </p>
  </div>
</template>
