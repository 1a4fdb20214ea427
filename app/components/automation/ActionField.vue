<script setup lang="ts">
import type { AutomatedHome } from '../../../core/automation/home'
import type { Action } from '../../../core/automation/model.schema'

/** One thing that a rule does. */
const props = defineProps<{ home: AutomatedHome }>()
const model = defineModel<Action>({ required: true })
const { devices } = useAutomationItems(() => props.home)
const kinds = computed(() => [
  ...(props.home.devices.length
    ? [
        { value: 'on', label: 'switch on' },
        { value: 'off', label: 'switch off' },
        { value: 'toggle', label: 'change' },
      ]
    : []),
  { value: 'tell', label: 'tell the phone' },
])
function choose(kind: Action['do']) {
  const before = model.value
  const deviceId = before.do === 'tell' ? (devices.value[0]?.value ?? '') : before.deviceId
  const afterSeconds = before.do === 'tell' ? 0 : before.afterSeconds
  if (kind === 'tell') model.value = { do: 'tell', text: 'Look at the house' }
  else
    model.value = kind === 'on' ? { do: 'on', deviceId, afterSeconds, level: null, forSeconds: null } : { do: kind, deviceId, afterSeconds }
}
</script>

<template>
  <div class="row wrap">
    <USelect
      :model-value="model.do"
      :items="kinds"
      aria-label="What it does"
      class="w-36"
      @update:model-value="choose($event as Action['do'])"
    />
    <UInput v-if="model.do === 'tell'" v-model="model.text" maxlength="160" aria-label="Message" class="grow" />
    <template v-else>
      <USelect v-model="model.deviceId" :items="devices" aria-label="Device" class="w-48" />
      <template v-if="model.do === 'on'">
        <AutomationMinutes v-model="model.level" label="% (empty: as it was)" :least="1" :most="100" maybe />
        <AutomationMinutes v-model="model.forSeconds" label="s, then off (empty: stays)" :least="1" :most="86400" maybe />
      </template>
      <AutomationMinutes v-model="model.afterSeconds" label="s later" :most="86400" />
    </template>
  </div>
</template>
