<script setup lang="ts">
const session = useSession()
const feed = useFeed()
const alarms = useAlarms()

watch(
  () => session.viewer?.personId,
  (personId) => (personId ? feed.open() : feed.close()),
  { immediate: true },
)
feed.listen((change) => {
  if (session.viewer) for (const event of change.events) alarms.consider(event, session.viewer.personId)
  if (change.topic === 'people' || change.topic === 'catalogue' || change.topic === 'instruments') void session.load(change.topic)
  if (change.topic === 'settings') void session.load('branches')
})
</script>

<template>
  <UApp :toaster="null" :tooltip="{ delayDuration: 300 }">
    <NuxtLayout><NuxtPage /></NuxtLayout>
    <CommonAlarms />
  </UApp>
</template>
