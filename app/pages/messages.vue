<script setup lang="ts">
import { DateTime } from 'luxon'
import { purposeWords } from '../../core/dispatch/promise'
import type { MessageLine } from '../../core/protocol'

const session = useSession()
const region = computed(() => session.region)
const { answer, loaded, problem } = useList('GET /api/messages', () => ({ query: { branchId: session.branch?.id } }), ['messages'])
const search = ref('')
const all = computed(() => answer.value?.messages ?? [])
const list = computed(() => {
  const words = search.value.trim().toLowerCase()
  return all.value.filter((one) => [one.customer, one.siteName, one.recipient, one.body].some((text) => text.toLowerCase().includes(words)))
})
const failed = computed(() => all.value.filter(({ state }) => state === 'failed'))
const sentence = computed(() => {
  if (!loaded.value) return 'Looking for messages …'
  if (!all.value.length) return 'Nothing was written to a customer yet.'
  if (failed.value.length)
    return `${counted(failed.value.length, 'message was', 'messages were')} not sent: ${[...new Set(failed.value.map(({ customer }) => customer))].slice(0, 3).join(', ')}.`
  const waiting = all.value.filter(({ state }) => state === 'waiting').length
  return waiting ? `${counted(waiting, 'message goes', 'messages go')} out now.` : 'Everything that was written went out.'
})
const shown = ref<string | null>(null)
const recipient = ref('')
const { busy, problem: again, give } = useGiving()
function open(message: MessageLine) {
  shown.value = shown.value === message.id ? null : message.id
  recipient.value = message.recipient
  again.value = null
}
// Everybody who is expected tomorrow, or on the day that is chosen.
const reminding = ref(DateTime.now().setZone(session.region.zone).plus({ days: 1 }).toISODate() ?? '')
const told = ref<{ reminded: number; already: number; unreachable: string[] } | null>(null)
const sent = ref('')
const { busy: looking, problem: unreminded, give: giveReminders } = useGiving()
async function remind(checkOnly: boolean) {
  if (!session.branch) return
  const body = { branchId: session.branch.id, date: reminding.value, checkOnly }
  const given = await giveReminders(() => api('POST /api/messages/reminders', { body }))
  if (!given) return
  told.value = checkOnly ? given : null
  sent.value = checkOnly ? '' : `${counted(given.reminded, 'customer is', 'customers are')} reminded.`
}
watch(reminding, () => (told.value = null))
const retry = (id: string) => give(() => api('POST /api/messages/:id/retry', { params: { id }, body: { recipient: recipient.value } }))
</script>

<template>
  <div class="page">
    <h1 class="sentence mb-2">{{ sentence }}</h1>
    <p class="soft mb-4">What was written to customers from visits, newest first. Texts and mail go out through the company’s service.</p>
    <CommonProblem :problem="problem" />
    <UInput
      v-if="all.length > 6"
      v-model="search"
      icon="i-lucide-search"
      placeholder="Find"
      aria-label="Find a message"
      class="max-w-64 mb-3"
    />
    <div class="row wrap mb-3">
      <span>Remind everybody who is expected on</span>
      <span class="w-48"><CommonDay v-model="reminding" label="Remind of visits on" :region="region" name="reminding" /></span>
      <UButton :loading="looking" :disabled="!reminding" @click="remind(true)">Look who</UButton>
    </div>
    <CommonProblem :problem="unreminded" />
    <div v-if="told" class="note mb-3">
      <p>
        {{ counted(told.reminded, 'customer', 'customers') }} would be reminded, {{ told.already }} were already.
        <template v-if="told.unreachable.length">Nobody can write to: {{ told.unreachable.join(', ') }}.</template>
      </p>
      <UButton v-if="told.reminded" variant="solid" class="mt-2" :loading="looking" @click="remind(false)">Send the reminders</UButton>
    </div>
    <p v-if="sent" role="status" class="mb-3">{{ sent }}</p>
    <ul class="list">
      <li v-for="message in list" :key="message.id" class="message" :class="{ failed: message.state === 'failed' }">
        <button type="button" class="line" :aria-expanded="shown === message.id" @click="open(message)">
          <span class="mono when">{{ dayAndTime(message.madeAt, region) }}</span>
          <span class="grow"
            ><b>{{ message.customer }}</b
            >, {{ message.siteName }} · {{ purposeWords[message.purpose] }}<br /><span class="soft small"
              >{{ message.channel === 'sms' ? 'text' : 'mail' }} to {{ message.recipient }}, by {{ message.madeBy }}</span
            ></span
          >
          <span :class="message.state === 'failed' ? 'warn' : 'soft'">{{ messageStates[message.state].toLowerCase() }}</span>
        </button>
        <div v-if="shown === message.id" class="stack body">
          <p v-if="message.channel === 'mail'">
            <b>{{ message.subject }}</b>
          </p>
          <p class="letter">{{ message.body }}</p>
          <p v-if="message.answer" class="small" :class="message.state === 'failed' ? 'warn' : 'soft'">
            The service said: {{ message.answer }}
          </p>
          <form v-if="message.state === 'failed'" class="row wrap" @submit.prevent="retry(message.id)">
            <UInput v-model="recipient" :aria-label="`Number or mailbox of ${message.customer}`" class="w-64" />
            <UButton type="submit" :loading="busy" :disabled="recipient.trim().length < 3">Send it again</UButton>
          </form>
          <CommonProblem :problem="again" />
          <UButton :to="`/jobs/${message.jobId}`" variant="link" class="p-0 self-start">To the job</UButton>
        </div>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.list {
  max-width: 900px;
}
.message {
  border-bottom: 1px solid var(--line);
}
.line {
  display: flex;
  gap: 14px;
  width: 100%;
  padding: 12px 4px;
  text-align: left;
  min-height: 56px;
  cursor: pointer;
}
.when {
  min-width: 110px;
}
.body {
  padding: 0 4px 14px;
  max-width: 640px;
}
.letter {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  border-left: 4px solid var(--line);
  padding-left: 12px;
}
.failed {
  border-left: 6px solid var(--copper);
  padding-left: 8px;
}
@media (max-width: 560px) {
  .line {
    flex-wrap: wrap;
    gap: 4px 12px;
  }
}
</style>
