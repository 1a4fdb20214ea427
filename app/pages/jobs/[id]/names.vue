<script setup lang="ts">
import { currentUnits, namedIn } from '../../../../core/job'
import { labelSheets } from '../../../../core/names/labels'
import { issueWords, type Finding, type Nearness } from '../../../../core/names/risks'
import type { Habit } from '../../../../core/names/habits'
import type { NamesTalk } from '~/workers/names'

/** Names of a home, as they are heard: what one phrase moves, and better names for all of them at once. */
const { page, job, site, scheme, onCrew, submitJob } = injectJobRecord()
const session = useSession()
const mayName = computed(() => onCrew.value || session.isOffice)
const places = computed(() => (job.value && site.value ? namedIn(job.value, site.value) : []))
const named = computed(() => places.value.filter(({ name }) => name))
/** Another job in the same home gave names too: they are heard, and not changed here. */
const elsewhere = useOtherNames()
const others = computed(() => elsewhere.value.map((one) => ({ ...one, point: '', thing: '', fixed: true as const })))
const twice = computed(() => (job.value ? currentUnits(job.value).filter(({ otherNames }) => otherNames.length) : []))
const placeOf = (id: string) => [...places.value, ...others.value].find((place) => place.id === id)
const nameOf = (id: string) => placeOf(id)?.name || 'a device without a name'
const whereOf = ({ room, at }: { room: string; at: string }) => [room, at].filter(Boolean).join(' · ')

const phrase = ref('')
const { answer, failed, put } = useNewestAnswer<NamesTalk>(
  () => new Worker(new URL('../../../workers/names.ts', import.meta.url), { type: 'module' }),
)
const question = computed(() => JSON.stringify({ places: [...places.value, ...others.value], phrase: phrase.value }))
watchDebounced(question, (asked) => void put(JSON.parse(asked) as NamesTalk['question']), { debounce: 150, immediate: true })

const heardCount = computed(() => named.value.length + others.value.length)
const sentence = computed(() => {
  const known = answer.value
  if (!named.value.length) return 'No device has a name yet.'
  if (!known) return 'Listening to the names …'
  const wrong = known.findings.length
  const alone = known.issues.length
  if (wrong) return `${counted(wrong, 'phrase moves', 'phrases move')} what is not meant.`
  return alone
    ? `${counted(alone, 'name', 'names')} will not be understood.`
    : heardCount.value === 1
      ? 'The name is told apart.'
      : `All ${heardCount.value} names are told apart.`
})
const nearWords: Record<Nearness, string> = {
  same: 'heard as the same',
  contained: 'holds those words',
  order: 'the same words in another order',
  room: 'is in the room of that name',
  sound: 'sounds nearly like it',
}
const habitWords: Record<Habit, string> = {
  exactly: 'exactly this name',
  'the same, else what holds it': 'this name, else what holds the words',
  'whatever holds it': 'whatever holds the words',
  'a room first': 'a room of this name first',
  'the nearest sound': 'whatever sounds like it',
}
/** Three at a time are enough to act on. */
const shownAtOnce = 3
const all = ref(false)
const findings = computed(() => (all.value ? (answer.value?.findings ?? []) : (answer.value?.findings ?? []).slice(0, shownAtOnce)))
const meantWords = ({ id, phrase: said }: Finding) => (id ? `“${said}”` : `“${said}”, for the room,`)
const tried = computed(() => answer.value?.tried ?? [])

// Better names, taken over one by one: each is decided by the record like a name that is typed.
const dropped = ref(new Set<string>())
/** A name that was given since they were looked at is somebody's own: it is not written over. */
const renames = computed(() =>
  (answer.value?.renaming.renames ?? []).filter(({ id, from }) => places.value.find((place) => place.id === id)?.name === from),
)
const taken = computed(() => renames.value.filter(({ id }) => !dropped.value.has(id)))
const left = computed(() => [...new Set((answer.value?.renaming.left ?? []).flatMap(({ ids }) => ids))])
const { busy, refusal, run } = useAction()
const give = (id: string, name: string) => {
  const { unitId, pointId } = places.value.find((place) => place.id === id)!
  return submitJob({ type: 'nameUnit', unitId, pointId, name, despiteClash: false })
}
const takeOver = () =>
  run(async () => {
    let rest = taken.value
    for (;;) {
      const given = []
      for (const one of rest) given.push({ one, answer: await give(one.id, one.to) })
      const refused = given.filter(({ answer: { ok } }) => !ok)
      // A name may be free only once another one was changed.
      if (!refused.length || refused.length === rest.length) return (refused[0] ?? given[0]!).answer
      rest = refused.map(({ one }) => one)
    }
  })
const own = reactive<Record<string, string>>({})
const typed = (id: string) => (own[id] ?? '').trim()
async function nameByHand(id: string) {
  if (await run(() => give(id, typed(id)))) delete own[id]
}
const paper = computed(() => (scheme.value.id === 'na120' ? 'letter' : 'a4'))
function saveSvg() {
  const sheets = labelSheets(
    named.value.map((place) => ({ name: place.name, where: whereOf(place) })),
    paper.value,
  )
  sheets.forEach((svg, index) =>
    saveText(`names ${page.value!.job.number}${sheets.length > 1 ? ` sheet ${index + 1}` : ''}.svg`, 'image/svg+xml', svg),
  )
}
useHead({ title: () => (page.value ? `Names · ${page.value.site.name}` : 'Names') })
</script>

