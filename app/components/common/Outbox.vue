<script setup lang="ts">
const emit = defineEmits<{ close: [] }>()
const outbox = useOutbox()
const session = useSession()
const feed = useFeed()
const open = ref(true)
watch(open, (isOpen) => {
  if (!isOpen) emit('close')
})
const zone = computed(() => session.branch?.timezone ?? 'UTC')
const words = { pending: 'waits', refused: 'refused', blocked: 'waits for a refused one' }
</script>

<template>
  <USlideover
    v-model:open="open"
    title="On this device"
    description="What you entered without network goes out in order, once each, when there is a connection."
  >
    <template #body>
      <div class="stack">
        <p v-if="feed.status !== 'live'" class="note amber">
          <b>Without network nobody gives leave to close, and no tag counts before the server has it.</b> Touching follows the stricter
          rule.
        </p>
        <p v-if="!outbox.entries.length">Everything is with the server.</p>
        <div v-for="entry in outbox.entries" :key="entry.key" class="entry" :class="entry.state" data-testid="kept-entry">
          <p>
            <b>{{ entry.label }}</b>
            <span class="soft small"
              >{{ entry.where }} · {{ clockTime(new Date(entry.keptAt).toISOString(), zone) }} · {{ words[entry.state] }}</span
            >
          </p>
          <template v-if="entry.refusal">
            <p class="small">{{ entry.refusal.reasons.join(' ') }}</p>
            <p v-if="entry.refusal.toYes.length" class="small soft">{{ entry.refusal.toYes.join(' ') }}</p>
            <div class="row wrap">
              <UButton v-if="entry.state === 'refused'" @click="outbox.retry(entry)">Try again</UButton>
              <UButton color="error" variant="link" @click="outbox.drop(entry)">Dismiss</UButton>
            </div>
          </template>
        </div>
        <UButton v-if="outbox.pending.length" :loading="outbox.sending" :disabled="feed.status !== 'live'" @click="outbox.flush()"
          >Send now</UButton
        >
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
