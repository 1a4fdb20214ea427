<script setup lang="ts">
import type { Verification, WiringPlan } from '../../../core/wiring'

/** What the wiring will do as it is drawn, and how it is connected. */
defineProps<{ verification: Verification; plan: WiringPlan; gangs: number }>()
const emit = defineEmits<{ reset: []; holds: [index: number, holds: number | null] }>()
const marks = { good: '✓', warn: '!', block: '✕' }
const listings = [
  { label: 'listing not looked up', value: 0 },
  ...[2, 3, 4, 5, 6, 8].map((value) => ({ label: `listed for ${value}`, value })),
]
</script>

<template>
  <div class="rule pt-3 stack" data-testid="verdicts">
    <h2 class="kicker">If wired as drawn</h2>
    <p v-for="verdict in verification.verdicts" :key="verdict.text" class="verdict" :class="verdict.severity">
      <span aria-hidden="true">{{ marks[verdict.severity] }}</span> {{ verdict.text }}
    </p>
    <p class="soft small">{{ verification.states }} combinations solved. Local code and the maker’s diagram decide.</p>
    <UButton variant="ghost" class="self-start" @click="emit('reset')">Start from the proposal again</UButton>
  </div>
  <div class="rule pt-3 stack">
    <h2 class="kicker">Connect, in the company’s order</h2>
    <ol class="list">
      <li v-for="one in verification.connections" :key="`${one.gang} ${one.terminal}`">
        {{ gangs > 1 ? `Gang ${one.gang}: ` : '' }}{{ one.text }}
      </li>
      <li v-if="plan.capped.length">Cap {{ plan.capped.join(', ') }}.</li>
    </ol>
    <div v-for="(splice, index) in plan.splices" :key="splice.letters.join()" class="row">
      <span class="grow"
        >Connector on <b class="mono">{{ splice.letters.join(' + ') }}</b></span
      >
      <USelect
        :model-value="splice.holds ?? 0"
        :items="listings"
        :aria-label="`Listing of the connector on ${splice.letters.join(', ')}`"
        @update:model-value="(value: number) => emit('holds', index, value || null)"
      />
    </div>
    <h2 class="kicker">Pigtails to cut</h2>
    <ul class="list">
      <li v-for="pigtail in verification.pigtails" :key="pigtail.use">
        {{ pigtail.colour }}, {{ pigtail.gauge }}, {{ pigtail.length }}: {{ pigtail.use }}
      </li>
      <li v-if="!verification.pigtails.length" class="soft">none</li>
    </ul>
  </div>
</template>

<style scoped>
.verdict.good {
  color: var(--petrol);
  font-weight: 640;
}
.verdict.warn {
  color: var(--amber);
}
.verdict.block {
  color: var(--red);
  font-weight: 640;
}
.list {
  padding-left: 18px;
  list-style: decimal;
  display: grid;
  gap: 4px;
}
ul.list {
  list-style: square;
}
</style>
