<script setup lang="ts">
import { canClose, canTag, canTouch, type CircuitTile } from '../../../core/safety'

const props = defineProps<{ tile: CircuitTile }>()
const emit = defineEmits<{ close: [] }>()
const { site, asker, clock, zone, onCrew, offline, giveSite } = injectJobRecord()
const session = useSession()
const { busy, refusal, run } = useAction()
const open = ref(true)
watch(open, (isOpen) => {
  if (!isOpen) emit('close')
})

const breaker = computed(() => props.tile.breaker)
const name = computed(() =>
  `${breaker.value.role === 'main' ? 'main' : 'breaker'} ${breaker.value.role === 'main' ? '' : breaker.value.number}`.trim(),
)
const myTag = computed(() => props.tile.tags.find((tag) => tag.personId === session.viewer?.personId && !tag.company) ?? null)
const grant = computed(() => Object.values(site.value?.grants ?? {}).find((candidate) => candidate.breakerId === breaker.value.id) ?? null)
const mayTag = computed(() => (site.value ? canTag(site.value, breaker.value.id, asker.value) : null))
const mayClose = computed(() => (site.value ? canClose(site.value, breaker.value.id) : null))
const lock = useLocalStorage(`circuitry-lock-${session.viewer?.personId}`, '')
const measure = ref('')
const cause = ref('')
const overrideFor = ref<string | null>(null)
const overrideReason = ref('')
const verified = ref(false)

const observe = (state: 'open' | 'closed' | 'tripped', note = '') =>
  run(() => giveSite({ type: 'observeBreaker', breakerId: breaker.value.id, state, how: note === 'found' ? 'found' : 'did', note }))
async function hang() {
  if (
    await run(() =>
      giveSite({ type: 'hangTag', tagId: newId(), breakerId: breaker.value.id, lock: lock.value.trim(), measure: measure.value.trim() }),
    )
  )
    measure.value = ''
}
const takeOff = () => run(() => giveSite({ type: 'removeTag', tagId: myTag.value!.id }))
const askClose = () => run(() => giveSite({ type: 'requestClose', grantId: newId(), breakerId: breaker.value.id }))
const answer = (value: 'closed' | 'givenUp') => run(() => giveSite({ type: 'answerGrant', grantId: grant.value!.id, answer: value }))
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
  if (await run(() => giveSite(command))) nightOpen.value = false
}
const grantReason = ref('')
const grantOver = computed(
  () => grant.value?.expiresAt !== null && grant.value !== null && Date.parse(grant.value.expiresAt!) < Date.parse(clock.value.now),
)
const leaveFor = ref(false)
async function override() {
  if (
    await run(() => giveSite({ type: 'overrideTag', tagId: overrideFor.value!, reason: overrideReason.value, leftBuildingVerified: true }))
  )
    overrideFor.value = null
}
const touch = (boxId: string) => canTouch(site.value!, boxId, asker.value, clock.value)
</script>

