<script setup lang="ts">
import { awaitPaper, paperName, type PaperState } from '~/utils/paper'

/** A tab that waits for a paper: how many are before it, that it is being made, and then the paper itself. */
definePageMeta({ layout: 'plain' })
const asked = String(useRoute().query.of ?? '')
const name = paperName(asked)
/** Nothing but a paper of this program is opened from here. */
const address = name ? asked : null
useHead({ title: () => `${name ?? 'Paper'} · Circuitry` })
const state = ref<PaperState>({ is: 'asked' })
let line = new AbortController()
async function begin() {
  line.abort()
  line = new AbortController()
  if (!address) return
  await awaitPaper(address, line.signal, (now) => (state.value = now))
  if (state.value.is === 'made') window.location.replace(address)
}
const stopped = ref(false)
function stop() {
  line.abort()
  stopped.value = true
  // A tab that the program opened closes; one that somebody opened by hand stays, and says so.
  window.close()
}
function again() {
  stopped.value = false
  void begin()
}
onMounted(begin)
onBeforeUnmount(() => line.abort())
</script>

<template>
  <div>
    <p v-if="name" class="kicker">{{ name }}</p>
    <div aria-live="polite">
      <h1 v-if="!address" class="sentence">There is no such paper.</h1>
      <h1 v-else-if="stopped" class="sentence">It is not made. You can close this tab.</h1>
      <h1 v-else-if="state.is === 'waiting'" class="sentence">{{ counted(state.before, 'paper is', 'papers are') }} made before it.</h1>
      <h1 v-else-if="state.is === 'making'" class="sentence">It is being made …</h1>
      <h1 v-else-if="state.is === 'made'" class="sentence">It is made, and opens.</h1>
      <template v-else-if="state.is === 'failed'">
        <h1 class="sentence">It could not be made.</h1>
        <p class="mt-2">{{ state.message }}</p>
      </template>
      <h1 v-else class="sentence">What stands in it is put together …</h1>
    </div>
    <div v-if="address" class="row wrap mt-6">
      <UButton v-if="stopped || state.is === 'failed'" @click="again">Try again</UButton>
      <UButton v-else-if="state.is === 'made'" :to="address" external>Open it</UButton>
      <UButton v-else @click="stop">Do not make it</UButton>
    </div>
  </div>
</template>
