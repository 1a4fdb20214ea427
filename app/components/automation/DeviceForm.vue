<script setup lang="ts">
import type { HomeDevice } from '../../../core/automation/home'
import { wallInputs, wallWords } from '../../../core/automation/words'

/** What a device does by itself, whatever any rule says. */
const props = defineProps<{ device: HomeDevice }>()
const emit = defineEmits<{ done: [] }>()
const { submitJob } = injectJobRecord()
const { t } = useTrade()
const form = ref({ ...props.device.behaviour })
const walls = wallInputs.map((value) => ({ value, label: wallWords[value] }))
const wrong = computed(() => {
  const { autoOnMinutes, autoOffMinutes, offAtMostMinutes } = form.value
  if ([autoOnMinutes, autoOffMinutes].some((one) => one !== null && !(one > 0 && one <= 1440)))
    return 'Minutes go from a little over 0 to 1440.'
  return Number.isInteger(offAtMostMinutes) && offAtMostMinutes >= 1 && offAtMostMinutes <= 1440
    ? undefined
    : 'It may be off from 1 to 1440 minutes.'
})
const give = () => submitJob({ type: 'setBehaviour', deviceId: props.device.id, behaviour: { ...form.value } })
</script>

<template>
  <AutomationKeep :wrong="wrong" :give="give" @done="emit('done')">
    <UFormField label="After a power interruption"
      ><CommonToggles
        spoken="After a power interruption"
        :items="[
          { value: 'off', label: 'off' },
          { value: 'on', label: 'on' },
          { value: 'last', label: 'as it was' },
        ]"
        :chosen="form.powerOn"
        @choose="form.powerOn = $event as 'on'"
    /></UFormField>
    <UFormField label="Its switch on the wall"
      ><USelect v-model="form.wall" :items="walls" aria-label="Its switch on the wall" class="w-full"
    /></UFormField>
    <AutomationMinutes
      v-model="form.autoOnMinutes"
      label="min after it was switched off: on again (empty: never)"
      :most="1440"
      parts
      maybe
    />
    <AutomationMinutes v-model="form.autoOffMinutes" label="min after it was switched on: off (empty: never)" :most="1440" parts maybe />
    <p v-if="form.autoOnMinutes !== null || form.powerOn !== 'off'" class="note amber small">
      {{
        t(
          'It comes on by itself, whoever stands at it: switched off at the wall is not dead. Whoever works on it opens its {breaker}, hangs a tag and tests; whoever lives with it is told.',
        )
      }}
    </p>
    <UCheckbox v-model="form.mustRun" label="It must run, whatever happens" />
    <template v-if="form.mustRun">
      <AutomationMinutes v-model="form.offAtMostMinutes" label="min it may be off at most" :least="1" :most="1440" />
      <p class="note small">
        Try “on again” with 10 seconds on the bench (0.17 min), then set the hours: longer than the reason for which people switch it off.
      </p>
    </template>
    <UFormField label="Its indicator"
      ><CommonToggles
        spoken="Its indicator"
        :items="[
          { value: 'on', label: 'on' },
          { value: 'night', label: 'by night' },
          { value: 'off', label: 'off' },
        ]"
        :chosen="form.indicator"
        @choose="form.indicator = $event as 'on'"
    /></UFormField>
    <AutomationMinutes v-model="form.lowestLevel" label="% lowest level without flicker (empty: not tried)" :least="1" :most="50" maybe />
    <AutomationMinutes v-model="form.fanSteps" label="steps of a fan (empty: none)" :least="1" :most="8" maybe />
  </AutomationKeep>
</template>