<template>
  <div v-if="job && site" class="page stack">
    <header>
      <h1 class="sentence mb-1" data-testid="names-sentence">{{ sentence }}</h1>
      <p class="soft small">
        One name everywhere: app, voice, label on the wall. Listeners match words in different ways, and change; a name is good when none of
        them moves the wrong light. Sounds are those of English.
      </p>
    </header>
    <p v-if="failed" class="note amber">The names could not be listened to on this device. They can still be given by hand.</p>
    <p v-if="answer?.spelt" class="note small">
      The dictionary of sounds needs the network once. Until then names are taken as they are spelt.
    </p>
    <div class="halves">
      <section aria-label="What goes wrong" class="stack">
        <template v-if="answer && named.length">
          <h2 class="kicker">When somebody says</h2>
          <p v-if="!findings.length" class="soft">Nothing moves that is not meant.</p>
          <div v-for="finding in findings" :key="`${finding.id} ${finding.phrase}`" class="ruled">
            <b>{{ meantWords(finding) }}</b> also moves
            <span v-for="(one, index) in finding.wrong.slice(0, 4)" :key="one.id"
              >{{ index ? ', ' : '' }}<b>{{ one.name }}</b> <span class="soft">({{ nearWords[one.near] }})</span></span
            ><span v-if="finding.wrong.length > 4"> and {{ finding.wrong.length - 4 }} more</span>,
            <span class="soft">in {{ finding.habits.length }} of 5 ways of listening.</span>
          </div>
          <UButton v-if="answer.findings.length > shownAtOnce" variant="link" class="p-0" @click="all = !all">{{
            all ? 'Only the worst' : `All ${answer.findings.length}`
          }}</UButton>
          <p v-for="one in answer.issues" :key="one.id" class="note amber small">“{{ nameOf(one.id) }}” {{ issueWords[one.issue] }}.</p>
        </template>
        <form class="stack" @submit.prevent>
          <UFormField label="Try a phrase">
            <UInput v-model="phrase" placeholder="landing" class="w-full" />
          </UFormField>
          <dl v-if="tried.length" class="tried" data-testid="tried">
            <template v-for="one in tried" :key="one.habit">
              <dt class="soft small">{{ habitWords[one.habit] }}</dt>
              <dd>{{ one.ids.map(nameOf).join(', ') || 'nothing' }}</dd>
            </template>
          </dl>
        </form>
      </section>
      <section v-if="renames.length || left.length" aria-label="Better names" class="stack">
        <h2 class="kicker">Better names</h2>
        <label v-for="one in renames" :key="one.id" class="ruled row">
          <UCheckbox
            :model-value="!dropped.has(one.id)"
            :aria-label="`Rename ${one.from || 'the device without a name'} to ${one.to}`"
            :disabled="!mayName"
            @update:model-value="dropped = new Set($event ? [...dropped].filter((id) => id !== one.id) : [...dropped, one.id])"
          />
          <span class="grow"
            ><span class="soft">{{ one.from || 'no name' }}</span> → <b>{{ one.to }}</b><br /><span class="soft small">{{
              whereOf(placeOf(one.id) ?? { room: '', at: '' })
            }}</span></span
          >
        </label>
        <p v-if="left.length" class="note amber small">
          What is known of the home gives no better name for {{ left.map(nameOf).join(', ') }}: give one by hand.
        </p>
        <UButton
          v-if="renames.length && mayName"
          variant="solid"
          :loading="busy"
          :disabled="!taken.length"
          class="self-start"
          @click="takeOver"
          >Take over {{ counted(taken.length, 'name') }}</UButton
        >
      </section>
    </div>
    <p v-for="unit in twice" :key="unit.id" class="note amber">
      Two names were entered for {{ unit.name }} at the same time: pick one under
      <ULink :to="`/jobs/${job.jobId}/tests`" class="underline">Tests</ULink>.
    </p>
    <CommonRefusal :refusal="refusal" />
    <section aria-label="All names" class="stack">
      <div class="row wrap">
        <h2 class="kicker grow">All names</h2>
        <template v-if="named.length">
          <UButton :href="`/api/jobs/${job.jobId}/name-labels`" external data-paper target="_blank" icon="i-lucide-printer"
            >Labels (PDF)</UButton
          >
          <UButton icon="i-lucide-download" @click="saveSvg">Labels (SVG)</UButton>
        </template>
      </div>
      <p v-if="others.length" class="soft small">Of other jobs in this home, heard too: {{ others.map(({ name }) => name).join(', ') }}.</p>
      <p v-if="!places.length" class="soft">Devices come from the bench, with serial and code.</p>
      <form v-for="place in places" :key="place.id" class="ruled row wrap" @submit.prevent="nameByHand(place.id)">
        <span class="grow called"
          ><b>{{ place.name || 'no name yet' }}</b
          ><br /><span class="soft small">{{ whereOf(place) }}</span></span
        >
        <template v-if="mayName">
          <UInput
            v-model="own[place.id]"
            placeholder="another name"
            :aria-label="`Another name for ${place.name || whereOf(place)}`"
            class="w-52"
          />
          <UButton type="submit" :loading="busy" :disabled="!typed(place.id) || typed(place.id) === place.name">Name it</UButton>
        </template>
      </form>
    </section>
  </div>
</template>

<style scoped>
.tried {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 16px;
}
@media (max-width: 900px) {
  /* The name above its field: a thumb needs the width. */
  .called {
    flex-basis: 100%;
  }
}
</style>
