<script setup lang="ts">
import { handoverChecklist, nextCheck } from '../../../core/job'
import { lowerFirst } from '../../../core/wiring/plan/other-location-words'

/** The next check of the functional tests, with its two answers. */
const { job, site, onCrew, submitJob } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const next = computed(() => nextCheck(job.value!, site.value!))
/** Every check is answered: what the handover list still wants of this page. */
const left = computed(() => handoverChecklist(job.value!, site.value!).find((item) => !item.done))
const failing = ref(false)
const note = ref('')
watch(next, () => {
  failing.value = false
  note.value = ''
})
const answer = (result: 'pass' | 'fail') =>
  run(() => submitJob({ type: 'testPoint', pointId: next.value!.point.id, checkId: next.value!.check.id, result, note: note.value }))
</script>

<template>
  <div v-if="next" class="test">
    <p>
      <b class="next-title">{{ next.point.name }}: {{ t(lowerFirst(next.check.what)) }}</b>
      <span class="soft"> {{ next.number }} of {{ next.of }}</span>
    </p>
    <form v-if="failing" class="row" @submit.prevent="answer('fail')">
      <UInput v-model="note" placeholder="What did you see instead?" aria-label="What did you see instead?" autofocus class="grow" />
      <UButton type="submit" color="error" variant="solid" size="xl" :loading="busy" :disabled="note.trim().length < 3">Store</UButton>
      <UButton variant="link" @click="failing = false">not</UButton>
    </form>
    <div v-else-if="onCrew" class="row answers">
      <UButton variant="solid" color="success" size="xl" :loading="busy" @click="answer('pass')">It does</UButton>
      <UButton color="error" size="xl" @click="failing = true">It does not</UButton>
    </div>
  </div>
  <p v-else-if="left">
    <b class="next-title">{{ t(left.text) }}</b> <span class="soft">{{ t(left.why) }}</span>
  </p>
  <CommonRefusal :refusal="refusal" />
</template>

<style scoped>
.test {
  display: flex;
  gap: 10px 20px;
  align-items: center;
  justify-content: space-between;
}
.answers > * {
  min-width: 110px;
  justify-content: center;
}
@media (max-width: 900px) {
  .test {
    display: grid;
  }
  .answers > * {
    flex: 1;
  }
}
</style>
