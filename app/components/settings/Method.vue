<script setup lang="ts">
import { connectionOrders, connectionOrderWords } from '../../../core/connect'
import { formatOf } from '../../../core/units/region'
import { inTrade, localeIds, momentOf, numberIn, supplySchemes, usualLocale, type LocaleId } from '../../../core/units'
import type { Branch } from '../../../core/protocol'

const props = defineProps<{ branch: Branch }>()
const session = useSession()
const form = reactive({
  name: props.branch.name,
  timezone: props.branch.timezone,
  settings: {
    ...props.branch.settings,
    day: { ...props.branch.settings.day },
    connectors: structuredClone(toRaw(props.branch.settings.connectors ?? [])),
  },
})
const gauges =
  props.branch.schemeId === 'na120' ? ['18 AWG', '16 AWG', '14 AWG', '12 AWG', '10 AWG'] : ['1 mm²', '1.5 mm²', '2.5 mm²', '4 mm²', '6 mm²']
function setHolds(connector: { holds: Record<string, number> }, gauge: string, value: string | number) {
  const count = Number(value)
  connector.holds = Object.fromEntries(Object.entries({ ...connector.holds, [gauge]: count }).filter(([, holds]) => holds >= 1))
}
const region = computed(() => regionOf(props.branch))
/** The second of January 2023 was a Monday. */
const weekdays = computed(() =>
  Array.from({ length: 7 }, (_, index) => ({
    value: index + 1,
    label: formatOf(region.value.locale, { weekday: 'short', timeZone: 'UTC' }).format(Date.UTC(2023, 0, 2 + index)),
  })),
)
const dayTimes = [
  ['shiftFrom', 'Work begins'],
  ['shiftTo', 'Work ends'],
  ['restFrom', 'Rest begins at the earliest'],
  ['restTo', 'Rest begins at the latest'],
] as const
/** As somebody writes a list. */
const skills = computed({
  get: () => form.settings.day.skills.join(', '),
  set: (text) =>
    (form.settings.day.skills = [
      ...new Set(
        text
          .split(',')
          .map((skill) => skill.trim())
          .filter(Boolean),
      ),
    ]),
})
const busy = ref(false)
const problem = ref<Problem | null>(null)
const saved = ref(false)
const orders = connectionOrders.map((value) => ({ label: inTrade(connectionOrderWords[value], props.branch.schemeId), value }))
const schools = [
  { label: 'maker’s app first', value: 'makerFirst' },
  { label: 'home platform first', value: 'platformFirst' },
  { label: 'platform only', value: 'platformOnly' },
]
/** Each region as it writes a moment and a value. */
const example = (id: LocaleId) => `${momentOf('2026-11-07T18:26:00Z', { zone: 'UTC', locale: id })} · ${numberIn(4.5, id)} V`
const regionName = new Intl.DisplayNames('en', { type: 'region' })
const locales = [
  { value: 'usual', label: `usual for ${supplySchemes[props.branch.schemeId].name}: ${example(usualLocale[props.branch.schemeId])}` },
  ...localeIds.map((value) => ({ value, label: `${regionName.of(value.slice(3))}: ${example(value)}` })),
]
const locale = computed({
  get: () => form.settings.locale ?? 'usual',
  set: (value: string) => (form.settings.locale = value === 'usual' ? null : (value as LocaleId)),
})
const editions = ['2017', '2020', '2023'].map((value) => ({ label: `NEC ${value}`, value }))
async function save() {
  busy.value = true
  saved.value = false
  const answer = await api('PATCH /api/branches/:id', {
    params: { id: props.branch.id },
    body: {
      name: form.name,
      timezone: form.timezone,
      settings: { ...form.settings, proofLimitMinutes: Number(form.settings.proofLimitMinutes) },
    },
  })
  busy.value = false
  problem.value = answer.ok ? null : answer.problem
  saved.value = answer.ok
  if (answer.ok) await session.load('branches')
}
</script>

