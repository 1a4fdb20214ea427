<script setup lang="ts">
/** One of two. */
withDefaults(defineProps<{ spoken: string; words?: readonly [string, string] }>(), { words: () => ['on', 'off'] as const })
const model = defineModel<boolean>({ required: true })
</script>

<template>
  <CommonToggles
    :spoken="spoken"
    :items="[
      { value: 'yes', label: words[0] },
      { value: 'no', label: words[1] },
    ]"
    :chosen="model ? 'yes' : 'no'"
    @choose="model = $event === 'yes'"
  />
</template>
