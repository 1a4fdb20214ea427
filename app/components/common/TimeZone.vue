<script setup lang="ts">
/** A time zone, found by its city as one says it. */
const zone = defineModel<string>({ required: true })
const zones = [...new Set(['UTC', zone.value, ...Intl.supportedValuesOf('timeZone')])].map((value) => {
  const [region, ...city] = value.replaceAll('_', ' ').split('/')
  return { value, label: city.length ? `${city.reverse().join(', ')} (${region})` : value }
})
</script>

<template>
  <USelectMenu
    v-model="zone"
    value-key="value"
    :items="zones"
    :search-input="{ placeholder: 'City' }"
    aria-label="Time zone"
    class="w-full min-h-11"
  />
</template>