<template>
  <form class="stack pb-8" @submit.prevent="save">
    <h2>
      <b class="text-lg">{{ branch.name }}</b> <span class="soft">{{ supplySchemes[branch.schemeId].name }}</span>
    </h2>
    <fieldset :disabled="!session.hasRole('dispatcher', 'lead')" class="stack min-w-0">
      <UFormField label="Name"><UInput v-model="form.name" /></UFormField>
      <UFormField label="Time zone"><CommonTimeZone v-model="form.timezone" /></UFormField>
      <UFormField label="Times, dates and numbers" help="On screens, papers and lists. Both decimal signs are understood when typed."
        ><USelect v-model="locale" :items="locales" class="w-full"
      /></UFormField>
      <UFormField
        label="Order of connecting"
        :help="inTrade('No order replaces a dead proof: shared neutrals, {travelers} and second feeds bite too.', branch.schemeId)"
        ><USelect v-model="form.settings.connectionOrder" :items="orders" class="w-full"
      /></UFormField>
      <UCheckbox v-model="form.settings.twistFirst" label="Twist before the connector" description="The connector’s own listing decides." />
      <UCheckbox v-model="form.settings.tapeConnectors" label="Tape over the connector" />
      <UCheckbox v-model="form.settings.keepPlateOff" label="Plate stays off until it works" />
      <UFormField label="Pairing"><USelect v-model="form.settings.pairingSchool" :items="schools" class="w-full" /></UFormField>
      <UFormField
        v-if="branch.schemeId === 'na120'"
        label="Box fill by edition"
        :help="inTrade('{Grounds} count differently before 2020; terminal blocks from 2023.', branch.schemeId)"
        ><USelect v-model="form.settings.necEdition" :items="editions" class="w-full"
      /></UFormField>
      <UCheckbox
        v-model="form.settings.proofEveryPair"
        label="Dead test: every pair of conductors"
        :description="
          inTrade(
            'Otherwise each against the reference and each against the box’s own neutral or {ground}. Schools differ; with good references both show any voltage.',
            branch.schemeId,
          )
        "
      />
      <UCheckbox
        v-model="form.settings.testsWiresOut"
        label="Try lights with the wires out"
        :description="
          inTrade(
            'While a circuit is on for a moment and everybody stands clear, what is seen is kept as seen with the wires out. It is asked again with the boxes closed. Otherwise nothing is tried before that.',
            branch.schemeId,
          )
        "
      />
      <UFormField label="A proof lasts, minutes" help="After this it has to be made again. Common practice; 15 to 480."
        ><UInput v-model="form.settings.proofLimitMinutes" type="number" min="15" max="480"
      /></UFormField>
      <UFormField
        v-if="branch.schemeId === 'iec230'"
        label="A cold circuit may show of the limit of its loop"
        help="Conductors are warmer in use than when they are measured. Two thirds by the annex of IEC 60364-6; 0.8 is a common rule of thumb. Local rules decide."
        ><USelect
          v-model="form.settings.loopShare"
          :items="[
            { label: 'two thirds', value: 'annex' },
            { label: '0.8', value: 'fourFifths' },
          ]"
          class="w-full"
      /></UFormField>
      <fieldset class="stack">
        <legend class="font-semibold">Working day</legend>
        <p class="soft small">Days are planned within these. The law and your agreements decide what they may be.</p>
        <div class="grid grid-cols-2 gap-3">
          <UFormField v-for="[key, label] in dayTimes" :key="key" :label="label"
            ><CommonTime v-model="form.settings.day[key]" :label="label" :region="region"
          /></UFormField>
          <UFormField label="May run over by, minutes"
            ><UInput v-model.number="form.settings.day.overtimeMinutes" type="number" min="0" max="480"
          /></UFormField>
          <UFormField label="Rest, minutes" help="0: nobody keeps one for them."
            ><UInput v-model.number="form.settings.day.restMinutes" type="number" min="0" max="120"
          /></UFormField>
        </div>
        <div>
          <p class="font-semibold mb-1">Days that are worked</p>
          <CommonToggles
            spoken="Days that are worked"
            :items="weekdays"
            :chosen="form.settings.day.workdays"
            @choose="form.settings.day.workdays = toggled(form.settings.day.workdays, $event).sort()"
          />
          <p class="soft small mt-1">Other times are offered to customers on these, and a week’s capacity counts them.</p>
        </div>
        <UFormField
          label="Skills not everybody has"
          help="Separated by commas. People have them, jobs ask for them, and days are planned by both."
          ><UInput v-model="skills" class="w-full"
        /></UFormField>
        <UFormField
          label="Address of the store"
          help="Where vans stand in the morning and come back to. Empty: crews begin at their first home."
          ><UInput v-model="form.settings.day.storeAddress" class="w-full"
        /></UFormField>
        <UFormField
          label="Somebody has looked at a callback within so many working days"
          help="After the day of the call; 0: the same day. What is dangerous is promised for the same day whatever stands here. Schools differ."
          ><UInput v-model.number="form.settings.day.callbackDays" type="number" min="0" max="30" class="w-24"
        /></UFormField>
        <UFormField label="Telephone for customers" help="In messages and on their pages. Empty: nothing is said of it."
          ><UInput v-model="form.settings.day.telephone" type="tel" class="w-full"
        /></UFormField>
      </fieldset>
      <fieldset class="stack">
        <legend class="font-semibold">Connectors on the van</legend>
        <p class="soft small">
          How many conductors of each gauge the maker lists it for, pigtails counted. Empty: not listed for that gauge.
        </p>
        <div v-for="(connector, index) in form.settings.connectors" :key="index" class="connector">
          <UInput v-model="connector.name" :aria-label="`Name of connector ${index + 1}`" placeholder="name" class="name" />
          <label v-for="gauge in gauges" :key="gauge" class="small holds"
            >{{ gauge }}
            <UInput
              :model-value="connector.holds[gauge]"
              type="number"
              min="0"
              max="12"
              :aria-label="`${connector.name || `connector ${index + 1}`}, ${gauge}`"
              @update:model-value="(value: string | number) => setHolds(connector, gauge, value)"
          /></label>
          <UButton
            variant="ghost"
            :aria-label="`Remove ${connector.name || `connector ${index + 1}`}`"
            @click="form.settings.connectors.splice(index, 1)"
            >remove</UButton
          >
        </div>
        <UButton
          class="self-start"
          icon="i-lucide-plus"
          :disabled="form.settings.connectors.length >= 20"
          @click="form.settings.connectors.push({ name: '', holds: {} })"
          >Connector</UButton
        >
      </fieldset>
    </fieldset>
    <CommonProblem :problem="problem" />
    <div v-if="session.hasRole('dispatcher', 'lead')" class="row">
      <UButton type="submit" variant="solid" :loading="busy">Save the method</UButton
      ><span v-if="saved" class="good" role="status">Saved.</span>
    </div>
  </form>
</template>

<style scoped>
.connector {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 8px;
  border-bottom: 1px solid var(--line);
  padding-bottom: 8px;
}
/* On a phone the name has a line of its own. */
.name {
  flex: 1 1 130px;
}
@media (max-width: 900px) {
  .name {
    flex-basis: 100%;
  }
}
.holds {
  width: 66px;
}
</style>
