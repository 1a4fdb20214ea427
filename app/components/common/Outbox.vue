<script setup lang="ts">
const emit = defineEmits<{ close: [] }>()
const { t } = useTrade()
const outbox = useOutbox()
const session = useSession()
const feed = useFeed()
const open = ref(true)
watch(open, (isOpen) => {
  if (!isOpen) emit('close')
})
const region = computed(() => session.region)
/** Others’ work on this device: how many entries, of whom. */
const others = ref<{ who: string; count: number }[]>([])
onMounted(async () => {
  void outbox.ensureLoaded()
  others.value = [...(await waitingHere())].flatMap(([personId, count]) =>
    personId === session.viewer?.personId ? [] : [{ who: session.person(personId)?.name ?? 'somebody else', count }],
  )
})
const words = { pending: 'waits', refused: 'refused', blocked: 'waits for a refused entry' }
</script>

<template>
  <USlideover
    v-model:open="open"
    title="On this device"
    description="What you entered without network is sent in order, once each, when there is a connection."
  >
    <template #body>
      <div class="stack">
        <p v-if="feed.status !== 'live'" class="note amber">
          <b>Without network nobody gets a permit to close, and no tag counts until the server has it.</b> The stricter rule for touching
          applies.
        </p>
        <p v-if="outbox.unread" class="note amber">
          What waits here could not be read just now. It is kept: open this again in a moment, with a connection.
        </p>
        <p v-else-if="!outbox.entries.length">Everything has been sent.</p>
        <div v-for="entry in outbox.entries" :key="entry.key" class="entry" :class="entry.state" data-testid="kept-entry">
          <p>
            <b>{{ t(entry.label) }}</b>
            <span class="soft small"
              >{{ entry.where }} · {{ clockTime(new Date(entry.keptAt).toISOString(), region) }} · {{ words[entry.state] }}</span
            >
          </p>
          <template v-if="entry.refusal">
            <p class="small">{{ t(entry.refusal.reasons.join(' ')) }}</p>
            <p v-if="entry.refusal.toYes.length" class="small soft">{{ t(entry.refusal.toYes.join(' ')) }}</p>
            <div class="row wrap">
              <UButton v-if="entry.state === 'refused' && entry.refusal.code !== 'sealLost'" @click="outbox.retry(entry)"
                >Try again</UButton
              >
              <UButton color="error" variant="link" @click="outbox.drop(entry)">Dismiss</UButton>
            </div>
          </template>
        </div>
        <UButton v-if="outbox.pending.length" :loading="outbox.sending" :disabled="feed.status !== 'live'" @click="outbox.flush()"
          >Send now</UButton
        >
        <p v-for="{ who, count } in others" :key="who" class="note" data-testid="others-wait">
          {{
            `${counted(count, 'entry', 'entries')} of ${who} ${count === 1 ? 'waits' : 'wait'} here${canSeal() ? ', sealed' : ''}: sent when they log in on this device.`
          }}
        </p>
      </div>
    </template>
  </USlideover>
</template>

<style scoped>
.entry {
  border-left: 4px solid var(--line);
  padding: 6px 0 6px 12px;
}
.entry.refused,
.entry.blocked {
  border-color: var(--live);
}
</style>
