<script setup lang="ts">
/** Said to everybody after a backup was put back: the record is older than the homes are. */
const session = useSession()
const { t } = useTrade()
</script>

<template>
  <aside v-if="session.restored" class="page-bar" aria-label="Backup put back">
    <b>The record was put back from a backup of {{ dayAndTime(session.restored.from, session.region) }}.</b>
    What was recorded between then and {{ dayAndTime(session.restored.at, session.region) }} is missing, tags and proofs too.
    {{
      t('Before anybody closes a {breaker} or opens a box: look at the {panel}, ask everybody who was in that home, and record it again.')
    }}
  </aside>
</template>
