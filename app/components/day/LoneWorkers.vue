<script setup lang="ts">
import type { Region } from '~/utils/time'
import type { LoneWorkWatch } from '../../../core/protocol'

/** People who work alone, for whoever keeps an ear on them: silent ones first, by the server's clock. */
const props = defineProps<{ region: Region; now: number }>()
const { answer } = useList('GET /api/solo', () => ({}), ['site'])
const watches = computed(() => answer.value?.watches ?? [])
const silentMinutes = (watch: LoneWorkWatch) => Math.floor((props.now - Date.parse(watch.dueAt)) / 60_000)
</script>

<template>
  <ul v-if="watches.length" class="stack mb-3" data-testid="solo-watches" aria-label="People who work alone">
    <li v-for="watch in watches" :key="watch.personId" :class="silentMinutes(watch) >= 0 ? 'note red' : 'note'">
      <template v-if="silentMinutes(watch) >= 0"
        ><b>{{ watch.name }} works alone at {{ watch.siteName }} and missed a check-in {{ silentMinutes(watch) }} min ago.</b> Call now,
        then {{ watch.contact }}. If neither answers, somebody goes there.</template
      >
      <template v-else>{{ watch.name }} works alone at {{ watch.siteName }}; due by {{ clockTime(watch.dueAt, region) }}.</template>
    </li>
  </ul>
</template>
