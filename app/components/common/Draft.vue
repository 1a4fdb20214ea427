<script setup lang="ts">
/** Says that something written earlier is back, and throws it away if it is not wanted. */
defineProps<{ at: string | null }>()
defineEmits<{ discard: [] }>()
const session = useSession()
</script>

<template>
  <p v-if="at" class="note row wrap" role="status" data-testid="draft">
    <span>What you had written {{ dayAndTime(at, session.branch?.timezone ?? 'UTC') }} is back.</span>
    <UButton variant="link" @click="$emit('discard')">throw it away</UButton>
  </p>
</template>
