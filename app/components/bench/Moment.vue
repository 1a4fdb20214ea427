<script setup lang="ts">
import { breakerName, canClose, canMeasure, isEnergised, type BoxState } from '../../../core/site'

/** Live readings are next: the breakers as they have to stand, everyone clear, and a mate told. One thing at a time. */
const props = defineProps<{
  box: BoxState
  /** Numbers of the breakers that have to be closed; the box's others open. */
  closed: string[]
}>()
const { site, asker, vantage, offline, submitSite } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const feeds = computed(() => props.box.breakerIds.flatMap((id) => site.value!.breakers[id] ?? []))
const isOn = (breaker: (typeof feeds.value)[number]) => isEnergised(site.value!, breaker)
const tooMany = computed(() => feeds.value.find((breaker) => isOn(breaker) && !props.closed.includes(breaker.number)))
const wanted = computed(() => feeds.value.find((breaker) => !isOn(breaker) && props.closed.includes(breaker.number)))
const ask = computed(() => Object.values(site.value!.asks).find((one) => one.kind === 'energise' && one.breakerId === wanted.value?.id))
/** One’s own permit that is out: it counts as live, and nobody knows yet how the breaker is. */
const permit = computed(() =>
  Object.values(site.value!.grants).find(
    (one) => one.personId === asker.value.personId && feeds.value.some(({ id }) => id === one.breakerId),
  ),
)
const measure = computed(() => canMeasure(site.value!, props.box.id, asker.value, vantage.value))
const mayClose = computed(() => (wanted.value ? canClose(site.value!, wanted.value.id, asker.value).yes : false))
const name = computed(() => (wanted.value ? breakerName(site.value!, wanted.value) : ''))

/** Whoever asks says with it that they are clear themselves. */
const askMates = () =>
  run(async () => {
    const askId = newId()
    const asked = await submitSite({ type: 'askEnergise', askId, breakerId: wanted.value!.id, boxId: props.box.id, purpose: 'identify' })
    return asked.ok ? submitSite({ type: 'confirmClear', askId }) : asked
  })
const leave = () => run(() => submitSite({ type: 'requestClose', grantId: newId(), breakerId: wanted.value!.id, clearanceId: null }))
const open = () => run(() => submitSite({ type: 'observeBreaker', breakerId: tooMany.value!.id, state: 'open', how: 'did' }))
const announce = (warnedIds: string[]) =>
  run(() => submitSite({ type: 'startMeasuring', measureId: newId(), boxId: props.box.id, warnedIds }))
</script>

<template>
  <div class="stack" data-testid="moment">
    <p v-if="permit" class="soft">Record the position of {{ breakerName(site!, site!.breakers[permit.breakerId]!) }}.</p>
    <template v-else-if="tooMany">
      <p class="next-title">Open {{ breakerName(site!, tooMany) }}</p>
      <p>These readings need {{ closed.length ? `only ${closed.join(' and ')} on` : t('every {breaker} off') }}.</p>
      <JobAct :loading="busy" @click="open">I opened {{ breakerName(site!, tooMany) }}</JobAct>
    </template>
    <template v-else-if="wanted && !ask">
      <p class="next-title">Power on {{ name }} for a moment</p>
      <template v-if="mayClose">
        <p>No tag hangs there and nobody works behind it.</p>
        <JobAct :loading="busy" :disabled="offline" @click="leave">Ask to close {{ name }}</JobAct>
      </template>
      <template v-else-if="asker.licensed">
        <p>
          Everyone with a tag there, or working behind it, must say clear. Their tags are suspended. Afterwards each of them hangs the tag
          again and proves again.
        </p>
        <JobAct :loading="busy" :disabled="offline" @click="askMates">My hands are out and ends are safe: ask the others</JobAct>
      </template>
      <p v-else>A licensed crew mate must ask for it and measure.</p>
    </template>
    <p v-else-if="wanted" class="soft">Next: {{ name }} closed, then the readings.</p>
    <template v-else-if="!measure.yes && ['notAnnounced', 'announcedTooLongAgo', 'nobodyWarned'].includes(measure.code)">
      <p class="next-title">Measure live</p>
      <p>Probes only, no fingers. A crew mate has been told. This does not permit touching.</p>
      <BenchWarn act="start live measurement" :busy="busy" @go="announce" />
    </template>
    <p v-else-if="!measure.yes" class="note amber">{{ t([...measure.reasons, ...measure.toYes].join(' ')) }}</p>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
