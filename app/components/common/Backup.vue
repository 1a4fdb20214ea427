<script setup lang="ts">
/** A backup that is missing is told to leads, on every page: nobody else looks. */
const session = useSession()
</script>

<template>
  <aside v-if="session.backup?.late" class="page-bar" aria-label="Backup missing">
    <b>{{
      session.backup.madeAt ? `The last backup was made ${dayAndTime(session.backup.madeAt, session.region)}.` : 'No backup was ever made.'
    }}</b>
    One is due each day: tell whoever keeps the server. Its log says what went wrong.
  </aside>
</template>
