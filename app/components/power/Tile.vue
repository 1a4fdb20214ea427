<script setup lang="ts">
import type { Region } from '~/utils/time'
import { panelNameOf, type CircuitTile } from '../../../core/site'

const props = defineProps<{ tile: CircuitTile; region: Region; compact?: boolean }>()
defineEmits<{ open: [] }>()
const { site } = injectJobRecord()
/** The panel, wherever a home has more than one. */
const panel = computed(() => panelNameOf(site.value!, props.tile.breaker))
const about = computed(() => {
  const { breaker, boxes } = props.tile
  if (breaker.offLimits) return `Do not open: ${breaker.offLimits}`
  const names = boxes.map((box) => box.name)
  return names.length > 3
    ? `${names.slice(0, 3).join(', ')} +${names.length - 3}`
    : names.join(', ') || breaker.labelAsFound || 'no boxes known'
})
</script>

<template>
  <button
    type="button"
    class="tile"
    :class="[tile.shape, { compact }]"
    :data-testid="`circuit-${tile.breaker.number}`"
    @click="$emit('open')"
  >
    <PowerBlade :shape="tile.shape" />
    <span class="head"
      ><span class="no">{{ tile.breaker.number }}</span
      ><span class="word">{{ tile.word }}</span></span
    >
    <span class="about"
      ><span
        ><b v-if="panel" class="panel">{{ panel }} · </b>{{ about
        }}<template v-if="tile.since && tile.shape !== 'live'"> · since {{ clockTime(tile.since, region) }}</template></span
      ></span
    >
    <span v-if="tile.tags.length" class="tags"
      ><PowerTag
        v-for="tag in tile.tags"
        :key="tag.id"
        :initials="tag.initials"
        :title="`${tag.name}${tag.lock ? `, lock ${tag.lock}` : ''}`"
    /></span>
  </button>
</template>

<style scoped>
.tile {
  position: relative;
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 8px;
  text-align: left;
  width: calc(100% - 30px);
  margin: 0 0 10px 30px;
  padding: 9px 12px;
  background: var(--sheet);
  border: 1.5px solid var(--line);
  border-radius: 4px;
  min-height: 60px;
  color: inherit;
  cursor: pointer;
}
.tile :deep(svg.blade) {
  position: absolute;
  left: -43px;
  top: 10px;
  overflow: visible;
}
.head {
  display: flex;
  gap: 9px;
  align-items: baseline;
  grid-column: 1 / -1;
  flex-wrap: wrap;
}
.no {
  font: 640 20px var(--font-mono);
}
.word {
  font-weight: 680;
  font-size: 13px;
}
.about {
  font-size: 13px;
  color: var(--soft);
  grid-column: 1 / -1;
}
.tags {
  grid-column: 1 / -1;
  margin: 5px 0 2px -2px;
}
.live {
  border-color: var(--live);
}
.live .word,
.unknown .word {
  color: var(--live);
}
.unknown {
  border-color: var(--live);
  border-style: dashed;
}
.open {
  border-color: var(--amber);
  background: repeating-linear-gradient(135deg, var(--sheet) 0 9px, var(--amber-fill) 9px 11px);
}
.open .word {
  color: var(--amber);
}
.open .head > *,
.open .about > span {
  background: var(--sheet);
  padding: 0 5px;
  margin-left: -5px;
}
.dead {
  border-color: var(--petrol);
  border-bottom-width: 3px;
  padding-bottom: 12px;
  background: linear-gradient(var(--petrol-fill), var(--petrol-fill)) bottom / 100% 6px no-repeat var(--sheet);
}
.dead .word {
  color: var(--petrol);
}
.compact {
  grid-template-columns: 1fr auto;
  min-height: 54px;
  padding: 6px 12px;
}
.compact .head,
.compact .about {
  grid-column: 1;
}
.compact .tags {
  grid-column: 2;
  grid-row: 1 / 3;
  align-self: center;
  margin: 0;
}
</style>
