<script setup lang="ts">
import { weightsOf, type SchoolId, type Weights } from '../../../core/plan'
import { moneyIn, type CurrencyId } from '../../../core/money'

/** What the office may move: how much comfort and a callback are worth. The field and the customer never see it. */
const props = defineProps<{ school: SchoolId; years: number; currency: CurrencyId; locale: string }>()
const over = defineModel<Partial<Weights>>({ required: true })
const usual = computed(() => weightsOf(props.school, props.years))
const money = (cents: number) => moneyIn(cents, props.currency, props.locale).replace(/[.,]00(?=\D*$)/, '')
const sliders = [
  { key: 'comfortCents' as const, label: 'A point that does all one could want is worth', most: 150_000, step: 1000 },
  { key: 'callbackCents' as const, label: 'A callback costs', most: 60_000, step: 1000 },
]
const at = (key: 'comfortCents' | 'callbackCents') => over.value[key] ?? usual.value[key]
const put = (key: string, text: string) => (over.value = { ...over.value, [key]: Number(text) })
</script>

<template>
  <section class="stack" aria-label="Weights">
    <p v-if="Object.keys(over).length" class="note amber small">
      All columns are weighed by these instead of their schools.
      <UButton variant="link" class="p-0" @click="over = {}">As the schools have it</UButton>
    </p>
    <label v-for="{ key, label, most, step } in sliders" :key="key" class="weight">
      <span
        >{{ label }} <b class="mono">{{ money(at(key)) }}</b></span
      >
      <input
        type="range"
        :min="0"
        :max="most"
        :step="step"
        :value="at(key)"
        @change="put(key, ($event.target as HTMLInputElement).value)"
      />
    </label>
  </section>
</template>

<style scoped>
.weight {
  display: grid;
  gap: 4px;
}
input {
  width: 100%;
  min-height: 32px;
  accent-color: var(--ink);
}
</style>
