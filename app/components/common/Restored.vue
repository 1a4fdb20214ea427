<script setup lang="ts">
/** Said where the record is older than the homes are: after a backup was put back, or where the server has lost what this window had heard of. */
const session = useSession()
const feed = useFeed()
const { t } = useTrade()
const look = computed(() =>
  t('Before anybody closes a {breaker} or opens a box: look at the {panel}, ask everybody who was in that home, and record it again.'),
)
</script>

<template>
  <aside v-if="session.restored" class="page-bar" aria-label="Backup put back">
    <b>The record was put back as of {{ dayAndTime(session.restored.from, session.region) }}.</b>
    What was recorded between then and {{ dayAndTime(session.restored.at, session.region) }} is missing, tags and proofs too.
    {{ look }}
  </aside>
  <aside v-else-if="feed.wentBack" class="page-bar" aria-label="Entries are missing">
    <b>Entries that were stored are missing since {{ clockTime(new Date(feed.wentBack).toISOString(), session.region) }}.</b>
    The server has fewer than this device had seen: tags and proofs may be among them. Tell the office. {{ look }}
    <UButton variant="link" class="p-0" @click="feed.wentBack = null">I have looked</UButton>
  </aside>
</template>
