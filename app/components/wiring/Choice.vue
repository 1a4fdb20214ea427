<script setup lang="ts" generic="T extends string">
/**
 * A line of the bench's sheet: what it is about, and one of several words. The browser's own select: a dozen of them stand
 * here at once, and under a thumb its list is the phone's own.
 */
defineProps<{ value: T; items: { value: T; label: string; disabled?: boolean }[]; spoken: string }>()
const emit = defineEmits<{ choose: [value: T] }>()
</script>

<template>
  <label class="choice"
    ><span><slot /></span>
    <select :value="value" :aria-label="spoken" @change="emit('choose', ($event.target as HTMLSelectElement).value as T)">
      <option v-for="item in items" :key="item.value" :value="item.value" :disabled="item.disabled">{{ item.label }}</option>
    </select></label
  >
</template>

<style scoped>
.choice {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
  min-height: 44px;
}
.choice > span {
  white-space: nowrap;
}
select {
  width: 230px;
  flex: none;
  min-height: 44px;
  padding: 0 10px;
  border: 1.5px solid var(--soft);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
  text-overflow: ellipsis;
}
select:disabled {
  border: 1px dashed var(--line);
  color: var(--soft);
  opacity: 1;
}
select:focus-visible {
  outline: 3px solid var(--copper);
}
</style>
