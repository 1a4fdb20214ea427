<script setup lang="ts">
import { breakerName, type BreakerRecord } from '../../../core/site'
import { typedNumber } from '../../../core/units/typed-number'
import type { residualKinds, CircuitReadings, VerificationLine } from '../../../core/verification'
import { circuitPasses, curves, judgeCircuit, loopRuleOf, residualCurrents } from '../../../core/verification'

/** One circuit of a 230 V supply: what the verification tester read, judged while it is typed. */
const props = defineProps<{ breaker: BreakerRecord }>()
const { job, site, asker, onCrew, settings, submitJob } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const kept = computed(() => job.value!.verified?.[props.breaker.id] ?? null)
const rule = computed(() => (kept.value && !open.value ? kept.value : loopRuleOf(settings.value.loopShare)))
const open = ref(false)
const blank = () => ({
  curve: 'B' as 'B' | 'C' | 'D' | 'other',
  amps: props.breaker.amps ? String(props.breaker.amps) : '',
  ...{ lookedUp: '', continuity: '', insulation: '', loop: '', atOne: '', atFive: '' },
  insulationVolts: 500 as 250 | 500,
  devicesIn: false,
  polarity: undefined as 'right' | 'wrong' | undefined,
  residual: 'none' as 'none' | (typeof residualKinds)[number],
  milliamps: 30 as (typeof residualCurrents)[number],
  button: undefined as 'yes' | 'no' | undefined,
  instrument: '',
  note: '',
})
const form = reactive(blank())
function begin() {
  const said = (value: number | null) => (value === null ? '' : String(value))
  const last = kept.value?.readings
  // The tester is the same as at the circuit before.
  const tester = Object.values(job.value!.verified ?? {}).at(-1)?.instrument ?? ''
  Object.assign(form, blank(), { instrument: kept.value?.instrument ?? tester })
  if (last) {
    const { residual, curve, amps, lookedUp, continuity, insulation, loop, ...rest } = last
    Object.assign(form, rest, { curve: curve ?? 'other', amps: String(amps), continuity: said(continuity), insulation: said(insulation) })
    Object.assign(form, {
      loop: said(loop),
      polarity: last.polarity ?? undefined,
      lookedUp: said(lookedUp),
      residual: residual?.kind ?? 'none',
      note: kept.value!.note,
    })
    if (residual)
      Object.assign(form, {
        ...{ milliamps: residual.milliamps, atOne: said(residual.atOne), atFive: said(residual.atFive) },
        button: residual.button === null ? undefined : residual.button ? 'yes' : 'no',
      })
  }
  open.value = true
}
/** Beyond what the tester can show is its largest value. */
const readingOf = (text: string): number | null | undefined => {
  if (text.trim() === '') return null
  const value = typedNumber(text.replace(/^\s*>/, ''))
  return Number.isFinite(value) && value >= 0 && value <= 100_000 ? value : undefined
}
const wrong = (text: string) => (readingOf(text) === undefined ? 'Write a number, like 0.45 or >999.' : undefined)
const readings = computed((): CircuitReadings | null => {
  const amps = typedNumber(form.amps)
  const lookedUp = form.curve === 'other' ? readingOf(form.lookedUp) : null
  const [continuity, insulation, loop, atOne, atFive] = [form.continuity, form.insulation, form.loop, form.atOne, form.atFive].map(
    readingOf,
  )
  if (
    !(amps >= 1 && amps <= 125) ||
    [continuity, insulation, loop, lookedUp].includes(undefined) ||
    (lookedUp ?? 1) < 1 ||
    (lookedUp ?? 1) > 5000
  )
    return null
  if (form.residual !== 'none' && (atOne === undefined || atFive === undefined)) return null
  return {
    curve: form.curve === 'other' ? null : form.curve,
    lookedUp: lookedUp!,
    ...{ amps, continuity: continuity!, insulation: insulation!, loop: loop! },
    ...{ insulationVolts: form.insulationVolts, devicesIn: form.devicesIn, polarity: form.polarity ?? null },
    residual:
      form.residual === 'none'
        ? null
        : {
            ...{ kind: form.residual, milliamps: form.milliamps, atOne: atOne!, atFive: atFive! },
            button: form.button === undefined ? null : form.button === 'yes',
          },
  }
})
const lines = computed((): VerificationLine[] =>
  open.value
    ? readings.value
      ? judgeCircuit(readings.value, rule.value)
      : []
    : kept.value
      ? judgeCircuit(kept.value.readings, rule.value)
      : [],
)
const passes = computed(() => lines.value.length > 0 && circuitPasses(lines.value))
const words = { pass: 'passes', fail: 'does not pass', missing: 'not measured' }
const colours = { pass: 'good', fail: 'bad', missing: 'soft' }
async function store() {
  const stored = await run(() =>
    submitJob({
      type: 'verifyCircuit',
      breakerId: props.breaker.id,
      readings: readings.value!,
      instrument: form.instrument,
      note: form.note,
    }),
  )
  if (stored) open.value = false
}
const mayVerify = computed(() => onCrew.value && asker.value.licensed)
const items = <T extends string | number>(list: readonly (readonly [T, string])[]) => list.map(([value, label]) => ({ value, label }))
</script>

