<script setup lang="ts">
import type { Region } from '~/utils/time'
import type { HistoryLine } from '../../../core/job'

/** Who did what, newest first. `fold`: the small steps of a proof are one line that opens. */
const props = defineProps<{ lines: HistoryLine[]; region: Region; dates?: boolean; fold?: boolean }>()
const { t } = useTrade()
const fewestFolded = 3
/** Lines in a row that are steps of one proof, by one person. */
const parts = computed(() => {
  const rows: HistoryLine[][] = []
  for (const line of props.lines) {
    const last = rows.at(-1)
    const joins = props.fold && line.proofId !== null && last?.[0]!.proofId === line.proofId && last[0]!.initials === line.initials
    if (joins) last.push(line)
    else rows.push([line])
  }
  return rows.flatMap((row) => (row.length < fewestFolded ? row.map((line) => [line]) : [row]))
})
const timeOf = (line: HistoryLine) => (props.dates ? dayAndTime(line.at, props.region) : clockTime(line.at, props.region))
</script>

<template>
  <ol class="history">
    <li v-for="part in parts" :key="part[0]!.id" :class="part.length === 1 ? part[0]!.tone : ''">
      <details v-if="part.length > 1">
        <summary>
          <b class="mono">{{ timeOf(part.at(-1)!) }}</b> <b>{{ part[0]!.initials }}</b> {{ counted(part.length, 'reading') }} of one proof,
          until {{ clockTime(part[0]!.at, region) }}
        </summary>
        <CommonHistoryLines :lines="part" :region="region" class="inner" />
      </details>
      <template v-else>
        <b class="mono">{{ timeOf(part[0]!) }}</b> <b>{{ part[0]!.initials }}</b>
        {{ t(part[0]!.what) }}
      </template>
    </li>
  </ol>
</template>

<style scoped>
.history {
  font-size: 13.5px;
  display: grid;
  gap: 8px;
  max-width: 100ch;
}
summary {
  cursor: pointer;
}
.inner {
  padding: 8px 0 4px 18px;
  border-left: 2px solid var(--line);
}
.alarm {
  color: var(--live);
}
.good {
  color: var(--petrol);
}
</style>
