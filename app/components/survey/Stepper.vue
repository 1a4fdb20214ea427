<script setup lang="ts">
/** A small whole number under the thumb: one less, one more. */
const value = defineModel<number>({ required: true })
const props = defineProps<{ min: number; max: number; word: string; words?: string; spoken?: string }>()
const said = computed(() => counted(value.value, props.word, props.words))
</script>

<template>
  <div class="stepper" role="group" :aria-label="spoken ?? words ?? `${word}s`">
    <button type="button" :disabled="value <= min" :aria-label="`One ${word} less`" @click="value--">−</button>
    <output class="mono">{{ said }}</output>
    <button type="button" :disabled="value >= max" :aria-label="`One ${word} more`" @click="value++">+</button>
  </div>
</template>

<style scoped>
.stepper {
  display: inline-flex;
  align-items: center;
  border: 1.5px solid var(--ink);
  border-radius: 4px;
  background: var(--sheet);
}
button {
  width: 44px;
  min-height: 44px;
  font-size: 20px;
}
button:disabled {
  color: var(--soft);
}
output {
  min-width: 74px;
  text-align: center;
}
</style>
