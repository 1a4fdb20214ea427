<script setup lang="ts">
import {
  againstPermit,
  boxName,
  breakerName,
  canClose,
  canTag,
  canTouch,
  holds,
  inPanelOrder,
  sentence,
  type CircuitTile,
} from '../../../core/site'

const props = defineProps<{ tile: CircuitTile }>()
const emit = defineEmits<{ close: [] }>()
const { site, asker, vantage, region, onCrew, offline, submitSite } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const { busy, refusal, run } = useAction()
const open = ref(true)
watch(open, (isOpen) => {
  if (!isOpen) emit('close')
})

const breaker = computed(() => props.tile.breaker)
const name = computed(() => breakerName(site.value!, breaker.value))
const myTag = computed(() => props.tile.tags.find((tag) => tag.personId === session.viewer?.personId && !tag.company) ?? null)
const permit = computed(() => Object.values(site.value?.grants ?? {}).find((candidate) => candidate.breakerId === breaker.value.id) ?? null)
const mayTag = computed(() => (site.value ? canTag(site.value, breaker.value.id, asker.value) : null))
const mayClose = computed(() => (site.value ? canClose(site.value, breaker.value.id, asker.value) : null))
const { lock, hanging } = useOwnLock(
  () => site.value,
  () => props.tile.breaker.id,
)
const measure = ref('')
const cause = ref('')
const absentFor = ref<string | null>(null)
const hadHappened = ref('')
const wantsHands = computed(() => myTag.value !== null && !holds(myTag.value))
const rehang = () => run(() => submitSite({ type: 'rehangTag', tagId: myTag.value!.id, cause: hadHappened.value.trim() }))
// Whoever would be alarmed by taking the own tag off is named before.
const mates = computed(() => {
  const own = Object.values(site.value!.proofs).filter(
    (proof) =>
      proof.status === 'living' &&
      proof.personId === session.viewer?.personId &&
      props.tile.boxes.some((box) => box.id === proof.boxId) &&
      proof.witnesses.length > 0,
  )
  return [...new Set(own.flatMap((proof) => proof.witnesses.map((one) => one.name)))]
})
const sure = ref(false)
const limits = ref(false)
const limitsWhy = ref('')
const mayLift = computed(() => session.hasRole('lead', 'dispatcher'))
async function markOffLimits(reason: string | null) {
  if (await run(() => submitSite({ type: 'markOffLimits', breakerId: breaker.value.id, reason }))) limits.value = false
}
const tying = ref(false)
const partnerId = ref('')
const tieBasis = ref('')
const partners = computed(() =>
  Object.values(site.value!.breakers)
    .filter((one) => one.role === 'branch' && one.id !== breaker.value.id)
    .sort(inPanelOrder)
    .map((one) => ({ label: `${breakerName(site.value!, one)} ${one.labelAsFound}`, value: one.id })),
)
const tied = computed(() => [
  ...new Set(
    site
      .value!.neutralTies.filter((tie) => tie.includes(breaker.value.id))
      .flat()
      .filter((id) => id !== breaker.value.id)
      .flatMap((id) => (site.value!.breakers[id] ? [breakerName(site.value!, site.value!.breakers[id])] : [])),
  ),
])
async function tie() {
  if (await run(() => submitSite({ type: 'tieNeutrals', breakerIds: [breaker.value.id, partnerId.value], basis: tieBasis.value })))
    tying.value = false
}

const observe = (state: 'open' | 'closed' | 'tripped', note = '') =>
  run(() => submitSite({ type: 'observeBreaker', breakerId: breaker.value.id, state, how: note === 'found' ? 'found' : 'did', note }))
