<script setup lang="ts">
import type { Region } from '~/utils/time'
import type { HistoryLine } from '../../../core/job'

defineProps<{ lines: HistoryLine[]; region: Region; dates?: boolean }>()
const { t } = useTrade()
</script>

<template>
  <ol class="history">
    <li v-for="line in lines" :key="line.id" :class="line.tone">
      <b class="mono">{{ dates ? dayAndTime(line.at, region) : clockTime(line.at, region) }}</b> <b>{{ line.initials }}</b>
      {{ t(line.what) }}
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
