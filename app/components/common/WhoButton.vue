<script setup lang="ts">
const session = useSession()
</script>

<template>
  <UButton variant="ghost" class="px-1" :aria-label="`${session.viewer?.name}: menu`" aria-haspopup="menu"
    ><span class="who">{{ session.viewer?.initials }}</span></UButton
  >
</template>
