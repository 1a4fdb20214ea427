<script setup lang="ts">
/** A computation on this device came to no end. */
defineProps<{ busy: boolean }>()
const emit = defineEmits<{ again: [] }>()
</script>

<template>
  <div class="note red row wrap" role="alert" data-testid="failed">
    <p class="grow">
      <b>This could not be computed here.</b> What you entered is kept. What is shown below may be out of date: do not wire or switch by it.
    </p>
    <UButton :loading="busy" @click="emit('again')">Compute again</UButton>
  </div>
</template>
