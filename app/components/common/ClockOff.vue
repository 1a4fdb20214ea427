<script setup lang="ts">
/** What is recorded here is dated by this device: a clock that is wrong is said. */
const session = useSession()
const [minute, day] = [60_000, 86_400_000]
/** More than this is no delay on the way, ms. */
const noticeable = 10 * minute
const off = computed(() => Math.abs(session.clockOffset))
const words = computed(() => {
  const { clockOffset } = session
  const how = off.value > 2 * day ? counted(Math.round(off.value / day), 'day') : minutesWords(Math.round(off.value / minute))
  return `The clock of this device is ${how} ${clockOffset < 0 ? 'ahead' : 'behind'}.`
})
const so = computed(() =>
  off.value > day ? 'Set it. Until then what you record is dated by the server.' : 'Set it: what you record is dated by it.',
)
</script>

<template>
  <aside v-if="off > noticeable" class="page-bar" aria-label="Clock of this device">
    <b>{{ words }}</b> {{ so }}
  </aside>
</template>
