<script setup lang="ts">
import { logOutMark } from '~/stores/session'

const session = useSession()
useNuxtApp().hooks.hookOnce('page:finish', () => firstPageShown())
// A cellar without signal must find them on the device.
if (!isCustomersPage(window.location.pathname)) void firstPageStands.then(() => loadRooms()).catch(() => undefined)
/** A part of a page that could not be shown leaves a hole: that is said, and never just white. */
const failed = ref(false)
useNuxtApp().hook('vue:error', (error) => {
  console.error(error)
  failed.value = true
})
useNuxtApp().hook('page:start', () => void (failed.value = false))
const loadAgain = () => window.location.reload()
const feed = useFeed()
const alarms = useAlarms()
const outbox = useOutbox()
usePapers()

watch(
  () => session.viewer?.personId,
  (personId) => {
    if (personId) feed.open()
    else feed.close()
    if (!isCustomersPage(window.location.pathname)) void firstPageStands.then(() => outbox.ensureLoaded()).then(() => outbox.flush())
  },
  { immediate: true },
)
feed.listen((change) => {
  if (session.viewer) for (const event of change.events) alarms.consider(event, session.viewer.personId)
  if (change.topic === 'people' || change.topic === 'catalogue' || change.topic === 'instruments') void session.load(change.topic)
  if (change.topic === 'catalogue') void session.load('parts')
  if (change.topic === 'settings') void session.load('branches')
  if (change.topic === 'sessions') void session.probe()
  if (change.topic === 'erased' && change.streamId) void forgetJobs([change.streamId])
})
// Back in touch: who is logged in is asked again if this device started on its own, then what waits goes out.
watch(
  () => feed.status,
  async (status) => {
    if (status !== 'live') return
    if (session.fromDevice) await session.check()
    if (session.viewer) {
      void alarms.load()
      void firstPageStands.then(() => forgetErased())
    }
    await outbox.flush()
  },
)
// Logged out in another window of this browser: what stands here is theirs no more.
useEventListener(window, 'storage', ({ key, newValue }) => {
  if (key === logOutMark && newValue && session.viewer) window.location.assign('/login')
})
const again = setInterval(() => {
  if (feed.status === 'lost' && navigator.onLine && session.viewer && !session.expired) void session.probe()
  if (feed.status === 'live' && outbox.pending.length > 0) void outbox.flush()
}, 5000)
onScopeDispose(() => clearInterval(again))
</script>

<template>
  <UApp :toaster="null" :tooltip="{ delayDuration: 300 }">
    <p v-if="failed" class="note red row wrap m-3" role="alert">
      <span class="grow"
        ><b>Something on this page could not be shown.</b> What was stored, or waits to be sent, is kept. Do not wire or switch by what is
        missing.</span
      >
      <UButton @click="loadAgain">Load the page again</UButton>
    </p>
    <NuxtLayout><NuxtPage /></NuxtLayout>
    <CommonAlarms />
    <LazyCommonLoginAgain v-if="session.expired" />
  </UApp>
</template>
