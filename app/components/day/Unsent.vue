<script setup lang="ts">
/** A customer who was to hear something has not heard it: the office telephones, or corrects the number. */
const session = useSession()
const { now } = useNow()
const { answer } = useList('GET /api/messages', () => ({ query: { branchId: session.branch?.id, state: 'failed' as const } }), ['messages'])
/** Older ones are of no use to anybody. */
const freshMs = 24 * 3_600_000
const unsent = computed(() => (answer.value?.messages ?? []).filter(({ madeAt }) => now.value - Date.parse(madeAt) < freshMs))
</script>

<template>
  <span v-if="unsent.length" class="warn">
    {{ counted(unsent.length, 'message was', 'messages were') }} not sent:
    {{ [...new Set(unsent.map(({ customer }) => customer))].join(', ') }} {{ unsent.length === 1 ? 'has' : 'have' }} not heard from us.
    <NuxtLink to="/messages" class="underline">To the messages</NuxtLink>
  </span>
</template>
