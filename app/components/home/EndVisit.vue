<script setup lang="ts">
/** Ends a visit, asked once: the proofs of its crew end with it. */
const props = defineProps<{ visitId: string }>()
const { now, submitJob } = injectJobRecord()
const { busy, refusal, run } = useAction()
const asking = ref(false)
async function end() {
  if (await run(() => submitJob({ type: 'finishVisit', visitId: props.visitId }))) asking.value = false
}
</script>

<template>
  <div class="row wrap">
    <template v-if="asking">
      <PairingBand :now="now" />
      <span>The crew leaves, and its proofs end.</span>
      <UButton variant="solid" :loading="busy" @click="end">Yes, end the visit</UButton>
      <UButton variant="link" @click="asking = false">not yet</UButton>
    </template>
    <UButton v-else variant="link" @click="asking = true">End the visit</UButton>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
