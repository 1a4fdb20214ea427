<script setup lang="ts">
/** One line that is always true: live, without network since, or catching up. A tap shows what waits. */
const feed = useFeed()
const session = useSession()
const outbox = useOutbox()
const open = ref(false)
const region = computed(() => session.region)
const since = computed(() =>
  feed.lostSince === null ? '' : clockTime(new Date(feed.lostSince + session.clockOffset).toISOString(), region.value),
)
const waiting = computed(() => (outbox.pending.length ? ` with ${outbox.pending.length} pending` : ''))
const word = computed(() => {
  if (outbox.stuck.length) return `${outbox.stuck.length} refused`
  if (feed.status === 'live') return outbox.pending.length ? `catching up, ${outbox.pending.length} left` : 'live'
  if (feed.lostSince === null) return `connecting${waiting.value}`
  return `offline since ${since.value}${waiting.value}`
})
const calm = computed(() => feed.status === 'live' && outbox.entries.length === 0)
</script>

<template>
  <button
    type="button"
    class="sync mono small"
    :class="calm ? 'soft' : outbox.stuck.length ? 'bad' : 'warn'"
    data-testid="sync"
    @click="open = true"
  >
    <i :class="calm ? 'on' : 'off'" aria-hidden="true" /><span role="status">{{ word }}</span>
  </button>
  <LazyCommonOutbox v-if="open" @close="open = false" />
</template>

<style scoped>
.sync {
  display: inline-flex;
  align-items: center;
  gap: 7px;
  min-height: 44px;
  padding: 0 6px;
  background: none;
  border: 0;
  text-align: right;
  line-height: 1.15;
}
i {
  width: 14px;
  height: 5px;
  background: currentColor;
  flex: none;
}
i.off {
  background: none;
  border-left: 5px solid currentColor;
  border-right: 5px solid currentColor;
}
</style>
