<script setup lang="ts">
import { guideJob } from '../../../core/job'

/** What is next on this job for whoever looks, on the pages that are no box: it is done here, or is one tap away. */
const { page, job, site, asker, vantage, submitJob } = injectJobRecord()
const { t } = useTrade()
const route = useRoute()
const { busy, refusal, run } = useAction()
const guide = computed(() => (job.value && site.value ? guideJob(job.value, site.value, asker.value, vantage.value) : null))
/** Where it is done, and what the way there is called; null: it is done here. */
const way = computed(() => {
  const base = `/jobs/${page.value?.job.id}`
  const to = (path: string, label: string) => (`${base}/${path}` === route.path ? null : { to: `${base}/${path}`, label })
  const now = guide.value
  switch (now?.kind) {
    case 'box':
      return to(`box/${now.boxId}`, `Go to ${site.value!.boxes[now.boxId]?.name}`)
    case 'callback':
      return to(`callback/${now.callbackId}`, 'To the callback')
    case 'tests':
      return to('tests', 'To the tests')
    case 'handover':
      return to('handover', 'To the handover')
    case 'survey':
      return to('survey', 'To the survey')
    case 'wait':
      return to('panel', t('To the {panel}'))
    default:
      return null
  }
})
const arrive = (visitId: string) => run(() => submitJob({ type: 'arrive', visitId }))
const after = computed(() => (guide.value?.kind === 'after' ? (site.value!.boxes[guide.value.boxId] ?? null) : null))
</script>

<template>
  <template v-if="guide">
    <BenchAfter v-if="after" :box="after" />
    <HomeTestNext v-else-if="guide.kind === 'tests' && !way" />
    <div v-else class="guide">
      <p>
        <b class="next-title">{{ t(guide.title) }}</b> <span class="soft">{{ t(guide.why) }}</span>
      </p>
      <UButton v-if="guide.kind === 'arrive'" variant="solid" size="xl" :loading="busy" @click="arrive(guide.visitId)"
        >I have arrived</UButton
      >
      <HomeEndVisit v-else-if="guide.kind === 'leave'" :visit-id="guide.visitId" />
      <UButton v-else-if="way" variant="solid" size="xl" :to="way.to">{{ way.label }}</UButton>
    </div>
    <CommonRefusal :refusal="refusal" />
  </template>
</template>

<style scoped>
.guide {
  display: flex;
  gap: 10px 20px;
  align-items: center;
  justify-content: space-between;
}
.guide > :last-child {
  flex: none;
}
@media (max-width: 900px) {
  .guide {
    display: grid;
    justify-content: stretch;
  }
}
</style>
