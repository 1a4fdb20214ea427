<script setup lang="ts">
import { homeLetterOf } from '../../../core/dispatch/promise'
import type { KeptHomePage, MessageLine } from '../../../core/protocol'

/** Sends the household the link to its page: a text or a mail that is read before it goes. */
const props = defineProps<{
  jobId: string
  page: KeptHomePage
  to: { customer: string; phone: string; email: string }
  company: string
  telephone: string
  sent: MessageLine[]
}>()
const emit = defineEmits<{ sent: [] }>()
const { region } = injectJobRecord()
const ways = computed(() => [
  ...(props.to.phone ? [{ value: 'sms' as const, label: `Text to ${props.to.phone}` }] : []),
  ...(props.to.email ? [{ value: 'mail' as const, label: `Mail to ${props.to.email}` }] : []),
])
const channel = ref(ways.value[0]?.value ?? 'sms')
const drafted = computed(() =>
  homeLetterOf({
    company: props.company,
    telephone: props.telephone,
    link: new URL(props.page.link, window.location.origin).href,
    hasPin: props.page.hasPin,
  }),
)
const body = ref(drafted.value)
watch(drafted, (text) => (body.value = text))
const said = ({ channel, recipient, madeAt, state, answer }: MessageLine) =>
  `${channel === 'sms' ? 'Text' : 'Mail'} to ${recipient}, ${dayAndTime(madeAt, region.value)}: ${messageStates[state].toLowerCase()}${answer && state === 'failed' ? `, ${answer}` : ''}`
/** One letter is one message, however often it is sent. */
let asking = newId()
const { busy, problem, give } = useGiving()
async function send() {
  const letter = { id: asking, channel: channel.value, body: body.value }
  if (!(await give(() => api('POST /api/jobs/:id/home-page/send', { params: { id: props.jobId }, body: letter })))) return
  asking = newId()
  emit('sent')
}
</script>

<template>
  <div class="stack" role="group" aria-label="Send the link">
    <p v-for="one in sent" :key="one.id" class="small" :class="one.state === 'failed' ? 'warn' : 'soft'">
      {{ said(one) }}
    </p>
    <p v-if="!ways.length" class="small soft">No telephone number and no mailbox of {{ to.customer }} is on record: copy the link.</p>
    <form v-else class="stack" @submit.prevent="send">
      <CommonToggles spoken="How it is sent" :items="ways" :chosen="channel" @choose="channel = $event" />
      <UTextarea v-model="body" :rows="4" autoresize :maxrows="12" aria-label="What they are written" name="home-letter" class="w-full" />
      <UButton type="submit" icon="i-lucide-send" :loading="busy" class="self-start">Send it</UButton>
    </form>
    <CommonProblem :problem="problem" />
  </div>
</template>
