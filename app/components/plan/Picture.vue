<script setup lang="ts">
import type { SolutionKind } from '../../../core/plan/words'

/** What changes on the wall or at the lamp, drawn small: the plate, what is behind it, and what hangs from the ceiling. */
defineProps<{ kind: SolutionKind }>()
</script>

<template>
  <svg width="46" height="40" viewBox="0 0 46 40" fill="none" stroke="currentColor" stroke-width="1.6" aria-hidden="true" class="picture">
    <!-- ceiling and lamp -->
    <path d="M2 3h42" stroke-width="2.4" />
    <path d="M34 3v6" />
    <path
      v-if="kind === 'smartLamps' || kind === 'plugIn'"
      d="M28 15a6 6 0 1 1 12 0c0 3-2 4-2.4 6h-7.2c-.4-2-2.4-3-2.4-6z"
      fill="var(--copper-bar)"
      stroke="currentColor"
    />
    <path v-else d="M28 15a6 6 0 1 1 12 0c0 3-2 4-2.4 6h-7.2c-.4-2-2.4-3-2.4-6z" />
    <rect v-if="kind === 'relayAtFixture'" x="29" y="3.6" width="10" height="5.4" fill="var(--copper-bar)" />
    <rect v-if="kind === 'plugIn'" x="30" y="21" width="8" height="5" fill="var(--copper-bar)" />
    <!-- a module behind the plate -->
    <rect v-if="kind === 'channelModule' || kind === 'meteringRelay'" x="1" y="18" width="9" height="14" fill="var(--copper-bar)" />
    <!-- plate -->
    <rect
      x="6"
      y="14"
      width="15"
      height="22"
      rx="1.5"
      :fill="
        ['withNeutral', 'noNeutral', 'batteryCompanion', 'fanAndLight', 'pullNeutral'].includes(kind) ? 'var(--copper-bar)' : 'var(--sheet)'
      "
    />
    <path v-if="kind === 'meteringRelay'" d="M26 35l4-5 4 3 7-8" stroke="var(--copper)" />
    <path v-if="kind === 'smartLamps'" d="M4 12l19 26M23 12L4 38" stroke-width="1.2" />
    <path v-if="['leave', 'channelModule', 'meteringRelay', 'relayAtFixture'].includes(kind)" d="M13.5 20v10" stroke-width="3" />
    <path v-if="kind === 'fanAndLight'" d="M8.5 25h10M13.5 16v18" />
    <path v-if="kind === 'noNeutral'" d="M10 21h7M10 25h7" stroke="var(--sheet)" />
    <path v-if="kind === 'pullNeutral'" d="M21 25h8M26 22l3 3-3 3" />
    <rect v-if="kind === 'batteryCompanion'" x="25" y="27" width="8" height="9" rx="1" fill="var(--copper-bar)" />
  </svg>
</template>

<style scoped>
.picture {
  flex: none;
  color: var(--ink);
}
</style>
