<script setup lang="ts">
import type { AlikeCallback } from '../../../core/protocol'
import type { Region } from '~/utils/time'

/** What this place, this home and this model were called back for before. */
const props = defineProps<{ jobId: string; callbackId: string; region: Region }>()
const { t } = useTrade()
const { answer } = useList(
  'GET /api/jobs/:id/callbacks/:callbackId/story',
  () => ({ params: { id: props.jobId, callbackId: props.callbackId } }),
  ['job'],
)
const groups = computed(() =>
  answer.value
    ? (
        [
          ['At this place', answer.value.place],
          ['In this home', answer.value.home],
          ['Of this model elsewhere', answer.value.model],
        ] as [string, AlikeCallback[]][]
      ).filter(([, list]) => list.length)
    : [],
)
const count = computed(() => groups.value.reduce((sum, [, list]) => sum + list.length, 0))
</script>

<template>
  <section v-if="answer && count" class="stack" aria-label="Before this">
    <p v-for="sentence in answer.says" :key="sentence" class="note amber">{{ t(sentence) }}</p>
    <details>
      <summary>{{ counted(count, 'callback', 'callbacks') }} before this that may belong together</summary>
      <div v-for="[title, list] in groups" :key="title">
        <h3 class="kicker mt-3">{{ title }}</h3>
        <NuxtLink v-for="one in list" :key="one.callbackId" :to="`/jobs/${one.jobId}/callback/${one.callbackId}`" class="list-row before">
          <span class="soft small">{{ dayWord(one.openedAt, region) }}</span><span
            ><b>{{ one.siteName }}</b> <span class="mono small">{{ one.serial }}</span><br />{{ one.what
            }}<template v-if="one.cause">
              <span class="soft">{{ t(one.cause) }}</span></template
            ></span
          >
        </NuxtLink>
      </div>
    </details>
  </section>
</template>

<style scoped>
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  text-decoration: underline;
}
.before {
  grid-template-columns: 96px minmax(0, 1fr);
}
</style>
