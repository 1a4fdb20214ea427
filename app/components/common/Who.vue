<script setup lang="ts">
const props = defineProps<{ personId: string }>()
const session = useSession()
const person = computed(() => session.person(props.personId))
</script>

<template>
  <span class="who" :title="person?.name ?? 'somebody who left'" :aria-label="person?.name ?? 'somebody who left'" role="img">{{
    person?.initials ?? '?'
  }}</span>
</template>
