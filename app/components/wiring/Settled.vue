<script setup lang="ts">
import { wireRoleShort, wireRoleWords, type Findings, type WireFinding } from '../../../core/wiring'

/** What is settled of each conductor, and what is still possible. */
const props = defineProps<{ findings: Findings; known: boolean }>()
const { t } = useTrade()
const stopped = computed(() => props.findings.state === 'stop')
function words(wire: WireFinding): string {
  if (stopped.value) return 'not established'
  if (wire.settled) return `${t(wireRoleWords[wire.settled.role])}${wire.settled.circuit ? `, circuit ${wire.settled.circuit}` : ''}`
  if (wire.joint)
    return `one metal with the ${t(wireRoleShort[wire.joint.role])}${wire.joint.circuit ? ` of circuit ${wire.joint.circuit}` : ''}`
  const open = [...new Set(wire.guesses.map((guess) => t(wireRoleWords[guess.role])))]
  return open.length > 3 ? 'open' : open.join(' or ')
}
</script>

<template>
  <details class="rule pt-3" :open="!known">
    <summary class="kicker">What is settled</summary>
    <ul class="settled" data-testid="settled">
      <li v-for="wire in findings.wires" :key="wire.letter">
        <b class="mono">{{ wire.letter }}</b>
        <span class="grow" :class="{ soft: stopped || !(wire.settled || wire.joint) }">{{ words(wire) }}</span>
        <span class="soft small">{{ counted(wire.readings, 'reading') }}{{ wire.onceMore && !stopped ? ', one more' : '' }}</span>
      </li>
    </ul>
  </details>
</template>

<style scoped>
li {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
</style>
