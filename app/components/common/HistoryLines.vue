<script setup lang="ts">
import type { HistoryLine } from '../../../core/job'

defineProps<{ lines: HistoryLine[]; zone: string; dates?: boolean }>()
</script>

<template>
  <ol class="history">
    <li v-for="line in lines" :key="line.id" :class="line.tone">
      <b class="mono">{{ dates ? dayAndTime(line.at, zone) : clockTime(line.at, zone) }}</b> <b>{{ line.initials }}</b> {{ line.what }}
    </li>
  </ol>
</template>

<style scoped>
.history {
  font-size: 13.5px;
  display: grid;
  gap: 8px;
}
.alarm {
  color: var(--live);
}
.good {
  color: var(--petrol);
}
</style>
