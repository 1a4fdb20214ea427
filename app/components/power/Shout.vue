<script setup lang="ts">
import { useWakeLock } from '@vueuse/core'

/** An alarm that no device of its person has shown: somebody has to tell them aloud. And the screen stays on. */
const { site, asker, job, now } = injectJobRecord()
/** A device shows an alarm within this time, s, or its person is called by voice. Common practice, no source. */
const shownWithin = 10
const silent = computed(() =>
  Object.values(site.value?.alarms ?? {}).filter(
    (alarm) =>
      alarm.personId !== asker.value.personId &&
      alarm.boxIds.length > 0 &&
      alarm.shownAt === null &&
      now.value - Date.parse(alarm.at) > shownWithin * 1000,
  ),
)
const names = computed(() => [...new Set(silent.value.map((alarm) => alarm.name))])

const relied = computed(() =>
  Object.values(site.value?.proofs ?? {}).some(
    (proof) =>
      proof.status === 'living' &&
      job.value?.boxIds.includes(proof.boxId) &&
      [proof.personId, ...proof.witnesses.map((one) => one.personId)].includes(asker.value.personId),
  ),
)
const { isSupported, isActive, request, release } = useWakeLock()
const refused = ref(false)
async function hold() {
  try {
    await request('screen')
    refused.value = false
  } catch {
    refused.value = true
  }
}
watch(
  relied,
  (on) => {
    if (on && isSupported.value) void hold()
    else if (!on && isActive.value) void release()
  },
  { immediate: true },
)
onBeforeUnmount(() => void release().catch(() => undefined))
const mayGoDark = computed(() => relied.value && (!isSupported.value || refused.value))
</script>

<template>
  <div v-if="silent.length || mayGoDark">
    <p v-if="silent.length" class="note red mx-4" role="alert" data-testid="shout">
      <b>Shout to {{ names.join(' and ') }}: stop, hands out.</b> None of their devices has shown the alarm.
    </p>
    <p v-if="mayGoDark" class="note amber mx-4">
      <b>This device may turn its screen off.</b> Look at it before each time you reach in. An alarm sounds only while the screen is on.
    </p>
  </div>
</template>
