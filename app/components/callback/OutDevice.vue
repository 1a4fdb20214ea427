<script setup lang="ts">
import {
  answerWithinDays,
  clearings,
  clearingWords,
  daysAfter,
  fateWords,
  oldUnitFates,
  outcomesOf,
  returnOutcomeWords,
  type ReturnOutcome,
} from '../../../core/job'
import { currencyOf, moneyIn, typedCents } from '../../../core/money'
import { dateIn } from '../../../core/units/region'
import type { OutDeviceLine } from '../../../core/protocol'

/** A device that is out: where it goes, by when, and how that ended. */
const props = defineProps<{
  jobId: string
  branchId: string
  device: Pick<OutDeviceLine, 'serial' | 'goes' | 'stage' | 'dueOn' | 'reference' | 'outcome' | 'creditCents' | 'outAt'>
  mayFollow: boolean
  /** Pictures of its place, of which somebody may pick some for the maker. */
  photos?: { id: string; caption: string }[]
}>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const branch = computed(() => session.branchOf(props.branchId))
const region = computed(() => session.regionAt(props.branchId))
const today = computed(() => todayIn(region.value))
const late = computed(() => props.device.stage !== 'settled' && props.device.dueOn !== null && props.device.dueOn < today.value)
const day = (date: string) => dateIn(date, region.value.locale)
const state = computed(() => {
  const { stage, goes, dueOn, outcome, creditCents, reference } = props.device
  const number = reference ? `, number ${reference}` : ''
  if (stage === 'settled') {
    const currency = branch.value ? currencyOf(branch.value.settings.money, branch.value.schemeId) : null
    const credit = creditCents !== null && currency ? `, ${moneyIn(creditCents, currency, region.value.locale)}` : ''
    return `Settled: ${returnOutcomeWords[outcome ?? 'scrapped']}${credit}${number}.`
  }
  if (stage === 'sent') return `Sent${number}. An answer is due by ${day(dueOn!)}.`
  return `Here: ${fateWords[goes]}${number}. To be sent by ${day(dueOn!)}.`
})
const { busy, refusal, run } = useAction()
const open = ref<'waits' | 'sent' | 'settled' | null>(null)
const form = reactive({
  goes: 'return' as OutDeviceLine['goes'],
  dueOn: '',
  reference: '',
  cleared: undefined as (typeof clearings)[number] | undefined,
  outcome: undefined as ReturnOutcome | undefined,
  credit: '',
  note: '',
})
function begin(stage: 'waits' | 'sent' | 'settled') {
  const { goes, reference, dueOn } = props.device
  Object.assign(form, { goes, reference, cleared: undefined, outcome: undefined, credit: '', note: '' })
  form.dueOn = stage === 'sent' ? daysAfter(today.value, answerWithinDays) : (dueOn ?? daysAfter(today.value, 14))
  open.value = open.value === stage ? null : stage
}
const creditCents = computed(() => (form.credit.trim() === '' ? null : typedCents(form.credit)))
const creditWrong = computed(() => form.credit.trim() !== '' && creditCents.value === null)
const outcomes = computed(() => outcomesOf(form.goes).map((value) => ({ label: returnOutcomeWords[value], value })))
const fates = oldUnitFates.map((value) => ({ label: fateWords[value], value }))
const cleared = clearings.map((value) => ({ label: clearingWords[value], value }))
const ready = computed(
  () =>
    (open.value === 'settled' ? form.outcome !== undefined && !creditWrong.value : form.dueOn !== '') &&
    (open.value !== 'sent' || form.goes === 'loan' || form.cleared !== undefined),
)
const store = async () => {
  const stage = form.goes === 'scrap' && open.value === 'waits' ? 'settled' : open.value
  const stored = await run(() =>
    submitJobCommand(props.jobId, {
      ...{ type: 'followReturn', serial: props.device.serial, goes: form.goes, stage, reference: form.reference, note: form.note },
      dueOn: stage === 'settled' ? null : form.dueOn,
      cleared: form.cleared ?? null,
      outcome: stage !== 'settled' ? null : form.goes === 'scrap' ? 'scrapped' : (form.outcome ?? null),
      creditCents: form.outcome === 'credited' ? creditCents.value : null,
    }),
  )
  if (!stored) return
  open.value = null
  emit('changed')
}
const picked = ref<string[]>([])
const claim = computed(() => {
  const query = new URLSearchParams({ serial: props.device.serial, ...(picked.value.length ? { photos: picked.value.join(',') } : {}) })
  return `/api/jobs/${props.jobId}/claim?${query}`
})
</script>

