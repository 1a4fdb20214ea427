<script setup lang="ts">
import { railFor } from '../../../core/site'

/** The power rail on a phone: one line that stays in sight; a tap opens the circuit. */
const { job, site, asker, vantage } = injectJobRecord()
const route = useRoute()
/** At a box its own feeds come first: there is room for two or three. */
const tiles = computed(() => {
  if (!site.value || !job.value) return []
  const own = site.value.boxes[String(route.params.boxId ?? '')]?.breakerIds ?? []
  const all = railFor(site.value, job.value.boxIds, asker.value, vantage.value)
  return [...all].sort((a, b) => Number(own.includes(b.breaker.id)) - Number(own.includes(a.breaker.id)))
})
const openId = ref<string | null>(null)
const opened = computed(() => tiles.value.find((tile) => tile.breaker.id === openId.value) ?? null)
const short: Record<string, string> = {
  'OPEN, NOT PROVEN': 'OPEN',
  'PROVEN DEAD': 'DEAD',
  'TRIPPED, NOT PROVEN': 'TRIPPED',
  'UNKNOWN, TREAT AS LIVE': 'UNKNOWN',
  'UNKNOWN, UPDATE NEEDED': 'UPDATE',
  'BEING CLOSED': 'CLOSING',
}
</script>

<template>
  <div class="strip" aria-label="Power at this site" role="group">
    <button
      v-for="tile in tiles"
      :key="tile.breaker.id"
      type="button"
      :class="tile.shape"
      :data-testid="`strip-${tile.breaker.number}`"
      :aria-label="`${markOf(site!, tile.breaker.id)}: ${tile.word}${tile.tags.length ? `, tags ${tile.tags.map((tag) => tag.initials).join(', ')}` : ''}`"
      @click="openId = tile.breaker.id"
    >
      <PowerBlade :shape="tile.shape" /><b class="mono">{{ markOf(site!, tile.breaker.id) }}</b
      ><span>{{ short[tile.word] ?? tile.word }}</span
      ><span v-if="tile.tags.length" class="mono">{{ tile.tags.map((tag) => tag.initials).join(' ') }}</span>
    </button>
    <LazyPowerCircuitSheet v-if="opened" :tile="opened" @close="openId = null" />
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  gap: 6px;
  overflow-x: auto;
  min-width: 0;
}
button {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  min-height: 44px;
  padding: 0 10px 0 4px;
  border: 1.5px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
  font-size: 12.5px;
  font-weight: 680;
  white-space: nowrap;
  color: var(--ink);
  flex: none;
}
button :deep(svg) {
  width: 30px;
  height: 24px;
  overflow: visible;
}
b {
  font-size: 17px;
}
.live,
.unknown {
  border-color: var(--live);
}
.live > span:first-of-type,
.unknown > span:first-of-type {
  color: var(--live);
}
.open {
  border-color: var(--amber);
  border-style: dashed;
}
.open > span:first-of-type {
  color: var(--amber);
}
.dead {
  border-color: var(--petrol);
  border-bottom-width: 5px;
}
.dead > span:first-of-type {
  color: var(--petrol);
}
@media (min-width: 1001px) {
  .strip {
    display: none;
  }
}
</style>
