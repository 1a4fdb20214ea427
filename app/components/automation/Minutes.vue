<script setup lang="ts" generic="T extends number | null">
/** A number with what it counts after it, kept within its limits; of one that may be left out, empty is none. `parts`: not only whole ones. */
const props = withDefaults(defineProps<{ label: string; maybe?: boolean; least?: number; most?: number; parts?: boolean }>(), {
  least: 0,
  most: 100_000,
})
const model = defineModel<T>({ required: true })
function take(text: unknown) {
  const number = Number(String(text).replace(',', '.'))
  if (props.maybe && String(text).trim() === '') model.value = null as T
  else if (String(text).trim() !== '' && Number.isFinite(number))
    model.value = Math.min(props.most, Math.max(props.least, props.parts ? number : Math.round(number))) as T
}
</script>

<template>
  <label class="row small"
    ><UInput
      :model-value="model === null ? '' : String(model)"
      inputmode="decimal"
      :aria-label="label"
      class="w-20"
      @update:model-value="take"
    />
    {{ label }}</label
  >
</template>
