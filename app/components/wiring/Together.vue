<script setup lang="ts">
import type { ProvenTogether } from '../../../core/job/box-bench'
import { notTogetherWords } from '../../../core/wiring'

/** What is proven of all boxes that switch a light together, and what is not. */
const props = defineProps<{ together: ProvenTogether }>()
const { t } = useTrade()
const names = computed(() => ('names' in props.together ? props.together.names.join(' and ') : ''))
const marks = { good: '✓', warn: '!', block: '✕' } as const
</script>

<template>
  <div v-if="together.kind !== 'alone'" class="stack" data-testid="together">
    <p class="kicker">Together with {{ names }}</p>
    <p v-if="together.kind === 'covered'" class="soft">
      What is done there follows from this plan, and every position above has it in it. Conductors found otherwise there end that.
    </p>
    <p v-else-if="together.kind === 'open'" class="warn">
      Not proven together yet: {{ names }} {{ together.names.length > 1 ? 'are' : 'is' }} not laid, or not all conductors there are known.
    </p>
    <p v-else-if="together.kind === 'cannot'" class="warn">Not proven together: {{ notTogetherWords[together.why] }}.</p>
    <template v-else>
      <p
        v-for="verdict in together.verdicts"
        :key="verdict.text"
        :class="{ good: verdict.severity === 'good', warn: verdict.severity === 'warn', bad: verdict.severity === 'block' }"
      >
        <span aria-hidden="true">{{ marks[verdict.severity] }}</span> {{ t(verdict.text) }}
      </p>
      <p class="soft small">{{ counted(together.states, 'state') }} of all of them solved as one wiring.</p>
    </template>
  </div>
</template>
