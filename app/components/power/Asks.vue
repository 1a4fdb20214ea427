<script setup lang="ts">
import { energiseWords } from '../../../core/site'
import { againstPermit, breakerName, canEnergise, notYetClear, type PowerRequest } from '../../../core/site'

/** What crew mates ask of each other here: open this, stand clear for a moment; and one's own permit that waits for its answer. */
const props = defineProps<{
  /** The page answers for several breakers at once. */
  answersItself?: boolean
}>()
const { site, asker, offline, submitSite } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const { busy, refusal, run } = useAction()
const asks = computed(() => Object.values(site.value?.asks ?? {}))
const me = computed(() => session.viewer?.personId ?? '')
const name = (ask: PowerRequest) => breakerName(site.value!, site.value!.breakers[ask.breakerId]!)
const number = (ask: PowerRequest) => markOf(site.value!, ask.breakerId)
const boxName = (ask: PowerRequest) => (ask.boxId ? site.value!.boxes[ask.boxId]?.name : null)
const missing = (ask: PowerRequest) => notYetClear(site.value!, ask)
const amClear = (ask: PowerRequest) => ask.clear.some((person) => person.personId === me.value)
const leave = computed(() =>
  props.answersItself
    ? []
    : Object.values(site.value?.grants ?? {}).filter((permit) => permit.personId === me.value && permit.clearanceId === null),
)
const permit = (ask: PowerRequest) => Object.values(site.value!.grants).find((one) => one.clearanceId === ask.id)
const reopen = (ask: PowerRequest) => run(() => submitSite({ type: 'observeBreaker', breakerId: ask.breakerId, state: 'open', how: 'did' }))
const pinFor = ref<string | null>(null)
</script>

<template>
  <section v-if="asks.length || leave.length" class="asks" aria-label="Requests" data-testid="asks">
    <div v-for="ask in asks" :key="ask.id" class="ask" :class="ask.kind === 'energise' ? 'moment' : ''">
      <template v-if="ask.kind === 'open'">
        <p>
          <b
            >{{ ask.personId === me ? 'You ask' : `${ask.name} asks` }}: open {{ number(ask)
            }}{{ boxName(ask) ? ` for ${boxName(ask)}` : '' }}.</b
          >
          <span class="soft small"> {{ ask.note }}</span>
        </p>
        <div class="row wrap">
          <UButton v-if="ask.personId !== me" variant="solid" :loading="busy" @click="reopen(ask)">I opened {{ name(ask) }}</UButton
          ><UButton v-else variant="link" :loading="busy" @click="run(() => submitSite({ type: 'withdrawAsk', askId: ask.id }))"
            >no longer needed</UButton
          >
        </div>
      </template>
      <!-- Whoever asked knows why; what counts is that it is open again soon. -->
      <div v-else-if="ask.status === 'live' && ask.personId === me" class="row">
        <b class="bad grow">{{ number(ask) }} is LIVE with boxes open.</b>
        <UButton :loading="busy" @click="reopen(ask)">I opened {{ name(ask) }}</UButton>
      </div>
      <template v-else>
        <p>
          <b
            >{{ ask.personId === me ? 'You ask' : `${ask.name} asks` }}: power on {{ number(ask) }} for a moment,
            {{ energiseWords[ask.purpose!] }}.</b
          >
        </p>
        <p v-if="ask.status === 'live'" class="bad">
          <b>{{ number(ask) }} is LIVE with boxes open. Stand clear.</b>
        </p>
        <p v-else-if="ask.status === 'granted'" class="bad">
          <b>{{ number(ask) }} may be closed any second. It counts as live.</b>
        </p>
        <p v-else class="small">
          <template v-if="ask.clear.length">Clear: {{ ask.clear.map((person) => person.initials).join(', ') }}. </template
          ><template v-if="missing(ask).length"
            >Not yet:
            {{
              missing(ask)
                .map((person) => person.initials)
                .join(', ')
            }}.</template
          ><b v-else class="good">Everyone is clear.</b>
        </p>
        <div v-if="ask.status === 'asked'" class="row wrap">
          <UButton
            v-if="!amClear(ask)"
            variant="solid"
            size="xl"
            :loading="busy"
            :disabled="offline"
            @click="run(() => submitSite({ type: 'confirmClear', askId: ask.id }))"
            >Hands out, ends safe: I am clear</UButton
          >
          <UButton v-else :loading="busy" @click="run(() => submitSite({ type: 'takeBackClear', askId: ask.id }))">No longer clear</UButton>
          <UButton
            v-if="ask.personId === me && canEnergise(site!, ask.id, asker).yes"
            variant="solid"
            size="xl"
            :loading="busy"
            @click="run(() => submitSite({ type: 'requestClose', grantId: newId(), breakerId: ask.breakerId, clearanceId: ask.id }))"
            >Ask to close {{ number(ask) }}</UButton
          >
          <UButton
            v-if="ask.personId === me"
            variant="link"
            :loading="busy"
            @click="run(() => submitSite({ type: 'withdrawAsk', askId: ask.id }))"
            >withdraw</UButton
          >
          <UButton
            v-for="person in missing(ask).filter((one) => one.personId !== me)"
            :key="person.personId"
            variant="link"
            @click="pinFor = pinFor === person.personId ? null : person.personId"
            >{{ person.initials }} is here, phone dead</UButton
          >
        </div>
        <CommonMatePin
          v-if="pinFor && ask.status === 'asked'"
          :person-id="pinFor"
          :name="session.person(pinFor)?.name ?? ''"
          what="say clear"
          :act="(onBehalf) => submitSite({ type: 'confirmClear', askId: ask.id }, onBehalf)"
          @done="pinFor = null"
        />
        <PowerAnswer v-if="permit(ask)?.personId === me" :permit="permit(ask)!" />
        <template v-else-if="permit(ask)"
          ><p v-for="why in againstPermit(site!, permit(ask)!)" :key="why" class="bad">
            <b>Permit withdrawn. Do not close:</b> {{ t(why) }}
          </p></template
        >
        <UButton v-if="ask.status === 'live'" variant="solid" size="xl" :loading="busy" @click="reopen(ask)"
          >I opened {{ name(ask) }}</UButton
        >
      </template>
    </div>
    <!-- Until it is answered everybody here takes the breaker for live. -->
    <div v-for="one in leave" :key="one.id" class="ask moment">
      <p>
        <b class="bad">You may close {{ breakerName(site!, site!.breakers[one.breakerId]!) }}: it counts as live from now on.</b>
      </p>
      <PowerAnswer :permit="one" />
    </div>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
.asks {
  display: grid;
  gap: 8px;
}
.ask {
  border: 1.5px solid var(--ink);
  border-left: 8px solid var(--copper-bar);
  border-radius: 4px;
  background: var(--sheet);
  padding: 10px 14px;
  display: grid;
  gap: 8px;
}
.moment {
  border-left-color: var(--live);
}
</style>
