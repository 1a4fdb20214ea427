<script setup lang="ts">
/** What a lead knows of backups without asking whoever keeps the server. */
const session = useSession()
</script>

<template>
  <section v-if="session.backup" aria-label="Backup" class="max-w-2xl">
    <h2 class="kicker">Backup</h2>
    <p v-if="!session.backup.daily" class="soft">
      The program makes no backup by itself. Whoever keeps the server switches it on; the guide to operations says how.
    </p>
    <p v-else-if="session.backup.madeAt">
      One is made each day. The newest:
      <b :class="session.backup.late ? 'bad' : 'good'">{{ dayAndTime(session.backup.madeAt, session.region) }}</b>.
    </p>
    <p v-else>One is made each day; there is <b class="warn">none yet</b>.</p>
  </section>
</template>
