<script setup lang="ts">
/** The button that does the next step: wide, and under the thumb however long what belongs to it is. */
</script>

<template>
  <UButton class="act" variant="solid" size="xl" block><slot /></UButton>
</template>
