<script setup lang="ts">
import { causeWords } from '../../../core/job'
import type { Suspect } from '../../../core/triage'

/** Causes as they shrink, each with what of this home speaks for it or against it. */
const props = defineProps<{ suspects: Suspect[] }>()
const { t } = useTrade()
const shown = computed(() => props.suspects.slice(0, 6))
const rest = computed(() => props.suspects.slice(6).reduce((sum, { share }) => sum + share, 0))
const percent = (share: number) => `${Math.round(share * 100)} %`
/** What weighs most for or against it first. */
const factsOf = ({ facts }: Suspect) => [...facts].sort((a, b) => Math.abs(Math.log(b.weighs)) - Math.abs(Math.log(a.weighs))).slice(0, 2)
</script>

<template>
  <ol class="suspects" aria-label="Causes, likeliest first">
    <li v-for="suspect in shown" :key="suspect.cause.id" :data-testid="`suspect-${suspect.cause.id}`">
      <div class="row">
        <b class="grow">{{ t(suspect.cause.words) }}</b><span class="mono small">{{ percent(suspect.share) }}</span>
      </div>
      <span class="gauge" aria-hidden="true"><span :style="{ width: `${Math.round(suspect.share * 100)}%` }" /></span>
      <span class="soft small"
        >{{ t(causeWords[suspect.cause.kind])
        }}<template v-for="fact in factsOf(suspect)" :key="fact.words">
          · {{ t(fact.words) }}
          <b :class="fact.weighs > 1 ? 'warn' : 'good'">{{ fact.weighs > 1 ? '(for it)' : '(against it)' }}</b></template
        ></span
      >
    </li>
    <li v-if="rest >= 0.01" class="soft small">Anything else: {{ percent(rest) }}</li>
  </ol>
</template>

<style scoped>
.suspects {
  display: grid;
  gap: 12px;
}
.gauge {
  display: block;
  height: 7px;
  margin: 3px 0;
  border: 1px solid var(--ink);
}
.gauge span {
  display: block;
  height: 100%;
  background: var(--ink);
}
</style>