<template>
  <USlideover
    v-model:open="open"
    :title="`${name}: ${tile.word.toLowerCase()}`"
    :description="breaker.labelAsFound ? `Labelled “${breaker.labelAsFound}” as found` : 'No label as found'"
  >
    <template #body>
      <div class="stack">
        <p v-if="breaker.offLimits" class="note red"><b>Do not open:</b> {{ breaker.offLimits }}</p>
        <p v-if="tile.since" class="soft small">In this position since {{ dayAndTime(tile.since, zone) }}.</p>

        <div v-if="grant" class="note red">
          <b>{{ grant.name }} may close it now. It counts as live.</b>
          <p v-if="grantOver" class="small"><b>The leave has run out: do not close on it any more.</b> Say how the breaker is.</p>
          <div class="row wrap mt-2">
            <UButton variant="solid" :loading="busy" @click="answer('closed')">It is closed</UButton>
            <UButton v-if="grant.personId === session.viewer?.personId" :loading="busy" @click="answer('givenUp')"
              >Given up, still open</UButton
            >
            <UButton v-else variant="link" @click="pinFor = pinFor === grant.id ? null : grant.id"
              >{{ grant.name }} is here, phone dead</UButton
            >
            <UButton
              v-if="session.hasRole('lead') && grant.personId !== session.viewer?.personId"
              variant="link"
              color="error"
              @click="leaveFor = !leaveFor"
              >absent?</UButton
            >
          </div>
          <CommonMatePin
            v-if="pinFor === grant.id"
            :person-id="grant.personId"
            :name="grant.name"
            what="given up, still open"
            :act="(onBehalf) => giveSite({ type: 'answerGrant', grantId: grant!.id, answer: 'givenUp' }, onBehalf)"
            @done="pinFor = null"
          />
          <div v-if="leaveFor" class="stack mt-2">
            <p>They must have left the building. Afterwards nobody knows how the breaker is: somebody looks.</p>
            <UCheckbox v-model="verified" label="I have verified that they left the building" />
            <UTextarea v-model="grantReason" :rows="2" placeholder="How verified, and who tells them" />
            <UButton
              color="error"
              :loading="busy"
              :disabled="!verified || grantReason.trim().length < 10"
              @click="run(() => giveSite({ type: 'overrideGrant', grantId: grant!.id, reason: grantReason, leftBuildingVerified: true }))"
              >End this leave</UButton
            >
          </div>
        </div>

        <template v-if="!grant && breaker.state !== 'open'">
          <UButton variant="solid" size="xl" :loading="busy" @click="observe('open')">I opened it</UButton>
          <p class="soft small">Opening is yours to do and to report. Light going off is evidence, not proof.</p>
        </template>

        <div v-if="!grant && breaker.state === 'open' && !myTag && onCrew" class="stack rule pt-3">
          <h3 class="kicker">Hang your tag</h3>
          <UFormField label="Your lock" hint="on the breaker"
            ><UInput v-model="lock" placeholder="BA red 2" autocomplete="off"
          /></UFormField>
          <UFormField label="No lock fits? What else keeps it open" hint="instead of a lock"
            ><UInput v-model="measure" placeholder="panel door locked, key in my pocket" autocomplete="off"
          /></UFormField>
          <UButton variant="solid" size="xl" :loading="busy" :disabled="!mayTag?.yes || (!lock.trim() && !measure.trim())" @click="hang"
            >Hang my tag</UButton
          >
        </div>
        <UButton
          v-if="myTag?.suspendedFor && breaker.state === 'open' && !grant"
          variant="solid"
          size="xl"
          :loading="busy"
          @click="run(() => giveSite({ type: 'rehangTag', tagId: myTag!.id }))"
          >My lock hangs again</UButton
        >
        <UButton v-if="myTag" size="xl" :loading="busy" @click="takeOff">Take my tag off</UButton>
        <template v-if="!grant && breaker.state === 'open' && onCrew">
          <UButton variant="link" class="self-start" @click="nightOpen = !nightOpen">Leave it off for the night</UButton>
          <form v-if="nightOpen" class="note stack" @submit.prevent="lockForTheNight">
            <p>The company’s lock keeps it open while nobody is here. It makes nobody’s hands safe.</p>
            <UFormField label="The company’s lock"><UInput v-model="companyLock" placeholder="company 7" /></UFormField>
            <UFormField label="What the notice says"
              ><UInput v-model="notice" placeholder="Open box in the hall. Call the office first."
            /></UFormField>
            <UButton type="submit" :loading="busy" :disabled="!companyLock.trim() || !notice.trim()">It hangs</UButton>
          </form>
        </template>

        <div v-if="!grant && breaker.state !== 'closed' && onCrew" class="stack rule pt-3">
          <h3 class="kicker">Close it again</h3>
          <ul v-if="mayClose && !mayClose.yes" class="small">
            <li v-for="reason in mayClose.reasons" :key="reason">{{ reason }}</li>
          </ul>
          <UButton :loading="busy" :disabled="offline" @click="askClose">Ask to close {{ name }}</UButton>
          <p v-if="offline" class="small warn">Without network nobody gets leave to close.</p>
        </div>

        <CommonRefusal :refusal="refusal" />

        <div v-if="breaker.tripUnexplained" class="stack rule pt-3">
          <UFormField label="Why did it trip?"><UTextarea v-model="cause" :rows="2" /></UFormField>
          <UButton
            :loading="busy"
            :disabled="cause.trim().length < 3"
            @click="run(() => giveSite({ type: 'recordTripCause', breakerId: breaker.id, cause }))"
            >Record the cause</UButton
          >
        </div>

        <div class="stack rule pt-3">
          <h3 class="kicker">Report what you found. A fact is always taken.</h3>
          <div class="row wrap">
            <UButton v-if="breaker.state !== 'closed'" color="error" :loading="busy" @click="observe('closed', 'found')"
              >Found it CLOSED</UButton
            >
            <UButton v-if="breaker.state !== 'tripped'" color="error" :loading="busy" @click="observe('tripped', 'found')"
              >Found it tripped</UButton
            >
            <UButton v-if="breaker.state !== 'open' && !grant" :loading="busy" @click="observe('open', 'found')">Found it open</UButton>
          </div>
        </div>

        <div class="rule pt-3">
          <h3 class="kicker">Tags</h3>
          <p v-if="!tile.tags.length" class="soft">No tag hangs here.</p>
          <div v-for="tag in tile.tags" :key="tag.id" class="row py-1">
            <PowerTag :initials="tag.initials" /><span class="grow small"
              >{{ tag.company ? 'The company’s lock, hung by' : '' }} {{ tag.name }}, {{ tag.lock ? `lock ${tag.lock}` : tag.measure }},
              since {{ clockTime(tag.hungAt, zone) }}<b v-if="tag.suspendedFor" class="bad">, suspended</b
              ><template v-if="tag.notice">: “{{ tag.notice }}”</template></span
            >
            <UButton
              v-if="tag.company && asker.licensed && onCrew"
              variant="link"
              :loading="busy"
              @click="run(() => giveSite({ type: 'removeTag', tagId: tag.id }))"
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
              @click="overrideFor = tag.id"
              >absent?</UButton
            >
          </div>
          <template v-for="tag in tile.tags" :key="`pin ${tag.id}`">
            <CommonMatePin
              v-if="pinFor === tag.id"
              :person-id="tag.personId"
              :name="tag.name"
              what="take my tag off"
              :act="(onBehalf) => giveSite({ type: 'removeTag', tagId: tag.id }, onBehalf)"
              @done="pinFor = null"
            />
          </template>
          <div v-if="overrideFor" class="stack note red">
            <p>
              <b>Take off the tag of an absent person.</b> Call them first. They must have left the building, and they are told before they
              return. This stays in the history for ever.
            </p>
            <UCheckbox v-model="verified" label="I have verified that they left the building" />
            <UTextarea v-model="overrideReason" :rows="2" placeholder="How verified, and who tells them" />
            <UButton
              color="error"
              variant="solid"
              :loading="busy"
              :disabled="!verified || overrideReason.trim().length < 10"
              @click="override"
              >Take this tag off</UButton
            >
          </div>
        </div>

        <div class="rule pt-3">
          <h3 class="kicker">Boxes behind it</h3>
          <p v-if="!tile.boxes.length" class="soft">None known.</p>
          <div v-for="box in tile.boxes" :key="box.id" class="py-1">
            <b>{{ box.name }}</b>
            <span class="soft small">{{
              box.closure === 'closed' ? 'closed up' : box.closure === 'guarded' ? `capped and guarded by ${box.guardedBy}` : 'open'
            }}</span>
            <p v-if="box.closure === 'opened'" class="small" :class="touch(box.id).yes ? 'good' : 'warn'">
              {{ touch(box.id).yes ? 'Proven dead for you.' : (touch(box.id) as { reasons: string[] }).reasons.join(' ') }}
            </p>
          </div>
        </div>
        <p class="soft small rule pt-3">Leave given here is a record, not a lock. Your own lock, your own tag, your own test.</p>
      </div>
    </template>
  </USlideover>
</template>
