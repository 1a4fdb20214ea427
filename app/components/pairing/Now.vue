<script setup lang="ts">
import type { SignalEntry } from '../../../core/commission'
import type { Observation, PairingStep } from '../../../core/commission/pairing'
import { mostMinutes, mostTries, patienceMinutes, placeInGroup, type Strip } from '../../../core/job'

/** The device that is to be joined now: its gesture, the sign to expect, two minutes of patience, and what to do where it fails. */
const props = defineProps<{ strip: Strip; now: number; name: string; where: string }>()
const { job, jobId, asker, onCrew, submitJob } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const unit = computed(() => props.strip.unit)
const model = computed(() => unit.value.model)
const unitId = computed(() => unit.value.id)
const looking = ref(false)
const joining = ref(false)
watch([unitId, () => props.strip.state, () => props.strip.joining.history.length], () => {
  looking.value = false
  joining.value = false
})
/** Of devices that switch one light together, the one that carries it comes first. */
const group = computed(() => placeInGroup(job.value!, unit.value))
const signOf = (means: string) => model.value.signs.find((one) => one.means === means)?.sign ?? ''
const open = computed(() => props.strip.joining.open)
const waited = computed(() => (open.value ? props.now - Date.parse(open.value.at) : 0))
const patienceMs = patienceMinutes * 60_000
const wrong = computed(() => {
  const last = props.strip.joining.history.at(-1)
  return !open.value && last !== undefined && 'seen' in last
})
const begin = () => run(() => submitJob({ type: 'beginPairing', unitId: unitId.value }))
const seen = (what: Observation) => run(() => submitJob({ type: 'seeSign', unitId: unitId.value, seen: what }))
const tried = (step: PairingStep) => run(() => submitJob({ type: 'tryPairingStep', unitId: unitId.value, step }))
const park = () => run(() => submitJob({ type: 'parkUnit', unitId: unitId.value }))
const joined = (network: string, signal: SignalEntry) =>
  run(() => submitJob({ type: 'recordPairing', unitId: unitId.value, result: 'joined', network, signal, note: '' }))
</script>

<template>
  <article class="now stack" :aria-label="`Now: ${name}`" data-testid="pair-now">
    <header>
      <h2 class="name">{{ name }}</h2>
      <p class="soft">
        {{ where }} · {{ model.maker }} {{ model.name }} · <span class="mono">{{ unit.serial }}</span>
      </p>
    </header>
    <p v-if="group?.is === 'primary'" class="small">
      Primary: it carries the light. {{ listed(group.others.map((one) => nameOfUnit(job!, one))) }} after it, set as secondary.
    </p>
    <p v-else-if="group" class="small" :class="{ warn: group.primary.pairing?.result !== 'joined' }">
      Secondary: {{ nameOfUnit(job!, group.primary) }} carries the light{{
        group.primary.pairing?.result === 'joined' ? '' : ', and is paired first'
      }}.
    </p>
    <PairingBurn :window="strip.window" :now="now" tall />
    <template v-if="open">
      <p v-if="waited < patienceMs" class="patience" role="timer">
        Give it two minutes: <b class="mono">{{ leftWords(patienceMs - waited) }}</b>
        <span class="soft"
          ><template v-if="signOf('joining')"> · pairing: {{ signOf('joining') }}</template
          ><template v-if="signOf('joined')"> · paired: {{ signOf('joined') }}</template></span
        >
      </p>
      <p v-else class="patience warn" role="status">Two minutes are over. Paired after all, or something else?</p>
      <p v-if="open.personId !== asker.personId" class="soft small">{{ open.initials }} saw it wait.</p>
    </template>
    <template v-else-if="!wrong && strip.window.is !== 'off'">
      <ol class="list-decimal ps-5 steps">
        <li v-for="line in model.pairingSteps" :key="line">{{ t(line) }}</li>
      </ol>
      <p v-if="signOf('waiting') || model.firstIndicator">
        It waits when it shows: <b>{{ signOf('waiting') || model.firstIndicator }}</b>
      </p>
    </template>
    <p v-if="!onCrew" class="soft">Whoever is on its visit pairs it.</p>
    <p v-else-if="strip.window.is === 'off' && !open" class="note">
      {{
        t(
          'By the record its {breaker} is open. Does it show anything all the same, treat the box as live, and say on the {panel}’s page how its {breaker} was found.',
        )
      }}
      <NuxtLink :to="`/jobs/${jobId}/panel`" class="underline">{{ t('To the {panel}') }}</NuxtLink>
    </p>
    <template v-else>
      <p v-if="strip.enough" class="note amber">
        {{ strip.joining.tries >= mostTries ? `${mostTries} tries` : `${mostMinutes} minutes` }} are enough for now: finish the room, and
        come back to it. <UButton :loading="busy" class="ml-2" @click="park">Leave it for later</UButton>
      </p>
      <template v-if="open">
        <PairingJoined v-if="joining" :unit="unit" :busy="busy" @joined="joined" />
        <PairingSomethingElse v-else-if="looking" :unit="unit" trying :busy="busy" @seen="seen" />
        <div v-if="!joining || looking" class="row wrap two">
          <UButton
            size="xl"
            :color="looking ? 'neutral' : 'success'"
            :variant="looking ? 'outline' : 'solid'"
            @click="((joining = true), (looking = false))"
            >It is paired</UButton
          ><UButton v-if="!looking" size="xl" @click="looking = true">Something else</UButton>
        </div>
        <UButton v-else variant="link" class="self-start p-0" @click="((joining = false), (looking = true))">It is not</UButton>
      </template>
      <template v-else-if="wrong && !looking">
        <PairingAdvice :strip="strip" :busy="busy" @tried="tried" @again="looking = true" />
      </template>
      <template v-else>
        <PairingSomethingElse v-if="looking" :unit="unit" :trying="false" :busy="busy" @seen="seen" />
        <div class="row wrap two">
          <UButton size="xl" variant="solid" :loading="busy" @click="begin">Saw it</UButton
          ><UButton v-if="!looking" size="xl" @click="looking = true">Saw something else</UButton
          ><UButton v-else variant="link" @click="looking = false">not</UButton>
        </div>
      </template>
      <LinkAsk :unit="unit" :doings="['join']" />
      <PairingCode :unit="unit" />
      <UButton v-if="!strip.enough && strip.state !== 'joined'" variant="link" class="self-start p-0" :loading="busy" @click="park"
        >Leave it for later</UButton
      >
      <CommonRefusal :refusal="refusal" />
    </template>
  </article>
</template>

<style scoped>
.now {
  border: 1.5px solid var(--ink);
  border-top: 6px solid var(--copper-bar);
  background: var(--sheet);
  padding: 18px 20px;
}
.name {
  font-size: 28px;
  font-weight: 700;
}
.steps {
  font-size: 17px;
}
@media (max-width: 1000px) {
  .now {
    padding: 10px 14px;
    gap: 8px;
  }
  .name {
    font-size: 22px;
  }
  .steps {
    font-size: 15px;
  }
}
.patience {
  font-size: 18px;
}
.two > * {
  min-width: 140px;
  justify-content: center;
}
</style>
