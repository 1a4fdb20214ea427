<script setup lang="ts">
import type { UnitLine } from '../../core/protocol'
import { causeWords, remedyWords } from '../../core/job'

const session = useSession()
const { t } = useTrade()
const opening = ref(false)
const search = ref('')
const units = ref<UnitLine[]>([])
const unit = ref<UnitLine | null>(null)
const form = reactive({
  what: '',
  since: todayIn(session.region),
  offlineInApp: false,
  wallSwitchFlipped: false,
  routerChanged: false,
  breakerTripped: false,
})
const { busy, refusal, run } = useAction()
const draft = computed({
  get: () => ({ form: { ...form }, unit: unit.value }),
  set: (value) => {
    Object.assign(form, value.form)
    unit.value = value.unit
    opening.value = true
  },
})
const { foundAt, forget, discard } = useDraft('callback', draft)

const { answer, loaded, problem } = useList('GET /api/callbacks', () => ({}), ['job'])
const list = computed(() => answer.value?.callbacks ?? [])
watchDebounced(
  search,
  async () => {
    const answer = await api('GET /api/units', { query: { search: search.value } })
    if (answer.ok) units.value = answer.value.units
  },
  { debounce: 200 },
)
const open = computed(() => list.value.filter((callback) => callback.status !== 'closed'))
const sentence = computed(() => {
  if (!loaded.value) return 'Looking for callbacks …'
  if (!open.value.length) return 'No callback is open.'
  const unplaced = open.value.filter((callback) => !callback.visitAt).length
  return `${counted(open.value.length, 'callback is', 'callbacks are')} open${unplaced ? `, ${unplaced} without a visit` : ''}.`
})
async function save() {
  const callbackId = newId()
  if (await run(() => submitJobCommand(unit.value!.jobId, { type: 'openCallback', callbackId, unitId: unit.value!.id, ...form }))) {
    forget()
    await navigateTo(`/jobs/${unit.value!.jobId}/callback/${callbackId}`)
  }
}
</script>

<template>
  <div class="page">
    <div class="row wrap mb-4">
      <h1 class="sentence grow">{{ sentence }}</h1>
      <UButton icon="i-lucide-plus" variant="solid" :aria-expanded="opening" @click="opening = !opening">New callback</UButton>
    </div>
    <CommonProblem :problem="problem" />
    <section v-if="opening" class="stack note mb-6 max-w-2xl">
      <CommonDraft :at="foundAt" @discard="discard" />
      <UFormField v-if="!unit" label="Which device? Customer, street, room, name or serial" name="unit"
        ><UInput v-model="search" icon="i-lucide-search" autofocus name="unit"
      /></UFormField>
      <button v-for="line in unit ? [] : units" :key="line.id" type="button" class="list-row pick" @click="unit = line">
        <b>{{ line.name || 'no name' }}</b><span class="soft"
          >{{ line.place }} · {{ line.siteName }}, {{ line.address }} · {{ line.customer }} · {{ line.model }} ·
          <span class="mono">{{ line.serial }}</span></span
        >
      </button>
      <p v-if="search && !unit && !units.length" class="soft">No installed device fits. Try the street, the customer, or fewer letters.</p>
      <form v-if="unit" class="stack" @submit.prevent="save">
        <p>
          <b>{{ unit.name || unit.serial }}</b>, {{ unit.siteName }} <UButton variant="link" @click="unit = null">another</UButton>
        </p>
        <UFormField label="What is wrong, in the customer’s words" name="what"
          ><UTextarea v-model="form.what" name="what" :rows="2" autofocus
        /></UFormField>
        <UFormField label="Since" name="since"
          ><CommonDay v-model="form.since" label="Since" :region="session.region" name="since"
        /></UFormField>
        <div class="row wrap">
          <UCheckbox v-model="form.offlineInApp" label="offline in the app" /><UCheckbox
            v-model="form.wallSwitchFlipped"
            label="wall switch was flipped"
          /><UCheckbox v-model="form.routerChanged" label="router changed" /><UCheckbox
            v-model="form.breakerTripped"
            :label="t('{breaker} tripped')"
          />
        </div>
        <p v-if="form.routerChanged" class="note small">
          A new router is the likeliest cause: ask for the old network name and password first.
        </p>
        <p v-if="form.breakerTripped" class="note red small">
          {{ t('Ask the customer to leave the {breaker} off until the crew has seen it.') }}
        </p>
        <CommonRefusal :refusal="refusal" />
        <UButton type="submit" variant="solid" size="xl" :loading="busy" :disabled="form.what.trim().length < 5 || !form.since"
          >Open the callback</UButton
        >
      </form>
    </section>
    <NuxtLink
      v-for="callback in list"
      :key="callback.id"
      :to="`/jobs/${callback.jobId}/callback/${callback.id}`"
      class="list-row line"
      :class="{ closed: callback.status === 'closed' }"
    >
      <span
        ><b>{{ callback.siteName }}</b> <span class="soft">{{ callback.unitName || callback.serial }}</span><br />{{ callback.what }}</span
      >
      <span class="small"
        ><b :class="callback.status === 'open' ? 'bad' : callback.status === 'diagnosed' ? 'warn' : 'good'">{{ callback.status }}</b
        ><br /><span class="soft">{{
          callback.causeKind ? `${t(causeWords[callback.causeKind as 'wiring'])}; ${remedyWords[callback.remedy as 'replace']}` : ''
        }}</span></span
      >
      <span class="small soft"
        >opened {{ dayAndTime(String(callback.openedAt), session.regionAt(callback.branchId)) }}<br />{{
          callback.visitAt
            ? `visit ${dayAndTime(callback.visitAt, session.regionAt(callback.branchId))}`
            : callback.status === 'closed'
              ? ''
              : 'no visit yet'
        }}</span
      >
    </NuxtLink>
    <p v-if="loaded && !list.length" class="note">
      A callback belongs to an installed device. Hand over a job first; then it can be called back.
    </p>
  </div>
</template>

<style scoped>
.line {
  grid-template-columns: minmax(0, 1fr) 210px 190px;
}
.closed {
  background: var(--mute);
}
.pick {
  width: 100%;
  text-align: left;
  min-height: 44px;
}
@media (max-width: 760px) {
  .line {
    grid-template-columns: 1fr 1fr;
  }
  .line > :first-child {
    grid-column: 1 / -1;
  }
}
</style>
