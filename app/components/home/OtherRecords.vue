<script setup lang="ts">
/** The same address on record twice: until somebody says that it is another home, both records hold each other. */
const { page, record } = defineProps<{ page: JobPageOf; record: { load: () => Promise<unknown> } }>()
const { t } = useTrade()
type JobPageOf = NonNullable<ReturnType<typeof injectJobRecord>['page']['value']>
const session = useSession()
const maySay = computed(() => session.isOffice)
const busy = ref(false)
const problem = ref<string | null>(null)
async function say(otherId: string, said: 'same' | 'other') {
  busy.value = true
  const answer = await api('POST /api/sites/:id/link', { params: { id: page.job.siteId }, body: { otherId, said } })
  problem.value = answer.ok ? null : answer.problem.message
  if (answer.ok) await record.load()
  busy.value = false
}
</script>

<template>
  <div v-for="other in page.site.otherRecords" :key="other.id" class="note amber mx-4 mt-2 stack" data-testid="other-record">
    <p v-if="other.said === 'same'">
      <b>This home is on record twice, also as {{ other.name }}.</b>
      {{ t('Both are one set of {breakers}: nothing is closed by one while tags hang or boxes are open in the other.') }}
    </p>
    <p v-else>
      <b>{{ other.name }} has the same address, {{ other.address }}.</b> Until somebody confirms that it is another home, nothing is closed
      here while tags hang or boxes are open there.
    </p>
    <div v-if="maySay" class="row wrap">
      <UButton v-if="other.said !== 'same'" size="sm" :loading="busy" @click="say(other.id, 'same')">It is this home</UButton>
      <UButton size="sm" :loading="busy" @click="say(other.id, 'other')">It is another home</UButton>
    </div>
    <p v-if="problem" role="alert">{{ problem }}</p>
  </div>
</template>
