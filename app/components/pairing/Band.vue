<script setup lang="ts">
import { pairingOf } from '../../../core/job'

/** The 5 GHz band is paused: until when, and that somebody has to switch it back. */
const props = defineProps<{ now: number }>()
const { job, onCrew, submitJob } = injectJobRecord()
const { busy, refusal, run } = useAction()
const band = computed(() => pairingOf(job.value!).band)
const left = computed(() => (band.value ? Date.parse(band.value.at) + band.value.minutes * 60_000 - props.now : 0))
</script>

<template>
  <div v-if="band" class="note" :class="left > 0 ? 'petrol' : 'red'" :role="left > 0 ? 'timer' : 'status'" data-testid="band">
    <p class="row wrap">
      <span v-if="left > 0" class="grow"
        ><b>5 GHz is paused</b> by {{ band.initials }}, for <span class="mono">{{ leftWords(left) }}</span> more.</span
      ><span v-else class="grow"
        ><b>Switch the 5 GHz band back on.</b> {{ band.initials }} paused it for {{ band.minutes }} minutes, and they are over.</span
      ><UButton v-if="onCrew" :loading="busy" @click="run(() => submitJob({ type: 'restoreBand' }))">It is back on</UButton>
    </p>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
