<script setup lang="ts" generic="T extends string | number">
/** A few words side by side under the thumb; which one counts, or which of them, is said by who uses it. */
const props = defineProps<{ spoken: string; items: readonly { value: T; label: string }[]; chosen: T | readonly T[] | undefined }>()
const emit = defineEmits<{ choose: [value: T] }>()
const pressed = (value: T) => [props.chosen].flat().includes(value)
</script>

<template>
  <div class="choices" role="group" :aria-label="spoken">
    <button v-for="item in items" :key="item.value" type="button" :aria-pressed="pressed(item.value)" @click="emit('choose', item.value)">
      {{ item.label }}
    </button>
  </div>
</template>

<style scoped>
.choices {
  display: inline-flex;
  flex-wrap: wrap;
}
button {
  min-height: 44px;
  padding: 4px 10px;
  border: 1.5px solid var(--ink);
  margin-left: -1.5px;
  background: var(--sheet);
  color: var(--ink);
  font-size: 14px;
}
button[aria-pressed='true'] + button[aria-pressed='true'] {
  border-left-color: var(--paper);
}
button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}
button:disabled:not([aria-pressed='true']) {
  border-style: dashed;
  color: var(--soft);
}
</style>