<template>
  <div class="stack">
    <p :class="{ bad: late }">{{ state }}<template v-if="late"> That day is over.</template></p>
    <div v-if="mayFollow" class="row wrap">
      <template v-if="device.stage !== 'settled'">
        <UButton v-if="device.stage === 'waits' && device.goes !== 'loan'" icon="i-lucide-package-check" @click="begin('sent')"
          >It was sent</UButton
        >
        <UButton icon="i-lucide-check" @click="begin('settled')">It is settled</UButton>
      </template>
      <UButton variant="link" @click="begin('waits')">{{
        device.stage === 'settled' ? 'It is not settled' : 'Where it goes, and when'
      }}</UButton>
      <UButton
        v-if="device.goes !== 'loan' && device.goes !== 'scrap'"
        :to="claim"
        external
        data-paper
        target="_blank"
        icon="i-lucide-file-text"
        :aria-label="`Claim for ${device.serial} (PDF)`"
        >Claim (PDF)</UButton
      >
    </div>
    <fieldset v-if="mayFollow && photos?.length && device.goes !== 'loan' && device.goes !== 'scrap'" class="stack">
      <legend class="small soft">
        Pictures that go to the maker: none, unless you tick them. Look whether somebody’s home is to be seen.
      </legend>
      <label v-for="photo in photos" :key="photo.id" class="pick">
        <input v-model="picked" type="checkbox" :value="photo.id" :disabled="picked.length >= 6 && !picked.includes(photo.id)" />
        {{ photo.caption }}
      </label>
    </fieldset>
    <form v-if="open" class="stack" @submit.prevent="store">
      <UFormField v-if="open === 'waits'" label="Where it goes"><USelect v-model="form.goes" :items="fates" class="w-full" /></UFormField>
      <UFormField v-if="open === 'sent' && form.goes !== 'loan'" label="Before it left"
        ><USelect v-model="form.cleared" :items="cleared" placeholder="Choose" class="w-full"
      /></UFormField>
      <p v-if="open === 'sent' && form.goes !== 'loan'" class="small soft">
        A device that was not reset takes the home’s network with it, and stays in somebody’s app.
      </p>
      <UFormField v-if="open === 'settled'" label="How it ended"
        ><USelect v-model="form.outcome" :items="outcomes" placeholder="Choose" class="w-full"
      /></UFormField>
      <UFormField
        v-if="open === 'settled' && form.outcome === 'credited'"
        label="Money back; empty: not said"
        :error="creditWrong ? 'Write an amount, like 34.50.' : undefined"
        ><UInput v-model="form.credit" inputmode="decimal"
      /></UFormField>
      <UFormField v-if="open !== 'settled' && form.goes !== 'scrap'" :label="open === 'sent' ? 'An answer is due by' : 'To be sent by'"
        ><UInput v-model="form.dueOn" type="date"
      /></UFormField>
      <UFormField label="Their number for it"><UInput v-model="form.reference" maxlength="80" class="w-full" /></UFormField>
      <UFormField label="Note"><UInput v-model="form.note" maxlength="500" class="w-full" /></UFormField>
      <div class="row wrap">
        <UButton type="submit" variant="solid" :loading="busy" :disabled="!ready">Store it</UButton>
        <UButton variant="link" @click="open = null">Cancel</UButton>
      </div>
    </form>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>

<style scoped>
.pick {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
}
.pick input {
  width: 22px;
  height: 22px;
}
</style>
