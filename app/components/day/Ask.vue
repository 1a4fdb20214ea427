<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { awayWords } from '../../../core/dispatch/away'
import type { DayVisit, RequestLine } from '../../../core/protocol'
import type { Region } from '~/utils/time'

/** What one asks of the dispatcher, what became of it, and one’s visits in one’s own calendar. */
const props = defineProps<{ visits: DayVisit[]; region: Region }>()
const session = useSession()
const { answer } = useList('GET /api/requests', () => ({ query: {} }), ['requests'])
const mine = computed(() => (answer.value?.requests ?? []).filter(({ personId }) => personId === session.viewer?.personId))
const asking = ref<'away' | 'swap' | null>(null)
const { busy, problem, give } = useGiving()

const planned = computed(() => props.visits.filter(({ status }) => status === 'planned'))
const swap = reactive({ visitId: '', otherId: '', note: '' })
const mates = computed(() =>
  session.people.filter(
    ({ id, active, branchId, role }) =>
      active && role !== 'dispatcher' && branchId === session.viewer?.branchId && id !== session.viewer?.personId,
  ),
)
let id = newId()
async function askSwap() {
  const body = { id, kind: 'swap' as const, visitId: swap.visitId, otherId: swap.otherId || null, note: swap.note }
  if (!(await give(() => api('POST /api/requests', { body })))) return
  id = newId()
  asking.value = null
}
const withdraw = (one: RequestLine) => give(() => api('POST /api/requests/:id/withdraw', { params: { id: one.id }, body: {} }))
const words = (one: RequestLine) =>
  one.kind === 'swap'
    ? `Hand over ${one.siteName}, ${dayAndTime(one.startsAt, props.region)}`
    : `${sentenceOf(awayWords[one.kind])}, ${dayAndTime(one.startsAt, props.region)} to ${dayAndTime(one.endsAt, props.region)}`
const states: Record<RequestLine['state'], string> = { asked: 'asked', approved: 'approved', declined: 'declined', withdrawn: 'taken back' }

// One’s visits in a calendar program, and time off from one.
const link = ref<string | null>(null)
async function showLink(renew = false) {
  const given = await give(() => (renew ? api('POST /api/me/calendar', { body: {} }) : api('GET /api/me/calendar', {})))
  if (given) link.value = `${location.origin}${given.link}`
}
const { copy, copied } = useClipboard()
const read = ref('')
async function readFile(event: Event) {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (!text) return
  const given = await give(() => api('POST /api/people/:id/away', { params: { id: session.viewer!.personId }, body: { text } }))
  read.value = given ? `${given.added} asked for, ${given.changed} changed, ${given.withdrawn} taken back, ${given.left} as before.` : ''
}
</script>

<template>
  <details class="ask">
    <summary>Time off, handing a visit over, your calendar</summary>
    <div class="stack pt-2">
      <div class="row wrap">
        <UButton :aria-expanded="asking === 'away'" @click="asking = asking === 'away' ? null : 'away'">Time off, or ill</UButton>
        <UButton :disabled="!planned.length" :aria-expanded="asking === 'swap'" @click="asking = asking === 'swap' ? null : 'swap'"
          >Hand a visit over</UButton
        >
      </div>
      <CommonProblem :problem="problem" />
      <DayAwayForm v-if="asking === 'away'" :region="region" @done="asking = null" />
      <form v-if="asking === 'swap'" class="stack" @submit.prevent="askSwap">
        <UFormField label="Which visit"
          ><USelect
            v-model="swap.visitId"
            :items="planned.map(({ id: value, siteName, startsAt }) => ({ value, label: `${siteName}, ${dayAndTime(startsAt, region)}` }))"
            placeholder="Choose"
            class="w-full"
        /></UFormField>
        <UFormField label="Who could take it, if you know"
          ><USelect
            v-model="swap.otherId"
            :items="mates.map(({ id: value, name: label }) => ({ value, label }))"
            placeholder="The dispatcher chooses"
            class="w-full"
        /></UFormField>
        <UFormField label="Why"><UInput v-model="swap.note" maxlength="500" /></UFormField>
        <UButton type="submit" variant="solid" :loading="busy" :disabled="!swap.visitId">Ask for it</UButton>
      </form>
      <div v-for="one in mine" :key="one.id" class="row">
        <span class="grow small"
          ><b>{{ states[one.state] }}</b> · {{ words(one) }}<template v-if="one.answer">: {{ one.answer }}</template></span
        >
        <UButton
          v-if="one.state === 'asked' || (one.state === 'approved' && one.kind !== 'swap')"
          :loading="busy"
          :aria-label="`Take back: ${words(one)}`"
          @click="withdraw(one)"
          >Take back</UButton
        >
      </div>
      <h3 class="kicker mt-2">Your calendar</h3>
      <p class="soft small">
        Your visits in your own calendar program, as a link that it reads by itself. Whoever has the link reads your visits: keep it to
        yourself.
      </p>
      <template v-if="link">
        <p class="mono small link" data-testid="calendar-link">{{ link }}</p>
        <div class="row wrap">
          <UButton icon="i-lucide-copy" @click="copy(link)">{{ copied ? 'Copied' : 'Copy' }}</UButton>
          <UButton @click="showLink(true)">New link; the old one ends</UButton>
        </div>
      </template>
      <UButton v-else icon="i-lucide-calendar" class="self-start" @click="showLink()">Show the link</UButton>
      <label class="small"
        >Time off from a calendar file (.ics); what it was about is not kept
        <input type="file" accept=".ics,text/calendar" class="pick-file" @change="readFile" />
      </label>
      <p v-if="read" role="status" class="small">{{ read }}</p>
    </div>
  </details>
</template>

<style scoped>
.ask {
  margin-top: 24px;
}
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  cursor: pointer;
  text-decoration: underline;
}
.link {
  overflow-wrap: anywhere;
}
</style>
