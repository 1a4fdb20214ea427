<script setup lang="ts">
import { DateTime } from 'luxon'
import { letterOf, purposeWords, windowInstead, type LetterPurpose } from '../../../core/dispatch/promise'
import { clockAt } from '../../../core/units/clock-at'
import type { PlannedVisit } from '../../../core/protocol'
import type { Region } from '~/utils/time'

/** What the customer of a visit is told: a draft to be read, changed and sent with one tap. */
const props = defineProps<{
  visitId: string
  purposes: LetterPurpose[]
  region: Region
  /** When the crew is expected, and by when on four of five days. */
  expectedAt?: string | null
  fourAt?: string | null
  offers?: { id: string; visits: PlannedVisit[] }[]
}>()
const emit = defineEmits<{ sent: [] }>()
const { answer: contact, problem: unread } = useList('GET /api/visits/:id/contact', () => ({ params: { id: props.visitId } }), [
  'messages',
  'job',
  'jobs',
])
const purpose = ref(props.purposes[0]!)
watch(
  () => props.purposes,
  (list) => {
    if (!list.includes(purpose.value)) purpose.value = list[0]!
  },
)
const channels = computed(() => [
  ...(contact.value?.phone ? [{ value: 'sms' as const, label: `text to ${contact.value.phone}` }] : []),
  ...(contact.value?.email ? [{ value: 'mail' as const, label: `mail to ${contact.value.email}` }] : []),
])
const picked = ref<'sms' | 'mail' | null>(null)
const channel = computed(() => channels.value.find(({ value }) => value === picked.value)?.value ?? channels.value[0]?.value ?? null)

/** About when they come, by the clock of the branch. */
const clockOfInstant = (iso: string) => DateTime.fromISO(iso, { zone: props.region.zone }).toFormat('HH:mm')
const about = ref('')
const aboutOwn = ref(false)
watch(
  () => props.expectedAt,
  (iso) => {
    if (!aboutOwn.value) about.value = iso ? clockOfInstant(iso) : ''
  },
  { immediate: true },
)
const expected = computed(() => {
  if (!about.value) return null
  if (!aboutOwn.value && props.expectedAt) return props.expectedAt
  const day = DateTime.fromISO(contact.value?.windowFrom ?? '', { zone: props.region.zone })
  return day.isValid ? clockAt(day.startOf('day'), about.value).toUTC().toISO() : null
})
const window = computed(() =>
  purpose.value === 'late' && expected.value
    ? windowInstead(expected.value, aboutOwn.value ? expected.value : (props.fourAt ?? expected.value))
    : null,
)
const draft = computed(() => {
  if (!contact.value) return ''
  const { company, kind, crew, telephone, link, windowFrom, windowTo } = contact.value
  const facts = { company, kind, crew, telephone, region: props.region, link: `${location.origin}${link}` }
  return letterOf(purpose.value, {
    ...facts,
    windowFrom: window.value?.windowFrom ?? windowFrom,
    windowTo: window.value?.windowTo ?? windowTo,
    expectedAt: purpose.value === 'late' || purpose.value === 'onTheWay' ? expected.value : null,
  })
})
const text = ref('')
const own = ref(false)
/** What the text promises, and not what would be promised a minute later. */
const promised = shallowRef<typeof window.value>(null)
function draftAnew() {
  own.value = false
  text.value = draft.value
  promised.value = window.value
}
watch(draft, () => !own.value && draftAnew(), { immediate: true })
watch(purpose, draftAnew)
/** Somebody changed the visit, or the expected time did, while it was written. */
const stale = computed(() => own.value && draft.value !== drafted.value)
const drafted = ref('')
watch(own, (now) => now && (drafted.value = draft.value))

const { busy, problem, give } = useGiving()
const params = computed(() => ({ id: props.visitId }))
let id = newId()
async function send() {
  if (!channel.value) return
  const body = { id, purpose: purpose.value, channel: channel.value, body: text.value, window: promised.value, offers: props.offers ?? [] }
  if (!(await give(() => api('POST /api/visits/:id/messages', { params: params.value, body })))) return
  id = newId()
  own.value = false
  emit('sent')
}
// Nobody has noted how they are reached.
const reach = reactive({ phone: '', email: '' })
const keepReach = () => give(() => api('PATCH /api/visits/:id/contact', { params: params.value, body: { ...reach } }))
</script>

<template>
  <div class="stack">
    <CommonProblem :problem="unread" />
    <template v-if="contact">
      <form v-if="!channels.length" class="stack" @submit.prevent="keepReach">
        <p class="note amber">No telephone number or mailbox of {{ contact.customer }} is on record.</p>
        <UFormField label="Telephone"><UInput v-model="reach.phone" type="tel" autocomplete="off" /></UFormField>
        <UFormField label="Mailbox"><UInput v-model="reach.email" type="email" autocomplete="off" /></UFormField>
        <UButton type="submit" :disabled="!reach.phone.trim() && !reach.email.trim()">Keep it</UButton>
      </form>
      <template v-else>
        <CommonToggles
          v-if="purposes.length > 1"
          spoken="What it is about"
          :items="purposes.map((value) => ({ value, label: purposeWords[value] }))"
          :chosen="purpose"
          @choose="purpose = $event"
        />
        <UFormField v-if="purpose === 'late'" label="We are there about">
          <CommonTime v-model="about" label="We are there about" :region="region" @entered="aboutOwn = true" />
        </UFormField>
        <p v-if="promised" class="small">
          Promises <b>{{ clockTime(promised.windowFrom, region) }}–{{ clockTime(promised.windowTo, region) }}</b> instead of
          {{ clockTime(contact.windowFrom, region) }}–{{ clockTime(contact.windowTo, region) }}.
        </p>
        <UFormField :label="`To ${contact.customer}`">
          <UTextarea v-model="text" :rows="6" :maxlength="1000" class="w-full" @update:model-value="own = true" />
        </UFormField>
        <p v-if="stale" class="note amber">
          Something changed while you wrote: read the times again.
          <UButton variant="link" class="p-0" @click="draftAnew">Draft it anew</UButton>
        </p>
        <CommonToggles
          v-if="channels.length > 1"
          spoken="How it goes out"
          :items="channels"
          :chosen="channel ?? undefined"
          @choose="picked = $event"
        />
        <CommonProblem :problem="problem" />
        <UButton
          variant="solid"
          icon="i-lucide-send"
          :loading="busy"
          :disabled="text.trim().length < 10 || (purpose === 'late' && !promised) || (purpose === 'windows' && !offers?.length)"
          @click="send"
          >Send {{ channels.length > 1 ? '' : channels[0]!.label }}</UButton
        >
      </template>
      <p v-for="message in contact.messages" :key="message.id" class="small" :class="message.state === 'failed' ? 'warn' : 'soft'">
        <b>{{ messageStates[message.state] }}</b> {{ dayAndTime(message.sentAt ?? message.madeAt, region) }},
        {{ purposeWords[message.purpose] }}<template v-if="message.state === 'failed'">: {{ message.answer }}</template>
      </p>
    </template>
    <p v-else class="soft">Looking up the customer …</p>
  </div>
</template>
