<script setup lang="ts">
import {
  automatedHome,
  callbackRemedies,
  callbackSignWords,
  causeKinds,
  causeWords,
  clearings,
  clearingWords,
  devicesOut,
  fateWords,
  oldUnitFates,
  payers,
  payerWords,
  photoWords,
  pointsOfUnit,
  pointStatus,
  preparedOf,
  remedyWords,
  stillSpeaks,
} from '../../../../../core/job'
import { canTouch } from '../../../../../core/site'
import { numbersOf, nothingTaught, type CauseKind } from '../../../../../core/triage'

const route = useRoute()
const { page, job, site, asker, vantage, region, onCrew, submitJob } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const { busy, refusal, run } = useAction()
const callback = computed(() => job.value?.callbacks[String(route.params.callbackId)] ?? null)
const oldUnit = computed(() => (callback.value ? job.value!.units[callback.value.unitId]! : null))
const newUnit = computed(() => (callback.value?.replacedBy ? job.value!.units[callback.value.replacedBy]! : null))
const visit = computed(
  () =>
    Object.values(job.value?.visits ?? {}).findLast(
      (candidate) => candidate.callbackId === callback.value?.id && candidate.status !== 'cancelled',
    ) ?? null,
)
const touch = computed(() => (oldUnit.value ? canTouch(site.value!, oldUnit.value.boxId, asker.value, vantage.value) : null))
const points = computed(() => (oldUnit.value ? pointsOfUnit(job.value!, oldUnit.value) : []))
/** The wiring bench of the box, where the wiring was laid there: it names the faults that explain what is seen. */
const benchOfUnit = computed(() => {
  const boxId = oldUnit.value?.boxId
  return boxId && job.value!.boxes[boxId]?.wiring?.plan ? `/jobs/${job.value!.jobId}/wiring/${boxId}` : null
})
/** What the home does by itself, for a log to be held against. */
const home = computed(() =>
  job.value && site.value && page.value
    ? automatedHome(job.value, site.value, { zone: region.value.zone, position: page.value.site.position })
    : null,
)
const taughtList = useList('GET /api/triage', () => ({}), ['job'])
const known = computed(() => numbersOf(taughtList.answer.value?.taught ?? nothingTaught()).causes)
const another = 'another'
const diagnosis = reactive({
  causeId: '',
  causeKind: 'device' as CauseKind,
  cause: '',
  confirmedBy: '',
  payer: 'us' as (typeof payers)[number],
  remedy: 'replace' as (typeof callbackRemedies)[number],
})
const remedyOf: Record<CauseKind, (typeof callbackRemedies)[number]> = {
  wiring: 'rewire',
  device: 'replace',
  network: 'network',
  configuration: 'configure',
  use: 'teach',
  supply: 'teach',
}
/** What was likeliest on the telephone first, then the others as the trade names them, then one that nobody has listed. */
const causeItems = computed(() => {
  const ranked = callback.value?.call?.ranked.map(({ cause }) => cause) ?? []
  const place = (id: string) => ranked.indexOf(id) + 1 || ranked.length + 1
  return [
    ...[...known.value]
      .sort((a, b) => place(a.id) - place(b.id))
      .map(({ id, words, kind }) => ({ value: id, label: `${t(words)} (${t(causeWords[kind])})` })),
    { value: another, label: 'another cause, not listed yet' },
  ]
})
const chosen = computed(() => known.value.find(({ id }) => id === diagnosis.causeId) ?? null)
watch(chosen, (cause) => {
  if (!cause) return
  Object.assign(diagnosis, { causeKind: cause.kind, remedy: remedyOf[cause.kind], payer: cause.payer, cause: t(cause.words) })
})
const payerItems = payers.map((value) => ({ label: payerWords[value], value }))
/** Mended in the call, which broke off before that was stored. */
const mendedUnsaid = computed(() =>
  callback.value?.status === 'open' && !visit.value && !callback.value.call?.flags.length
    ? (known.value.find(({ id }) => callback.value!.call?.tried.some(({ cause, mended }) => mended && cause === id)) ?? null)
    : null,
)
const solve = () =>
  run(() =>
    submitJob({
      ...{ type: 'solveCallback', callbackId: callback.value!.id, causeId: mendedUnsaid.value!.id },
      how: t(mendedUnsaid.value!.steps.join(' ')).slice(0, 480),
      callBackOn: dayIn(2, region.value),
    }),
  )
const heard = ref('')
const hear = (works: boolean) =>
  run(() => submitJob({ type: 'hearBack', callbackId: callback.value!.id, works, said: heard.value })).then((ok) => {
    if (ok) heard.value = ''
  })
