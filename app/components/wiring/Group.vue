<script setup lang="ts">
/** The other boxes of a multi-way group, each with its bench. */
defineProps<{ names: { to: string; name: string }[] }>()
</script>

<template>
  <p v-if="names.length" class="soft small" data-testid="group">
    Wired together with
    <template v-for="(one, index) in names" :key="one.to"
      ><template v-if="index">, </template><NuxtLink class="underline" :to="one.to">{{ one.name }}</NuxtLink></template
    >: read it at one box and plan it once, best where the device with the load goes.
  </p>
</template>
