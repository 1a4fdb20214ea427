<script setup lang="ts">
import { counted } from '../../../core/units/counted'
import { railFor } from '../../../core/site'

/** The power rail: each circuit these boxes hang on, for the person looking. */
const props = defineProps<{ boxIds: string[]; compact?: boolean; title?: string }>()
const { site, asker, vantage, region } = injectJobRecord()
const tiles = computed(() => (site.value ? railFor(site.value, props.boxIds, asker.value, vantage.value) : []))
const { t } = useTrade()
const others = computed(() => Object.keys(site.value?.breakers ?? {}).length - tiles.value.length)
const openId = ref<string | null>(null)
const opened = computed(() => tiles.value.find((tile) => tile.breaker.id === openId.value) ?? null)
</script>

<template>
  <section aria-label="Power at this site">
    <h2 v-if="title" class="kicker mb-2">{{ title }}</h2>
    <div class="bus">
      <PowerTile
        v-for="tile in tiles"
        :key="tile.breaker.id"
        :tile="tile"
        :region="region"
        :compact="compact"
        @open="openId = tile.breaker.id"
      />
    </div>
    <p v-if="tiles.length === 0" class="soft small">No circuit is known for these boxes.</p>
    <p v-else-if="others > 0 && !compact" class="soft small ps-7">
      {{ t(counted(others, 'other {breaker} is', 'other {breakers} are')) }} not part of this.
    </p>
    <LazyPowerCircuitSheet v-if="opened" :tile="opened" @close="openId = null" />
  </section>
</template>

<style scoped>
.bus {
  position: relative;
  padding: 6px 0 6px 26px;
}
.bus::before {
  content: '';
  position: absolute;
  left: 8px;
  top: 0;
  bottom: 0;
  width: 9px;
  background: var(--copper-bar);
  border-radius: 2px;
}
</style>
