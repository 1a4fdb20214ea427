<script setup lang="ts">
import { currencyIds, currencyOf, typedCents } from '../../../core/money'
import { schoolIds, schoolWords, type SchoolId } from '../../../core/plan/words'
import { numberIn } from '../../../core/units'
import type { Branch } from '../../../core/protocol'

/** Rates, taxes and rounding of a branch, and the school its plans follow. */
const props = defineProps<{ branch: Branch }>()
const session = useSession()
const locale = computed(() => session.regionAt(props.branch.id).locale)
const written = (cents: number) => numberIn(cents / 100, locale.value, 2)
const percent = (basisPoints: number) => numberIn(basisPoints / 100, locale.value)
const money = props.branch.settings.money
const form = reactive({
  school: props.branch.settings.school,
  currency: currencyOf(money, props.branch.schemeId),
  hourly: written(money.hourlyCents),
  travel: written(money.travelCents),
  taxes: money.taxes.map(({ id, name, basisPoints }) => ({ id, name, rate: percent(basisPoints) })),
  taxOnParts: money.taxOnParts,
  taxOnLabour: money.taxOnLabour,
  taxBy: money.taxBy,
  roundToCents: String(money.roundToCents),
  deposit: percent(money.depositBasisPoints),
  quoteDays: String(money.quoteDays),
  noteOnlyMinutes: String(money.noteOnlyMinutes),
})
const busy = ref(false)
const problem = ref<Problem | null>(null)
const saved = ref(false)
const wrong = (message: string) => (problem.value = { status: 400, code: 'typed', message, details: null })
const points = (text: string) => Math.round(typedNumber(text) * 100)
async function save() {
  saved.value = false
  const [hourlyCents, travelCents] = [typedCents(form.hourly), typedCents(form.travel)]
  if (hourlyCents === null || travelCents === null) return wrong('A rate is an amount such as 84.50.')
  const taxes = form.taxes.map(({ id, name, rate }) => ({ id, name, basisPoints: points(rate) }))
  if ([...taxes.map(({ basisPoints }) => basisPoints), points(form.deposit)].some((one) => !Number.isFinite(one)))
    return wrong('A tax and the deposit are numbers in per cent.')
  busy.value = true
  const answer = await api('PATCH /api/branches/:id', {
    params: { id: props.branch.id },
    body: {
      settings: {
        ...props.branch.settings,
        school: form.school,
        money: {
          currency: form.currency,
          hourlyCents,
          travelCents,
          taxes,
          taxOnParts: form.taxOnParts,
          taxOnLabour: form.taxOnLabour,
          taxBy: form.taxBy,
          roundToCents: Number(form.roundToCents) as 1,
          depositBasisPoints: points(form.deposit),
          quoteDays: Number(form.quoteDays),
          noteOnlyMinutes: Number(form.noteOnlyMinutes),
        },
      },
    },
  })
  busy.value = false
  problem.value = answer.ok ? null : answer.problem
  saved.value = answer.ok
  if (answer.ok) await session.load('branches')
}
const addTax = () => form.taxes.push({ id: `t${form.taxes.length + 1}`, name: '', rate: '0' })
const taxItems = computed(() => form.taxes.map(({ id, name }) => ({ value: id, label: name || id })))
const schools = schoolIds.map((value) => ({ value, label: schoolWords[value] }))
</script>

<template>
  <form class="stack pb-8" @submit.prevent="save">
    <h2 class="next-title">{{ branch.name }}</h2>
    <UFormField label="Plans follow" help="The schools of the trade weigh differently; the other columns stay a tap away."
      ><USelect v-model="form.school" :items="schools" class="w-full" @update:model-value="(value: SchoolId) => (form.school = value)"
    /></UFormField>
    <div class="pair">
      <UFormField label="Currency"><USelect v-model="form.currency" :items="[...currencyIds]" class="w-full" /></UFormField>
      <UFormField label="Rounded to"
        ><USelect
          v-model="form.roundToCents"
          :items="[
            { value: '1', label: 'the cent' },
            { value: '5', label: '5 cents' },
            { value: '10', label: '10 cents' },
            { value: '100', label: 'whole units' },
          ]"
          class="w-full"
      /></UFormField>
      <UFormField label="An hour of work, net"><UInput v-model="form.hourly" inputmode="decimal" /></UFormField>
      <UFormField label="Travel, each visit, net"><UInput v-model="form.travel" inputmode="decimal" /></UFormField>
    </div>
    <fieldset class="stack">
      <legend class="font-semibold">Taxes</legend>
      <div v-for="(tax, index) in form.taxes" :key="index" class="row">
        <UInput v-model="tax.name" :aria-label="`Name of tax ${index + 1}`" class="grow" maxlength="40" />
        <UInput v-model="tax.rate" :aria-label="`Per cent of tax ${index + 1}`" inputmode="decimal" class="w-24" /><span>%</span>
      </div>
      <UButton v-if="form.taxes.length < 4" icon="i-lucide-plus" variant="link" class="self-start p-0" @click="addTax">Another tax</UButton>
    </fieldset>
    <div class="pair">
      <UFormField label="On parts"><USelect v-model="form.taxOnParts" :items="taxItems" class="w-full" /></UFormField>
      <UFormField label="On labour and travel"><USelect v-model="form.taxOnLabour" :items="taxItems" class="w-full" /></UFormField>
      <UFormField label="Taxes are rounded"
        ><USelect
          v-model="form.taxBy"
          :items="[
            { value: 'document', label: 'once for the document' },
            { value: 'line', label: 'line by line' },
          ]"
          class="w-full"
      /></UFormField>
      <UFormField label="Deposit, %"><UInput v-model="form.deposit" inputmode="decimal" /></UFormField>
      <UFormField label="An offer stands, days"><UInput v-model="form.quoteDays" inputmode="numeric" /></UFormField>
      <UFormField label="A change wants no signature under, minutes"
        ><UInput v-model="form.noteOnlyMinutes" inputmode="numeric"
      /></UFormField>
    </div>
    <CommonProblem :problem="problem" />
    <div v-if="session.hasRole('lead')" class="row">
      <UButton type="submit" variant="solid" :loading="busy">Save</UButton><span v-if="saved" class="good" role="status">Saved.</span>
    </div>
  </form>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  align-items: end;
}
</style>
