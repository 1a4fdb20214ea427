<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
/** What the household keeps: a page of its home by a link, with the codes behind a PIN of its own, and the card for guests. */
const { page, region } = injectJobRecord()
const jobId = computed(() => page.value!.job.id)
const {
  answer: told,
  load,
  problem: unread,
} = useList('GET /api/jobs/:id/home-page', () => ({ params: { id: jobId.value } }), ['messages'])
const kept = computed(() => told.value?.page ?? null)
const { busy, problem, give } = useGiving()
const pin = ref('')
const months = ref(12)
const spans = [3, 12, 24].map((value) => ({ value, label: `${value} months` }))
/** One asking is one link, however often it is sent. */
let asking = newId()
async function make() {
  const body = { id: asking, months: months.value, pin: pin.value || null }
  const answer = await give(() => api('POST /api/jobs/:id/home-page', { params: { id: jobId.value }, body }))
  if (!answer) return
  await load()
  asking = newId()
  pin.value = ''
  making.value = false
}
async function end() {
  if (await give(() => api('POST /api/jobs/:id/home-page/end', { params: { id: jobId.value }, body: {} }))) await load()
}
const making = ref(false)
const sending = ref(false)
const address = computed(() => (kept.value ? new URL(kept.value.link, window.location.origin).href : ''))
const { copy, copied } = useClipboard({ legacy: true })
</script>

<template>
  <section class="stack" aria-label="What the household keeps">
    <h2 class="kicker">What the household keeps</h2>
    <div class="row wrap">
      <UButton :to="`/api/jobs/${jobId}/guest-card`" external data-paper target="_blank" icon="i-lucide-file-text"
        >Card for guests, PDF</UButton
      >
    </div>
    <template v-if="kept">
      <p class="small">
        A page of this home, to {{ dayWord(kept.until, region) }}; made by {{ kept.madeBy }}.
        {{ kept.openedAt ? `Opened last ${dayAndTime(kept.openedAt, region)}.` : 'Nobody has opened it yet.' }}
        {{
          kept.hasPin
            ? kept.codesReadAt
              ? `Codes shown ${counted(kept.codesRead, 'time')}, last ${dayAndTime(kept.codesReadAt, region)}.`
              : 'Codes were not asked for.'
            : 'It shows no codes.'
        }}
      </p>
      <PairingSquare :square="address" typed="" />
      <p class="small soft">Let them take it with their own telephone, or send them the link.</p>
      <HandoverSendHomePage
        v-if="sending"
        :job-id="jobId"
        :page="kept"
        :to="told!.to"
        :company="told!.company"
        :telephone="told!.telephone"
        :sent="told!.sent"
        @sent="load"
      />
      <div class="row wrap">
        <UButton v-if="!sending" icon="i-lucide-send" @click="sending = true">Send the link</UButton>
        <UButton icon="i-lucide-copy" @click="copy(address)">{{ copied ? 'Copied' : 'Copy the link' }}</UButton>
        <UButton :to="kept.link" external target="_blank" variant="link">Look at it</UButton>
        <UButton variant="link" :loading="busy" @click="making = !making">A new link</UButton>
        <UButton variant="link" :loading="busy" @click="end">Close it</UButton>
      </div>
    </template>
    <form v-if="told && (!kept || making)" class="stack" @submit.prevent="make">
      <p class="small soft">
        {{
          kept
            ? 'The link of before opens nothing any more.'
            : 'What is where, what to do when something is wrong, how one leaves the home: by a link, without an account.'
        }}
      </p>
      <UFormField
        label="Their own PIN, six digits and more"
        help="They type it, and tell nobody. Without one the page shows no setup codes."
        ><UInput v-model="pin" name="home-pin" type="password" inputmode="numeric" autocomplete="off" maxlength="12" class="w-48"
      /></UFormField>
      <CommonToggles spoken="How long the link works" :items="spans" :chosen="months" @choose="months = $event" />
      <UButton type="submit" :loading="busy" class="self-start">{{ kept ? 'Make the new link' : 'Make the page' }}</UButton>
    </form>
    <CommonProblem :problem="problem ?? unread" />
  </section>
</template>