async function hang() {
  if (await run(() => submitSite(hanging(measure.value)))) measure.value = ''
}
const takeOff = () => run(() => submitSite({ type: 'removeTag', tagId: myTag.value!.id }))
const askClose = () => run(() => submitSite({ type: 'requestClose', grantId: newId(), breakerId: breaker.value.id }))
const answer = (value: 'closed' | 'givenUp') => run(() => submitSite({ type: 'answerPermit', grantId: permit.value!.id, answer: value }))
const pinFor = ref<string | null>(null)
const companyLock = ref('')
const notice = ref('')
const nightOpen = ref(false)
async function lockForTheNight() {
  const command = {
    type: 'hangTag' as const,
    tagId: newId(),
    breakerId: breaker.value.id,
    lock: companyLock.value.trim(),
    company: true,
    notice: notice.value.trim(),
  }
  if (await run(() => submitSite(command))) nightOpen.value = false
}
/** What came to light since the permit was given. */
const againstIt = computed(() => (permit.value ? againstPermit(site.value!, permit.value) : []))
const permitOver = computed(
  () => permit.value?.expiresAt !== null && permit.value !== null && Date.parse(permit.value.expiresAt!) < Date.parse(vantage.value.now),
)
/** Declared absent and waiting for a second person, or asked about here. */
const absentIds = computed(() => {
  const here = new Set([...props.tile.tags.map((tag) => tag.personId), ...(permit.value ? [permit.value.personId] : [])])
  return [...here].filter((id) => id === absentFor.value || site.value!.absences[id])
})
const touch = (boxId: string) => canTouch(site.value!, boxId, asker.value, vantage.value)
</script>

