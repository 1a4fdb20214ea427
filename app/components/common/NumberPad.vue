<script setup lang="ts">
import { decimalSign } from '../../../core/units/region'

/** Big keys for one number, for gloves in the dark. The field also takes a keyboard. */
const value = defineModel<string>({ required: true })
const props = defineProps<{
  label: string
  unit: 'V' | 'Ω'
  /** The last number is on its way: what is typed by a meter waits its turn. */
  busy?: boolean
}>()
const emit = defineEmits<{ enter: []; reading: [text: string] }>()
const { place } = useTrade()
/** The decimal sign people write there; either is understood. */
const sign = computed(() => decimalSign(place.value.region.locale))
const keys = computed(() => ['1', '2', '3', '4', '5', sign.value, '6', '7', '8', '9', '0', '⌫'])
/** What stands in the field, at once: two keys may be pressed before whoever keeps the number has given it back. */
let stands = value.value
watch(value, (now) => (stands = now), { flush: 'sync' })
function press(key: string) {
  if (key === '⌫') stands = stands.slice(0, -1)
  else if (key !== sign.value || !/[.,]/.test(stands)) stands = (stands + key).slice(0, 7)
  value.value = stands
}
/** What is typed without a field is one reading, from its first digit to Enter; it never runs into what stands in the field. */
useTypedReading(() => props.unit, {
  typed: (text) => {
    if (!props.busy) value.value = text
  },
  reading: (number) => (Number.isFinite(number) ? emit('reading', String(number)) : (unread.value = 'OL')),
})
const unread = useUnreadReading()
</script>

<template>
  <div>
    <label class="row entry"
      ><b class="grow">{{ label }}</b
      ><input
        v-model="value"
        :aria-label="label"
        inputmode="none"
        autocomplete="off"
        size="5"
        :placeholder="`0${sign}0`"
        @keydown.enter.prevent="emit('enter')"
      /><span class="unit">{{ unit }}</span></label
    >
    <CommonUnreadReading :unit="unit" :label="label" />
    <div class="keys">
      <button
        v-for="key in keys"
        :key="key"
        type="button"
        :aria-label="key === '⌫' ? 'delete' : key === '.' ? 'point' : key === ',' ? 'comma' : key"
        @click="press(key)"
      >
        {{ key }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.entry input {
  font: 640 26px var(--font-mono);
  width: 6ch;
  text-align: right;
  background: transparent;
  border: 0;
  border-bottom: 2px solid var(--ink);
  color: var(--ink);
}
.unit {
  font: 640 22px var(--font-mono);
}
.keys {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 8px;
  margin-top: 10px;
}
.keys button {
  min-height: 52px;
  font: 640 20px var(--font-mono);
  border: 1.5px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
}
.keys button:active {
  border-color: var(--copper);
}
</style>
