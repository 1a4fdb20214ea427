<script setup lang="ts">
import type { CircuitShape } from '../../../core/site'

/** The bar is bridged (live), or visibly is not (open), or lifted and barred twice (proven dead). */
defineProps<{ shape: CircuitShape }>()
</script>

<template>
  <svg class="blade" viewBox="0 0 44 34" width="44" height="34" aria-hidden="true">
    <template v-if="shape === 'live'">
      <path d="M0 17H44" stroke="var(--copper-bar)" stroke-width="7" />
      <circle cx="30" cy="17" r="6" fill="var(--copper-bar)" />
    </template>
    <template v-else-if="shape === 'unknown'">
      <path d="M0 17H44" stroke="var(--copper-bar)" stroke-width="7" stroke-dasharray="5 4" />
      <text x="20" y="12" font-size="15" font-weight="700" fill="var(--ink)">?</text>
    </template>
    <template v-else>
      <path d="M0 17H11" stroke="var(--copper-bar)" stroke-width="7" />
      <path :d="shape === 'dead' ? 'M34 17L15 -3' : 'M34 17L15 1'" stroke="var(--ink)" stroke-width="4" stroke-linecap="round" />
      <circle cx="34" cy="17" r="5" fill="var(--ink)" />
      <path d="M34 17H44" stroke="var(--ink)" stroke-width="4" />
      <path v-if="shape === 'dead'" d="M13 12V27M18 12V27" stroke="var(--petrol)" stroke-width="3" />
    </template>
  </svg>
</template>