<template>
  <USlideover
    v-model:open="open"
    :title="`${sentence(name)}: ${tile.word.toLowerCase()}`"
    :description="breaker.labelAsFound ? `Labelled “${breaker.labelAsFound}” as found` : 'No label as found'"
  >
    <template #body>
      <div class="stack">
        <p v-if="breaker.offLimits" class="note red"><b>Do not open:</b> {{ breaker.offLimits }}</p>
        <p v-if="tile.since" class="soft small">In this position since {{ dayAndTime(tile.since, region) }}.</p>

        <div v-if="permit" class="note red">
          <b>{{ permit.name }} may close it now. It counts as live.</b>
          <p v-for="why in againstIt" :key="why" class="small"><b>Permit withdrawn. Do not close:</b> {{ t(why) }}</p>
          <p v-if="permitOver" class="small"><b>Permit expired. Do not close.</b> {{ t('Record the position of the {breaker}.') }}</p>
          <div class="row wrap mt-2">
            <UButton variant="solid" :loading="busy" @click="answer('closed')">It is closed</UButton>
            <UButton v-if="permit.personId === session.viewer?.personId" :loading="busy" @click="answer('givenUp')"
              >Not closed, still open</UButton
            >
            <UButton v-else variant="link" @click="pinFor = pinFor === permit.id ? null : permit.id"
              >{{ permit.name }} is here, phone dead</UButton
            >
            <UButton
              v-if="session.hasRole('lead') && permit.personId !== session.viewer?.personId"
              variant="link"
              color="error"
              @click="absentFor = absentFor === permit.personId ? null : permit.personId"
              >Owner off site?</UButton
            >
          </div>
          <CommonMatePin
            v-if="pinFor === permit.id"
            :person-id="permit.personId"
            :name="permit.name"
            what="given up, still open"
            :act="(onBehalf) => submitSite({ type: 'answerPermit', grantId: permit!.id, answer: 'givenUp' }, onBehalf)"
            @done="pinFor = null"
          />
        </div>

        <template v-if="!permit && breaker.state !== 'open'">
          <UButton variant="solid" size="xl" :loading="busy" @click="observe('open')">I opened {{ name }}</UButton>
          <p class="soft small">Opening is yours to do and to report. Light going off is evidence, not proof.</p>
        </template>

        <div v-if="!permit && breaker.state === 'open' && !myTag && onCrew" class="stack rule pt-3">
          <h3 class="kicker">Hang your tag</h3>
          <UFormField label="Your lock" :hint="t('on the {breaker}')"
            ><UInput v-model="lock" placeholder="BA red 2" autocomplete="off"
          /></UFormField>
          <UFormField label="No lock fits? What else keeps it open" hint="instead of a lock"
            ><UInput v-model="measure" :placeholder="t('{panel} door locked, key in my pocket')" autocomplete="off"
          /></UFormField>
          <UButton variant="solid" size="xl" :loading="busy" :disabled="!mayTag?.yes || (!lock.trim() && !measure.trim())" @click="hang"
            >Hang my tag</UButton
          >
        </div>
        <template v-if="wantsHands && breaker.state === 'open' && !permit">
          <p v-if="myTag?.defeated" class="note red">
            <b>This lever was found closed under your tag.</b> It protects nobody until you have checked your lock.
          </p>
          <UFormField v-if="myTag?.defeated" label="What happened to your lock"
            ><UInput v-model="hadHappened" placeholder="the customer had wanted light" autocomplete="off"
          /></UFormField>
          <UButton variant="solid" size="xl" :loading="busy" :disabled="myTag?.defeated && hadHappened.trim().length < 3" @click="rehang"
            >My lock hangs again</UButton
          >
        </template>
        <template v-if="myTag">
          <p v-if="mates.length" class="note amber">
            <b>{{ mates.join(' and ') }} {{ mates.length === 1 ? 'relies' : 'rely' }} on your proof.</b> Taking your tag off ends it and
            alarms them.
          </p>
          <UCheckbox v-if="mates.length" v-model="sure" label="They know, and their hands are out" />
          <UButton size="xl" :loading="busy" :disabled="mates.length > 0 && !sure" @click="takeOff">Take my tag off</UButton>
        </template>
        <template v-if="!permit && breaker.state === 'open' && onCrew">
          <UButton variant="link" class="self-start" @click="nightOpen = !nightOpen">Leave it off overnight</UButton>
          <form v-if="nightOpen" class="note stack" @submit.prevent="lockForTheNight">
            <p>The company’s lock keeps it open while nobody is here. It protects nobody working on the circuit.</p>
            <UFormField label="The company’s lock"><UInput v-model="companyLock" placeholder="company 7" /></UFormField>
            <UFormField label="What the notice says"
              ><UInput v-model="notice" placeholder="Open box in the hall. Call the office first."
            /></UFormField>
            <UButton type="submit" :loading="busy" :disabled="!companyLock.trim() || !notice.trim()">It hangs there</UButton>
          </form>
        </template>

        <div v-if="!permit && breaker.state !== 'closed' && onCrew" class="stack rule pt-3">
          <h3 class="kicker">Close it again</h3>
          <ul v-if="mayClose && !mayClose.yes" class="small">
            <li v-for="reason in mayClose.reasons" :key="reason">{{ t(reason) }}</li>
          </ul>
          <UButton :loading="busy" :disabled="offline" @click="askClose">Ask to close {{ name }}</UButton>
          <p v-if="offline" class="small warn">Without network nobody gets a permit to close.</p>
        </div>

        <CommonRefusal :refusal="refusal" />

        <div v-if="breaker.tripUnexplained" class="stack rule pt-3">
          <UFormField label="Why did it trip?"><UTextarea v-model="cause" :rows="2" /></UFormField>
          <UButton
            :loading="busy"
            :disabled="cause.trim().length < 3"
            @click="run(() => submitSite({ type: 'recordTripCause', breakerId: breaker.id, cause }))"
            >Record the cause</UButton
          >
        </div>

        <div class="stack rule pt-3">
          <h3 class="kicker">Report what you found. A fact is always recorded.</h3>
          <div class="row wrap">
            <UButton v-if="breaker.state !== 'closed'" color="error" :loading="busy" @click="observe('closed', 'found')"
              >Found it CLOSED</UButton
            >
            <UButton v-if="breaker.state !== 'tripped'" color="error" :loading="busy" @click="observe('tripped', 'found')"
              >Found it tripped</UButton
            >
            <UButton v-if="breaker.state !== 'open' && !permit" :loading="busy" @click="observe('open', 'found')">Found it open</UButton>
          </div>
        </div>

        <div class="rule pt-3">
          <h3 class="kicker">Tags</h3>
          <p v-if="!tile.tags.length" class="soft">No tag hangs here.</p>
          <div v-for="tag in tile.tags" :key="tag.id" class="row py-1">
            <PowerTag :initials="tag.initials" /><span class="grow small"
              >{{ tag.company ? 'The company’s lock, hung by' : '' }} {{ tag.name }}, {{ tag.lock ? `lock ${tag.lock}` : tag.measure }},
              since {{ clockTime(tag.hungAt, region) }}<b v-if="tag.defeated" class="bad">, did not hold</b
              ><b v-else-if="tag.suspendedFor" class="bad">, suspended</b><template v-if="tag.notice">: “{{ tag.notice }}”</template></span
            >
            <UButton
              v-if="tag.company && asker.licensed && onCrew"
              variant="link"
              :loading="busy"
              @click="run(() => submitSite({ type: 'removeTag', tagId: tag.id }))"
              >take off</UButton
            >
            <UButton
              v-else-if="tag.personId !== session.viewer?.personId"
              variant="link"
              :disabled="offline"
              @click="pinFor = pinFor === tag.id ? null : tag.id"
              >phone dead?</UButton
            >
            <UButton
              v-if="session.hasRole('lead') && !tag.company && tag.personId !== session.viewer?.personId"
              variant="link"
              color="error"
              @click="absentFor = absentFor === tag.personId ? null : tag.personId"
              >Owner off site?</UButton
            >
          </div>
          <template v-for="tag in tile.tags" :key="`pin ${tag.id}`">
            <CommonMatePin
              v-if="pinFor === tag.id"
              :person-id="tag.personId"
              :name="tag.name"
              what="take my tag off"
              :act="(onBehalf) => submitSite({ type: 'removeTag', tagId: tag.id }, onBehalf)"
              @done="pinFor = null"
            />
          </template>
          <PowerAbsent
            v-for="personId in absentIds"
            :key="`absent ${personId}`"
            :person-id="personId"
            :name="site!.people[personId]?.name ?? ''"
          />
        </div>

        <div class="rule pt-3">
          <h3 class="kicker">Boxes behind it</h3>
          <p v-if="!tile.boxes.length" class="soft">None known.</p>
          <div v-for="box in tile.boxes" :key="box.id" class="py-1">
            <b>{{ sentence(boxName(site!, box)) }}</b>
            <span class="soft small">{{
              box.closure === 'closed'
                ? 'closed up'
                : box.closure === 'guarded'
                  ? `capped and guarded by ${box.guardedBy?.name}`
                  : box.closure === 'looking'
                    ? 'plate off, power on'
                    : 'open'
            }}</span>
            <p v-if="box.closure === 'opened'" class="small" :class="touch(box.id).yes ? 'good' : 'warn'">
              {{ touch(box.id).yes ? 'Proven dead for you.' : t((touch(box.id) as { reasons: string[] }).reasons.join(' ')) }}
            </p>
          </div>
        </div>
        <div class="rule pt-3 stack">
          <h3 class="kicker">{{ t('About this {breaker}') }}</h3>
          <p v-if="tied.length" class="warn">Shares a neutral with {{ tied.join(', ') }}: open and tag them together.</p>
          <div class="row wrap">
            <UButton variant="link" @click="tying = !tying">It shares a neutral with another</UButton>
            <UButton v-if="!breaker.offLimits && (onCrew || mayLift)" variant="link" @click="limits = !limits">Do not open it</UButton>
            <UButton v-if="breaker.offLimits && mayLift" variant="link" :loading="busy" @click="markOffLimits(null)"
              >It may be opened again</UButton
            >
          </div>
          <form v-if="tying" class="note stack" @submit.prevent="tie">
            <p>One neutral for two circuits: both are open before its splice is touched. Proofs behind either one end.</p>
            <UFormField label="With"><USelect v-model="partnerId" :items="partners" class="w-full" /></UFormField>
            <UFormField label="How do you know"><UInput v-model="tieBasis" placeholder="one white for red and black" /></UFormField>
            <UButton type="submit" :loading="busy" :disabled="!partnerId || tieBasis.trim().length < 3">Record the shared neutral</UButton>
          </form>
          <form v-if="limits" class="note stack" @submit.prevent="markOffLimits(limitsWhy)">
            <UFormField label="Why it must stay on"><UInput v-model="limitsWhy" placeholder="seed vault fan" /></UFormField>
            <UButton type="submit" :loading="busy" :disabled="limitsWhy.trim().length < 3">Mark it “do not open”</UButton>
          </form>
        </div>
        <p class="soft small rule pt-3">A permit here is a record, not a lock. Your own lock, your own tag, your own test.</p>
      </div>
    </template>
  </USlideover>
</template>