<template>
  <section class="ruled stack" :aria-label="t(breakerName(site!, breaker))">
    <div class="row wrap">
      <b class="grow">{{ t(breakerName(site!, breaker)) }}{{ breaker.amps ? `, ${breaker.amps} A` : '' }}</b>
      <b v-if="kept && !open" :class="kept.passed ? 'good' : 'bad'">{{ kept.passed ? 'passes' : 'does not pass' }}</b>
      <span v-else-if="!open" class="soft">not measured</span>
      <UButton v-if="mayVerify && !open" @click="begin">{{ kept ? 'Measured again' : 'Readings' }}</UButton>
    </div>
    <p v-if="kept && !open" class="small soft">{{ kept.name }}, {{ kept.instrument }}{{ kept.note ? `: ${kept.note}` : '' }}</p>
    <form v-if="open" class="stack" @submit.prevent="store">
      <p class="note small">
        {{
          t(
            'Dead first, in a circuit that is proven dead: continuity, insulation, polarity. Then with power: loop and residual device. 500 V hurts electronics: take devices off, or join line and neutral and test with 250 V. Local rules and the licensed person decide.',
          )
        }}
      </p>
      <div class="fields">
        <UFormField :label="t('{Breaker}')"
          ><USelect
            v-model="form.curve"
            :items="items([...curves.map((one) => [one, `curve ${one}`] as const), ['other', 'fuse or other'] as const])"
            class="w-full"
        /></UFormField>
        <UFormField label="Rated, A"><UInput v-model="form.amps" inputmode="decimal" /></UFormField>
        <UFormField v-if="form.curve === 'other'" label="Trips in time at, A" :error="wrong(form.lookedUp)"
          ><UInput v-model="form.lookedUp" inputmode="decimal"
        /></UFormField>
        <UFormField label="Continuity, Ω" :error="wrong(form.continuity)"
          ><UInput v-model="form.continuity" inputmode="decimal"
        /></UFormField>
        <UFormField label="Insulation, MΩ" :error="wrong(form.insulation)"
          ><UInput v-model="form.insulation" inputmode="decimal"
        /></UFormField>
        <UFormField label="Tested with"
          ><USelect
            v-model="form.insulationVolts"
            :items="
              items([
                [500, '500 V'],
                [250, '250 V'],
              ])
            "
            class="w-full"
        /></UFormField>
        <UFormField label="Polarity"
          ><USelect
            v-model="form.polarity"
            :items="
              items([
                ['right', 'right'],
                ['wrong', 'wrong'],
              ])
            "
            placeholder="not looked at"
            class="w-full"
        /></UFormField>
        <UFormField label="Loop, Ω" :error="wrong(form.loop)"><UInput v-model="form.loop" inputmode="decimal" /></UFormField>
        <UFormField label="Residual device"
          ><USelect
            v-model="form.residual"
            :items="
              items([
                ['none', 'none on it'],
                ['general', 'general'],
                ['delayed', 'delayed (S)'],
              ])
            "
            class="w-full"
        /></UFormField>
        <template v-if="form.residual !== 'none'">
          <UFormField label="Rated, mA"
            ><USelect v-model="form.milliamps" :items="items(residualCurrents.map((one) => [one, `${one} mA`] as const))" class="w-full"
          /></UFormField>
          <UFormField :label="`Trips at ${form.milliamps} mA, ms`" :error="wrong(form.atOne)"
            ><UInput v-model="form.atOne" inputmode="decimal"
          /></UFormField>
          <UFormField :label="`Trips at ${5 * form.milliamps} mA, ms`" :error="wrong(form.atFive)"
            ><UInput v-model="form.atFive" inputmode="decimal"
          /></UFormField>
          <UFormField label="Its test button"
            ><USelect
              v-model="form.button"
              :items="
                items([
                  ['yes', 'trips it'],
                  ['no', 'does nothing'],
                ])
              "
              placeholder="not pressed"
              class="w-full"
          /></UFormField>
        </template>
      </div>
      <UCheckbox v-model="form.devicesIn" label="Devices stayed on the circuit" />
      <UFormField label="Tester and its serial"><UInput v-model="form.instrument" maxlength="80" class="w-full" /></UFormField>
      <UFormField label="Note"><UInput v-model="form.note" maxlength="500" class="w-full" /></UFormField>
    </form>
    <ul v-if="lines.length" class="small">
      <li v-for="line in lines" :key="line.id" class="list-row judged">
        <span
          >{{ line.text }}<br /><span class="soft">{{ t(line.why) }}</span></span
        >
        <span class="mono">{{ line.read || '–' }}</span><span class="mono soft">{{ line.limit }}</span
        ><b :class="colours[line.result]">{{ words[line.result] }}</b>
      </li>
    </ul>
    <div v-if="open" class="row wrap">
      <UButton variant="solid" :loading="busy" :disabled="!readings || form.instrument.trim().length < 2" @click="store"
        >Store: {{ passes ? 'it passes' : 'it does not pass yet' }}</UButton
      >
      <UButton variant="link" @click="open = false">Cancel</UButton>
    </div>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px;
  align-items: start;
}
.judged {
  grid-template-columns: minmax(0, 1fr) 76px 96px 96px;
}
@media (max-width: 760px) {
  .judged {
    grid-template-columns: minmax(0, 1fr) auto auto;
  }
  .judged > :first-child {
    grid-column: 1 / -1;
  }
}
</style>
