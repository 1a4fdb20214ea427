<script setup lang="ts">
/** Says that something written earlier is back, and throws it away if it is not wanted. */
defineProps<{ at: string | null }>()
defineEmits<{ discard: [] }>()
const session = useSession()
</script>

<template>
  <p v-if="at" class="note row wrap" role="status" data-testid="draft">
    <span>Your draft from {{ dayAndTime(at, session.region) }} is restored.</span>
    <UButton variant="link" @click="$emit('discard')">discard</UButton>
  </p>
</template>
