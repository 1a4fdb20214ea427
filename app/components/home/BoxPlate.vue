<script setup lang="ts">
import type { BoxState } from '../../../core/site'
import type { PointStatus } from '../../../core/job'

/** A wall box in its gang proportion, each gang with its device's state as a shape. */
export type GangMark = PointStatus | 'working' | 'empty'
defineProps<{ box: BoxState; marks: GangMark[]; breakers: string[]; selected: boolean; changedBy?: string | null }>()
defineEmits<{ pick: [] }>()
const words: Record<GangMark, string> = {
  passed: 'passes',
  failed: 'fails',
  partial: 'partly tested',
  untested: 'not tested',
  working: 'being worked on',
  empty: 'no point',
}
</script>

<template>
  <button
    type="button"
    class="box"
    :aria-pressed="selected"
    :aria-label="`${box.name}, ${marks.map((mark) => words[mark]).join(', ')}`"
    @click="$emit('pick')"
  >
    <span class="plate" :class="{ open: box.closure === 'opened', sel: selected }">
      <span v-for="(mark, index) in marks" :key="index" class="gang">
        <svg width="20" height="20" viewBox="0 0 20 20" fill="none" aria-hidden="true">
          <path v-if="mark === 'passed'" d="M3 11l5 5 9-12" stroke="var(--petrol)" stroke-width="3" />
          <path v-else-if="mark === 'failed'" d="M4 4l12 12M16 4L4 16" stroke="var(--live)" stroke-width="3" />
          <path v-else-if="mark === 'partial'" d="M10 3a7 7 0 0 1 0 14z" fill="var(--petrol)" stroke="var(--soft)" stroke-width="1.6" />
          <circle v-else-if="mark === 'working'" cx="10" cy="10" r="7" stroke="var(--copper)" stroke-width="3" stroke-dasharray="22 44" />
          <circle v-else-if="mark === 'untested'" cx="10" cy="10" r="7" stroke="var(--soft)" stroke-width="1.6" />
        </svg>
      </span>
    </span>
    <span class="lab"
      ><b v-for="number in breakers" :key="number">{{ number }}</b
      >{{ box.name }}<span v-if="changedBy" class="just">{{ changedBy }} just now</span></span
    >
  </button>
</template>

<style scoped>
.just {
  display: block;
  font-size: 12px;
  color: var(--copper);
  animation: settle 6s ease-out;
}
@keyframes settle {
  0% {
    background: var(--mute);
  }
  100% {
    background: transparent;
  }
}
@media (prefers-reduced-motion: reduce) {
  .just {
    animation: none;
  }
}
.box {
  text-align: left;
  cursor: pointer;
  padding: 4px;
  color: inherit;
  min-width: 56px;
}
.plate {
  display: inline-flex;
  border: 1.5px solid var(--ink);
  border-radius: 5px;
  background: var(--sheet);
  padding: 5px;
}
.plate.open {
  border-style: dashed;
  border-width: 2px;
}
.plate.sel {
  outline: 2px solid var(--copper);
  outline-offset: 3px;
}
.gang {
  width: 34px;
  height: 72px;
  margin: 0 2px;
  border: 1.5px solid var(--soft);
  border-radius: 3px;
  display: grid;
  place-items: center;
}
.lab {
  display: block;
  font-size: 12.5px;
  margin-top: 5px;
  max-width: 130px;
}
.lab b {
  font: 640 12px var(--font-mono);
  border: 1.5px solid var(--soft);
  border-radius: 2px;
  padding: 0 3px;
  margin-right: 4px;
}
</style>
