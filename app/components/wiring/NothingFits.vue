<script setup lang="ts">
import { readingWord, type Findings } from '../../../core/wiring'

/** What is said where no arrangement fits the readings. */
defineProps<{ findings: Findings | null; hints: string[] }>()
const { t } = useTrade()
</script>

<template>
  <div class="note red stack" data-testid="wiring-stop">
    <p><b>No known arrangement fits, or something noted about the box is wrong. Do not wire this box by guesswork.</b></p>
    <p v-if="findings?.odd.some((reading) => reading.old)">
      If the old switch may be faulty, or is a dimmer or timer, clear the readings and record that the conductors are off it.
    </p>
    <p v-for="hint in hints" :key="hint">{{ t(hint) }}</p>
    <p v-if="findings?.odd.length">
      Odd: {{ t(findings.odd.map((reading) => `${reading.a} to ${t(endWord(reading.b))} ${readingWord(reading)}`).join('; ')) }}.
    </p>
    <p>
      {{
        t(
          'Read the odd ones again, and compare the notes with the box: splices, screws, {breakers}. If it stays so, call the licensed lead.',
        )
      }}
    </p>
  </div>
</template>
