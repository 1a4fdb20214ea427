<script setup lang="ts">
import { readingWord, type WireReading } from '../../../core/wiring'

defineProps<{ readings: WireReading[] }>()
const { t } = useTrade()
</script>

<template>
  <details class="rule pt-3">
    <summary class="kicker">{{ counted(readings.length, 'reading') }}</summary>
    <ul class="small mono">
      <li v-for="(reading, index) in [...readings].reverse()" :key="index">
        {{ reading.a }}–{{ t(endWord(reading.b)) }} {{ t(readingWord(reading)) }}
        <span class="soft"
          >{{ reading.closed.length ? `${reading.closed.join('+')} on` : 'dead'
          }}{{ reading.far.map((position) => (position ? ', down' : ', up')).join('')
          }}{{ reading.old ? ', old switch attached' : '' }}</span
        >
      </li>
    </ul>
  </details>
</template>
