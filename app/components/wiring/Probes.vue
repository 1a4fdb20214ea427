<script setup lang="ts">
import { probedAlike, probedWords, type Probed } from '../../../core/wiring'

/** What the meter should show between any two ends of the new wiring, row by row of the table. */
const props = defineProps<{
  ends: { value: string; label: string }[]
  /** As planned, and with the fault that explains best what was seen. */
  probed: { planned: Probed[]; suspected: Probed[] | null } | null
  nominalVolts: number
}>()
const { t } = useTrade()
const held = defineModel<{ a: string; b: string }>({ required: true })
const none = { value: '', label: 'nowhere yet' }
const rows = computed(() =>
  (props.probed?.planned ?? []).map((row, index) => {
    const other = props.probed?.suspected?.[index]
    return {
      words: row.words,
      planned: probedWords(row, props.nominalVolts),
      suspected: other && !probedAlike(row, other, props.nominalVolts) ? probedWords(other, props.nominalVolts) : null,
    }
  }),
)
</script>

<template>
  <div class="rule pt-3 stack" data-testid="probes">
    <h2 class="kicker">What the meter should show</h2>
    <WiringChoice
      :value="held.a"
      :items="[none, ...ends]"
      spoken="First probe, and the non-contact tester"
      @choose="held = { ...held, a: $event }"
      >first probe</WiringChoice
    >
    <WiringChoice :value="held.b" :items="ends" spoken="Second probe" @choose="held = { ...held, b: $event }">second probe</WiringChoice>
    <dl v-if="held.a && rows.length" class="shown small">
      <template v-for="row in rows" :key="row.words">
        <dt>{{ row.words || 'as drawn' }}</dt>
        <dd>
          <b>Live: {{ t(row.planned.live) }}.</b> <span class="soft">Dead: {{ t(row.planned.dead) }}.</span>
          <span v-if="row.suspected" class="suspected"
            >With the most likely fault: live {{ t(row.suspected.live) }}; dead {{ t(row.suspected.dead) }}.</span
          >
        </dd>
      </template>
    </dl>
    <p class="soft small">Predicted, not measured: it proves nothing dead. Live only for a licensed person, announced, probes only.</p>
  </div>
</template>

<style scoped>
.shown {
  display: grid;
  gap: 2px;
}
.shown dt {
  color: var(--soft);
}
.shown dd {
  margin-bottom: 6px;
}
.suspected {
  display: block;
  color: var(--amber);
}
</style>