/** The old device, once it is out: it is somebody’s until it is settled. */
const outDevice = computed(() =>
  job.value && oldUnit.value?.removedAt ? devicesOut(job.value).find(({ unitId }) => unitId === oldUnit.value!.id) : undefined,
)
const photosThere = computed(() =>
  (job.value?.photos ?? [])
    .filter(({ boxId, erased }) => !erased && boxId === oldUnit.value?.boxId)
    .map(({ id, caption, kind, at }) => ({
      id,
      caption: `${photoWords[kind]}${caption ? `, ${caption}` : ''}, ${dayAndTime(at, region.value)}`,
    })),
)
const again = ref(false)
const replacement = reactive({
  serial: '',
  setupCode: '',
  setupCodeAgain: '',
  oldUnitGoes: 'return' as (typeof oldUnitFates)[number],
  oldUnitCleared: undefined as Exclude<(typeof clearings)[number], 'neverJoined'> | undefined,
})
const oldSpeaks = computed(() => Boolean(oldUnit.value && stillSpeaks(oldUnit.value)))
/** It did join. */
const clearedItems = clearings.flatMap((value) => (value === 'neverJoined' ? [] : [{ label: clearingWords[value], value }]))
const resolution = ref('')
const scheduling = ref(false)
const kinds = causeKinds.map((value) => ({ label: t(causeWords[value]), value }))
const remedies = callbackRemedies.map((value) => ({ label: remedyWords[value], value }))
const fates = oldUnitFates.map((value) => ({ label: fateWords[value], value }))
const codeKind = computed(() => oldUnit.value?.model.setupCode ?? 'none')
const serialGood = ref(false)
const codeGood = ref(false)
/** Prepared in the shop: its code is on record already. */
const codeKnown = computed(() => Boolean(preparedOf(job.value!, replacement.serial)?.code) && !replacement.setupCode.trim())
const sentence = computed(() => {
  if (!callback.value) return 'There is no such callback on this job.'
  if (callback.value.status === 'closed') return `Closed: ${callback.value.resolution}`
  if (callback.value.status === 'told')
    return `Mended on the telephone. Call the customer back on ${dayWord(callback.value.told!.callBackOn, region.value)}.`
  if (callback.value.call?.flags.length && callback.value.status === 'open' && visit.value?.status !== 'onSite')
    return 'Danger was told: a licensed person goes today.'
  if (!visit.value) return 'It waits for a visit.'
  if (callback.value.status === 'open') return `Visit ${dayAndTime(visit.value.startsAt, region.value)}. It waits for a diagnosis.`
  if (callback.value.remedy === 'replace' && !newUnit.value) return 'Diagnosed. It waits for the new device.'
  const failing = points.value.filter((point) => pointStatus(job.value!, site.value!, point) !== 'passed')
  return failing.length
    ? `It waits for the tests of ${failing.map((point) => point.name).join(', ')}.`
    : 'Repaired and tested. It can be closed.'
})
/** Of a cause that is not listed yet: one name for it, whoever meets it again. */
const ownId = `own:${newId()}`
const diagnose = () =>
  run(() =>
    submitJob({
      ...{ type: 'diagnoseCallback', callbackId: callback.value!.id, ...diagnosis },
      causeId: diagnosis.causeId === another ? ownId : diagnosis.causeId,
    }),
  ).then((ok) => {
    if (ok) again.value = false
  })
const replace = () =>
  run(() =>
    submitJob({ type: 'replaceUnit', callbackId: callback.value!.id, oldUnitId: oldUnit.value!.id, newUnitId: newId(), ...replacement }),
  )
const close = () => run(() => submitJob({ type: 'closeCallback', callbackId: callback.value!.id, resolution: resolution.value }))
</script>

