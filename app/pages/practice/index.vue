<script setup lang="ts">
import { practiceBoxes } from '../../../core/wiring/practice'

/** Boxes with hidden wiring to practise on. */
useHead({ title: 'Practice' })
const { t } = useTrade()
const done = usePracticeDone()
const solved = computed(() => practiceBoxes.filter((box) => done.value[box.id]).length)
</script>

<template>
  <div class="page">
    <h1 class="sentence">{{ solved }} of {{ practiceBoxes.length }} boxes are known and proven.</h1>
    <p class="soft">
      {{
        t(
          'Boxes with hidden wiring and a simulated meter. Nobody can get hurt here: find out what every conductor is, place the new wiring, and close the {breaker}.',
        )
      }}
    </p>
    <ul class="boxes">
      <li v-for="box in practiceBoxes" :key="box.id">
        <NuxtLink :to="`/practice/${box.id}`" class="box">
          <svg viewBox="0 0 60 46" width="60" height="46" aria-hidden="true">
            <rect x="4" y="12" width="52" height="32" rx="3" fill="none" stroke="var(--ink)" stroke-width="2" />
            <path
              v-for="(cable, index) in box.found.cables"
              :key="cable.id"
              :d="`M${10 + ((index + 0.5) * 40) / box.found.cables.length} 2V22`"
              stroke="var(--copper-bar)"
              stroke-width="5"
            />
          </svg>
          <span class="grow"
            ><b>{{ box.name }}</b> <span class="soft small">{{ box.place }}</span><br />{{ box.story }}</span
          >
          <span v-if="done[box.id]" class="good">proven</span>
          <span v-else class="soft small">{{ counted(box.found.cables.length, 'cable') }}, {{ box.found.nominalVolts }} V</span>
        </NuxtLink>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.boxes {
  display: grid;
  gap: 0;
  border-top: 1px solid var(--line);
}
.box {
  display: flex;
  gap: 16px;
  align-items: center;
  padding: 10px 4px;
  min-height: 64px;
  border-bottom: 1px solid var(--line);
}
.box:hover b {
  text-decoration: underline;
}
</style>
