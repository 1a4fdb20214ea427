<script setup lang="ts">
import { redFlagIds, redFlags, redFlagWords, type RedFlag } from '../../../core/triage'

/** What is asked before anything else, and what is read aloud where one of it is so. */
const flags = defineModel<RedFlag[]>({ required: true })
const { t } = useTrade()
const items = computed(() => redFlagIds.map((value) => ({ value, label: t(redFlags[value]) })))
</script>

<template>
  <section class="danger stack" :class="{ now: flags.length }" aria-label="Danger">
    <p><b>First: is any of this so?</b></p>
    <CommonToggles spoken="Danger" :items="items" :chosen="flags" @choose="(flag) => (flags = toggled(flags, flag))" />
    <div v-if="flags.length" role="alert" class="stack" data-testid="danger">
      <p class="next-title bad">Stop here. Read this aloud:</p>
      <ol class="words">
        <li v-for="line in redFlagWords" :key="line">{{ t(line) }}</li>
      </ol>
    </div>
  </section>
</template>

<style scoped>
.danger {
  border-left: 4px solid var(--line);
  padding: 8px 0 8px 12px;
}
.danger.now {
  border-color: var(--live);
}
.words {
  list-style: decimal;
  padding-left: 22px;
  font-size: 17px;
  display: grid;
  gap: 6px;
}
</style>
