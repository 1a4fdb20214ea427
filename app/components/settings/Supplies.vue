<script setup lang="ts">
import { schemeIds, supplySchemes, type SchemeId } from '../../../core/units'

/** The supplies a model or a part is made for. */
const schemes = defineModel<SchemeId[]>({ required: true })
</script>

<template>
  <fieldset>
    <legend class="font-semibold">Supply</legend>
    <div class="row wrap">
      <UCheckbox
        v-for="scheme in schemeIds"
        :key="scheme"
        :model-value="schemes.includes(scheme)"
        :label="supplySchemes[scheme].name"
        @update:model-value="schemes = toggled(schemes, scheme)"
      />
    </div>
  </fieldset>
</template>