<template>
  <div class="page">
    <h1 class="sentence mb-2">{{ sentence }}</h1>
    <template v-if="callback && oldUnit">
      <p>
        {{ callback.what }}
        <span class="soft"
          >Since {{ dayWord(callback.since, region)
          }}<template v-if="callback.signs.length">; {{ t(callback.signs.map((sign) => callbackSignWords[sign]).join(', ')) }}</template
          >.</span
        >
      </p>
      <p class="soft mb-4">
        {{ oldUnit.name || 'no name' }} at {{ site!.boxes[oldUnit.boxId]?.name }}, gang {{ oldUnit.gang }} · {{ oldUnit.model.maker }}
        {{ oldUnit.model.name }} · <span class="mono">{{ oldUnit.serial }}</span><template v-if="oldUnit.removedAt">
          out ({{ fateWords[oldUnit.removedTo!] }})</template
        ><template v-if="newUnit">
          → <span class="mono">{{ newUnit.serial }}</span> in</template
        >
      </p>
      <div class="cols">
        <div class="stack">
          <CallbackSaid v-if="callback.call" :call="callback.call" />
          <CallbackStory v-if="page" :key="callback.id" :job-id="page.job.id" :callback-id="callback.id" :region="region" />
          <div v-if="mendedUnsaid && (onCrew || session.isOffice)" class="note petrol row wrap">
            <span class="grow">It worked again on the telephone, and that was not stored yet.</span>
            <UButton variant="solid" :loading="busy" @click="solve">Store it, and call back in two days</UButton>
          </div>
          <section v-if="callback.status === 'told'" class="step">
            <h2 class="kicker">Call back</h2>
            <p>
              {{ callback.told!.how }} <span class="soft">Done {{ dayAndTime(callback.told!.at, region) }}.</span>
            </p>
            <template v-if="onCrew || session.isOffice">
              <UFormField label="What the customer says now" name="heard"><UTextarea v-model="heard" name="heard" :rows="2" /></UFormField>
              <div class="row wrap">
                <UButton variant="solid" size="xl" :loading="busy" @click="hear(true)">It still works: close it</UButton>
                <UButton size="xl" :loading="busy" @click="hear(false)">It fails again</UButton>
              </div>
            </template>
          </section>
          <section v-if="callback.status !== 'told'" class="step">
            <h2 class="kicker">1 · Visit</h2>
            <p v-if="visit">
              {{ dayAndTime(visit.startsAt, region) }}, {{ visit.personIds.map((id) => session.person(id)?.name ?? '?').join(' and ') }},
              {{ visit.status === 'onSite' ? 'on site' : visit.status }}
            </p>
            <template v-else-if="session.isOffice"
              ><UButton @click="scheduling = !scheduling">Schedule the visit</UButton
              ><DayVisitForm
                v-if="scheduling && page"
                :job-id="page.job.id"
                :branch-id="page.job.branchId"
                kind="callback"
                :callback-id="callback.id"
                class="mt-3"
                @done="scheduling = false"
            /></template>
            <p v-else class="soft">The dispatcher schedules it.</p>
            <div v-if="visit && (visit.status === 'planned' || visit.status === 'onSite')" class="row mt-2">
              <UButton
                v-if="visit.status === 'planned' && !visit.personIds.includes(session.viewer?.personId ?? '')"
                :loading="busy"
                @click="run(() => submitJob({ type: 'arrive', visitId: visit!.id }))"
                >They have arrived</UButton
              ><HomeEndVisit v-else-if="visit.status === 'onSite'" :visit-id="visit.id" />
            </div>
          </section>
          <section v-if="callback.status !== 'told'" class="step">
            <h2 class="kicker">2 · Diagnosis</h2>
            <details v-if="callback.status !== 'closed' && home">
              <summary>It switches by itself, or not when it should: read a log</summary>
              <LazyCallbackSwitchLog
                :home="home"
                :device-id="points[0]?.id ?? null"
                :region="region"
                :use="onCrew && (!callback.causeKind || again) ? 'Write it down as what shows the cause' : ''"
                @use="diagnosis.confirmedBy = $event.slice(0, 480)"
              />
            </details>
            <LazyCallbackWiringTold
              v-if="callback.status !== 'closed' && callback.call"
              :job="job!"
              :site="site!"
              :unit-id="callback.unitId"
              :symptoms="callback.call.symptoms"
              there
            />
            <NuxtLink v-if="benchOfUnit" class="underline" :to="benchOfUnit">What is seen, against what the wiring predicts</NuxtLink>
            <p v-if="callback.causeKind && !again">
              <b>{{ t(causeWords[callback.causeKind]) }}</b>: {{ callback.cause }}
              <span class="soft"
                >Remedy: {{ remedyWords[callback.remedy!] }}.<template v-if="callback.confirmedBy">
                  Shown by: {{ callback.confirmedBy }}</template
                ><template v-if="callback.payer"> Paid by {{ payerWords[callback.payer] }}.</template></span
              >
              <UButton v-if="onCrew && callback.status !== 'closed' && !newUnit" variant="link" class="p-0" @click="again = true"
                >another cause</UButton
              >
            </p>
            <form v-else-if="onCrew && callback.status !== 'closed'" class="stack" @submit.prevent="diagnose">
              <UFormField label="Cause"
                ><USelect v-model="diagnosis.causeId" :items="causeItems" placeholder="Choose the cause" class="w-full"
              /></UFormField>
              <p v-if="chosen" class="note small"><b>What shows it:</b> {{ t(chosen.check) }}</p>
              <UFormField v-if="diagnosis.causeId === another" label="Kind of cause"
                ><USelect v-model="diagnosis.causeKind" :items="kinds" class="w-full"
              /></UFormField>
              <UFormField label="The cause, as found" name="cause"
                ><UTextarea v-model="diagnosis.cause" name="cause" :rows="2"
              /></UFormField>
              <UFormField label="Looked at or measured, that shows it" name="confirmedBy"
                ><UTextarea v-model="diagnosis.confirmedBy" name="confirmedBy" :rows="2"
              /></UFormField>
              <UFormField label="Remedy"><USelect v-model="diagnosis.remedy" :items="remedies" class="w-full" /></UFormField>
              <UFormField label="Paid by"><USelect v-model="diagnosis.payer" :items="payerItems" class="w-full" /></UFormField>
              <UButton type="submit" variant="solid" :loading="busy" :disabled="!diagnosis.causeId || diagnosis.cause.trim().length < 5"
                >Store the diagnosis</UButton
              >
            </form>
            <p v-else class="soft">Not diagnosed yet.</p>
          </section>
          <section v-if="callback.remedy === 'replace' && callback.status !== 'closed'" class="step">
            <h2 class="kicker">3 · Replace the device</h2>
            <p v-if="newUnit" class="good">{{ newUnit.serial }} is in.</p>
            <template v-else-if="onCrew">
              <p v-if="!touch?.yes" class="note amber">
                <b>Locked.</b> {{ t(touch?.reasons.join(' ')) }}
                <NuxtLink class="underline" :to="`/jobs/${page?.job.id}/box/${oldUnit.boxId}`">Open, tag and prove at the bench.</NuxtLink>
              </p>
              <form class="stack" @submit.prevent="replace">
                <BenchSerialField
                  v-model="replacement.serial"
                  v-model:good="serialGood"
                  :job-id="job!.jobId"
                  :model="oldUnit.model"
                  label="Serial of the new device"
                />
                <BenchSetupCode
                  v-if="codeKind !== 'none'"
                  v-model:code="replacement.setupCode"
                  v-model:again="replacement.setupCodeAgain"
                  v-model:good="codeGood"
                  :kind="codeKind"
                  :label="codeKnown ? 'Its setup code, only if it says otherwise here' : 'Its setup code'"
                />
                <UFormField label="The old device"><USelect v-model="replacement.oldUnitGoes" :items="fates" class="w-full" /></UFormField>
                <template v-if="oldSpeaks">
                  <UFormField label="Before it leaves the wall"
                    ><USelect v-model="replacement.oldUnitCleared" :items="clearedItems" placeholder="Choose" class="w-full"
                  /></UFormField>
                  <p class="note amber small">
                    It runs on a battery: in a drawer it goes on telling its partner what to do. Take it off its partner and out of the
                    household’s app first.
                  </p>
                </template>
                <UButton
                  type="submit"
                  variant="solid"
                  :loading="busy"
                  :disabled="
                    !touch?.yes ||
                    !serialGood ||
                    (oldSpeaks && !replacement.oldUnitCleared) ||
                    (codeKind !== 'none' && !codeGood && !codeKnown)
                  "
                  >Replace device</UButton
                >
              </form>
            </template>
          </section>
          <section v-if="callback.status === 'diagnosed'" class="step">
            <h2 class="kicker">{{ callback.remedy === 'replace' ? '4' : '3' }} · Test, pair, close</h2>
            <p>
              <NuxtLink class="underline" :to="`/jobs/${page?.job.id}/tests`">Tests and pairing</NuxtLink> of
              {{ points.map((point) => point.name).join(', ') || 'this device' }}.
            </p>
            <form v-if="onCrew" class="stack mt-2" @submit.prevent="close">
              <UFormField label="How it ended" name="resolution"><UTextarea v-model="resolution" name="resolution" :rows="2" /></UFormField
              ><UButton type="submit" variant="solid" size="xl" :loading="busy" :disabled="resolution.trim().length < 5"
                >Close the callback</UButton
              >
            </form>
          </section>
          <HandoverBatteries :may-change="onCrew || session.isOffice" :unit-id="newUnit?.id ?? oldUnit.id" class="step" />
          <section v-if="outDevice && page" class="step" aria-label="The old device">
            <h2 class="kicker">
              The old device, <span class="mono">{{ outDevice.serial }}</span>
            </h2>
            <CallbackOutDevice
              :job-id="page.job.id"
              :branch-id="page.job.branchId"
              :device="outDevice"
              :may-follow="onCrew || session.isOffice"
              :photos="photosThere"
            />
          </section>
          <CommonRefusal :refusal="refusal" />
        </div>
        <PowerRail :box-ids="[oldUnit.boxId]" compact title="Power at the box" />
      </div>
    </template>
  </div>
</template>

<style scoped>
summary {
  min-height: 44px;
  display: flex;
  align-items: center;
  text-decoration: underline;
}
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr);
  gap: 32px;
}
.step {
  border-top: 3px solid var(--ink);
  padding: 10px 0 14px;
  display: grid;
  gap: 8px;
}
@media (max-width: 900px) {
  .cols {
    grid-template-columns: 1fr;
  }
}
</style>
