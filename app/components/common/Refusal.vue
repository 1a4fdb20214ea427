<script setup lang="ts">
import type { Refusal } from '../../../core/stream'

defineProps<{ refusal: Refusal | null }>()
const { t } = useTrade()
</script>

<template>
  <div v-if="refusal" class="note red" role="alert" data-testid="refusal">
    <b class="bad">Not done.</b>
    {{ t(refusal.reasons.join(' ')) }}
    <ul v-if="refusal.toYes.length" class="mt-1">
      <li v-for="step in refusal.toYes" :key="step">→ {{ t(step) }}</li>
    </ul>
  </div>
</template>
