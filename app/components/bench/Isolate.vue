<script setup lang="ts">
import { breakerName, holds, inPanelOrder, nextPowerStep, panelNameOf, type BoxState } from '../../../core/site'

/** Open what feeds the box, hang the tag: one breaker after the other. */
const props = defineProps<{ box: BoxState }>()
const { job, site, asker, vantage, offline, submitSite } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const { busy, refusal, run } = useAction()
const step = computed(() => nextPowerStep(site.value!, props.box.id, asker.value, vantage.value))
const breaker = computed(() => (step.value.breakerId ? site.value!.breakers[step.value.breakerId] : null))
const { lock, hanging } = useOwnLock(
  () => site.value,
  () => step.value.breakerId,
)
const measure = ref('')
const feedsOpen = ref(false)
const picked = ref<string[]>([...props.box.breakerIds])
const basis = ref('')
const unknown = ref(props.box.unknownFeed)
const breakers = computed(() =>
  Object.values(site.value!.breakers)
    .filter((candidate) => candidate.role !== 'main')
    .sort(inPanelOrder),
)
const toggle = (id: string) => (picked.value = toggled(picked.value, id))
async function saveFeeds() {
  if (
    await run(() =>
      submitSite({ type: 'setFeeds', boxId: props.box.id, breakerIds: picked.value, unknownFeed: unknown.value, basis: basis.value }),
    )
  )
    feedsOpen.value = false
}
/** Where there is one panel there is one main. */
const theMain = computed(() => (breaker.value?.role === 'main' && !panelNameOf(site.value!, breaker.value) ? t('the {main}') : null))
const asked = computed(() => Object.values(site.value!.asks).some((ask) => ask.kind === 'open' && ask.breakerId === breaker.value?.id))
const askOpen = () => run(() => submitSite({ type: 'askOpen', askId: newId(), breakerId: breaker.value!.id, boxId: props.box.id }))
const rehang = () =>
  run(() => {
    const tag = Object.values(site.value!.tags).find(
      (one) => one.breakerId === breaker.value!.id && one.personId === session.viewer?.personId && !one.company && !holds(one),
    )
    return submitSite({ type: 'rehangTag', tagId: tag?.id ?? '', cause: hadHappened.value.trim() })
  })
const hang = () => run(() => submitSite(hanging(measure.value)))
const hadHappened = ref('')
const defeated = computed(() =>
  Object.values(site.value!.tags).some(
    (one) => one.breakerId === breaker.value?.id && one.personId === session.viewer?.personId && one.defeated,
  ),
)
// A look with the power on: qualified, a mate or a contact told.
const looking = ref(false)
const lookIn = (warnedIds: string[]) => run(() => submitSite({ type: 'lookIn', boxId: props.box.id, warnedIds }))
const warning = computed(() => breaker.value?.offLimits ?? null)
</script>

<template>
  <div class="stack">
    <p class="next-title">{{ t(step.title) }}</p>
    <p>{{ t(step.why) }}</p>
    <p v-if="warning" class="note red"><b>Do not open:</b> {{ warning }}</p>
    <template v-if="step.kind === 'open' && breaker">
      <p class="soft small">Switch the light on first. If it goes off, that is evidence, not proof.</p>
      <JobAct :loading="busy" @click="run(() => submitSite({ type: 'observeBreaker', breakerId: breaker!.id, state: 'open', how: 'did' }))"
        >I opened {{ theMain ?? breakerName(site!, breaker) }}</JobAct
      >
    </template>
    <template v-else-if="step.kind === 'tag' && breaker">
      <UFormField label="Your lock"><UInput v-model="lock" placeholder="BA red 2" autocomplete="off" /></UFormField>
      <UFormField v-if="!lock.trim()" label="No lock fits? What else keeps it open"
        ><UInput v-model="measure" autocomplete="off"
      /></UFormField>
      <JobAct :loading="busy" :disabled="!lock.trim() && !measure.trim()" @click="hang"
        >Hang my tag on {{ theMain ?? markOf(site!, breaker.id) }}</JobAct
      >
    </template>
    <template v-else-if="step.kind === 'rehang' && breaker">
      <UFormField v-if="defeated" label="What happened to your lock"
        ><UInput v-model="hadHappened" placeholder="the customer had wanted light" autocomplete="off"
      /></UFormField>
      <JobAct :loading="busy" :disabled="defeated && hadHappened.trim().length < 3" @click="rehang"
        >My lock hangs again on {{ theMain ?? markOf(site!, breaker.id) }}</JobAct
      >
    </template>
    <template v-else-if="step.kind === 'plate'">
      <JobAct :loading="busy" @click="run(() => submitSite({ type: 'openBox', boxId: box.id }))">The plate is off</JobAct>
    </template>
    <UButton v-if="step.kind === 'open' && breaker && !asked" variant="link" class="self-start" :disabled="offline" @click="askOpen"
      >{{ t('Ask whoever is at the {panel} to open') }} {{ theMain ?? markOf(site!, breaker.id) }}</UButton
    >
    <p v-else-if="step.kind === 'open' && asked" class="note hot">{{ t('Asked. Whoever is at the {panel} sees it.') }}</p>
    <CommonRefusal :refusal="refusal" />
    <template v-if="box.closure === 'looking'">
      <p class="note hot"><b>The plate is off with the power on.</b> Look. Touch nothing.</p>
      <UButton :to="`/jobs/${job?.jobId}/wiring/${box.id}`" block>Read it live at the wiring bench</UButton>
      <UButton variant="outline" block :loading="busy" @click="run(() => submitSite({ type: 'closeBox', boxId: box.id }))"
        >The plate is on again</UButton
      >
    </template>
    <UButton v-else-if="box.closure === 'closed' && asker.licensed" variant="link" class="self-start" @click="looking = !looking"
      >Only look in, power on</UButton
    >
    <div v-if="looking && box.closure === 'closed'" class="note stack">
      <p>
        Plate off, touch nothing, everything in there is live. With the old switch still connected, the live readings of the wiring bench
        can be taken now, so the power goes off only once.
      </p>
      <BenchWarn act="I take the plate off and look" :busy="busy" @go="lookIn" />
    </div>
    <UButton variant="link" class="self-start" @click="feedsOpen = !feedsOpen">Another feed, or two</UButton>
    <form v-if="feedsOpen" class="stack note" @submit.prevent="saveFeeds">
      <p>{{ t('Which {breakers} feed this box, as far as you know now?') }}</p>
      <div class="row wrap">
        <UCheckbox
          v-for="candidate in breakers"
          :key="candidate.id"
          :model-value="picked.includes(candidate.id)"
          :label="`${breakerName(site!, candidate)} ${candidate.labelAsFound}`"
          @update:model-value="toggle(candidate.id)"
        />
      </div>
      <UCheckbox v-model="unknown" label="There may be another, unknown feed" />
      <UFormField label="How do you know"><UInput v-model="basis" placeholder="went dark when 9 was opened" /></UFormField>
      <UButton type="submit" :loading="busy" :disabled="basis.trim().length < 3">Record the feeds</UButton>
    </form>
  </div>
</template>
