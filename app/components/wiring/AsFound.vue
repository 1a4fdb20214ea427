<script setup lang="ts">
import type { BoxState } from '../../../core/site'
import { asFoundPlan, guessFound, notesOfPlan, oldTerminalsOf, unsaidIn, type FoundNotes, type OldContacts } from '../../../core/job'
import { counted } from '../../../core/units/counted'
import { isEarthMarked } from '../../../core/units'
import { placeConductor, type PlaceTarget } from '../../../core/wiring'
import { oldSwitchSketch } from '../../../core/wiring/sketch'
import type { SketchConductor, SketchDevice } from '../../../core/wiring/sketch-layout'

/** The box before anything is undone, as a drawing: tap a conductor, then where it ends. */
const props = defineProps<{
  box: BoxState
  circuits: string[]
  notes: FoundNotes | null
  /** What was noted at other boxes of the home and holds here too. */
  elsewhere?: Pick<FoundNotes, 'guards' | 'wiredYear'>
  farSwitches: number
  busy: boolean
  yearBuilt: number | null
}>()
const emit = defineEmits<{ store: [notes: FoundNotes] }>()
const { t } = useTrade()

const contactWords: Record<OldContacts, string> = {
  single: 'single-pole switch',
  threeWay: t('{3-way} switch'),
  fourWay: t('{4-way} switch'),
  other: 'dimmer, timer, two-pole, something else, or nothing',
}
const switches = ref<OldContacts[]>(
  Array.from(
    { length: props.box.gangs },
    (_, index) =>
      props.notes?.oldSwitches[index]?.contacts ??
      // What was noted once and is not there was nothing.
      (props.notes ? 'other' : props.farSwitches > 1 ? 'fourWay' : props.farSwitches ? 'threeWay' : 'single'),
  ),
)
const far = ref(props.notes?.farSwitches ?? Math.min(2, props.farSwitches))
const guardItems = [
  { value: 'none', label: 'overcurrent only' },
  { value: 'residualCurrent', label: t('{rcd}') },
  { value: 'arcFault', label: 'AFCI' },
]
const guards = ref<NonNullable<FoundNotes['guards']>>({ ...(props.notes ?? props.elsewhere)?.guards })
const wiredYear = ref(String(props.notes ? (props.notes.wiredYear ?? '') : (props.elsewhere?.wiredYear ?? props.yearBuilt ?? '')))
const year = computed(() => {
  const value = Number(wiredYear.value)
  return Number.isInteger(value) && value >= 1850 && value <= 2100 ? value : null
})
const letters = props.box.conductors.map(({ letter }) => letter)
const earths = props.box.conductors.filter(({ colour }) => isEarthMarked(colour))
const guess = guessFound(props.box, props.farSwitches)
function begun() {
  const from = asFoundPlan(props.notes ?? guess, props.box.gangs, [])
  const unsaid = unsaidIn(from, letters)
  // Where nobody has looked yet nothing is said; an earth alone hangs on the box or the yoke.
  from.capped = props.notes ? unsaid : earths.length === 1 ? unsaid.filter((letter) => letter === earths[0]!.letter) : []
  return from
}
const drawn = ref(begun())
/** What is usual stands as sentences to be looked at one by one; each place by itself where it is otherwise. */
const usual = ref(props.notes === null && guess.whole)
const onSwitch = computed(() =>
  guess.oldSwitches.map(({ contacts, terminals }, index) => {
    const whose = props.box.gangs > 1 ? `Gang ${index + 1}, ` : 'Old '
    return `${whose}${contactWords[contacts]}: ${Object.values(terminals).flat().join(' and ')} on its two screws.`
  }),
)
const colourOf = (letter: string) => props.box.conductors.find((one) => one.letter === letter)?.colour ?? ''
const contactItems = Object.entries(contactWords).map(([value, label]) => ({ value: value as OldContacts, label }))
// A terminal that the other kind of switch does not have holds nothing.
watch(
  switches,
  (kinds) => {
    for (const one of drawn.value.kept) {
      const names = oldTerminalsOf(kinds[one.old - 1]!)
      one.terminals = Object.fromEntries(Object.entries(one.terminals).filter(([name]) => names.includes(name)))
    }
  },
  { deep: true },
)

const conductors = computed((): SketchConductor[] =>
  props.box.conductors.map(({ letter, colour, cable }) => ({ letter, colour, cable, word: null })),
)
const devices = computed((): SketchDevice[] =>
  t(
    switches.value.map((contacts, index) =>
      oldSwitchSketch(
        index + 1,
        {
          name: contacts === 'other' ? 'dimmer or other' : contactWords[contacts],
          note: props.box.gangs > 1 ? `gang ${index + 1}` : '',
        },
        oldTerminalsOf(contacts),
        drawn.value.kept[index]?.terminals ?? {},
      ),
    ),
  ),
)
const picked = ref<string | null>(null)
function lay(letter: string, target: PlaceTarget) {
  drawn.value = placeConductor(drawn.value, letter, target)
  picked.value = null
}
function pick(letter: string) {
  if (usual.value) return
  if (picked.value === letter) picked.value = null
  else if (picked.value) lay(picked.value, { kind: 'letter', letter })
  else picked.value = letter
}
const place = (target: PlaceTarget) => picked.value && lay(picked.value, target)
const unsaid = computed(() => unsaidIn(drawn.value, letters))

const draft = computed({
  get: () => ({
    switches: switches.value,
    far: far.value,
    guards: guards.value,
    wiredYear: wiredYear.value,
    drawn: drawn.value,
    usual: usual.value,
  }),
  set: (value) => {
    switches.value = value.switches
    far.value = value.far
    guards.value = value.guards
    wiredYear.value = value.wiredYear
    drawn.value = value.drawn
    usual.value = value.usual
  },
})
// Of the conductors as they are on record: with others it says nothing.
const { foundAt, forget, discard } = useDraft(
  `drawn as found ${props.box.id} ${props.box.conductors.map(({ letter, colour, cable }) => `${letter}${colour}${cable}`).join()}`,
  draft,
)
watch(() => props.notes, forget)
const store = () =>
  emit('store', {
    farSwitches: far.value,
    complete: true,
    wiredYear: year.value,
    guards: { ...guards.value },
    ...notesOfPlan(drawn.value, switches.value),
  })
</script>

<template>
  <div class="stack">
    <h2 class="next-title">The box as found</h2>
    <CommonDraft :at="foundAt" @discard="discard" />
    <div class="sheet">
      <WiringBoxSketch
        class="drawing"
        :label="`${box.name} as found: ${counted(letters.length, 'conductor')}`"
        :conductors="conductors"
        :splices="drawn.splices.map((splice) => splice.letters)"
        :capped="drawn.capped"
        :devices="devices"
        :selected="picked ? [picked] : []"
        :movable="!usual"
        @pick="pick"
        @place="place"
        @drop="lay"
      />
      <template v-if="!usual">
        <div class="fields">
          <UFormField
            v-for="(contacts, index) in switches"
            :key="index"
            :label="box.gangs > 1 ? `Old switch of gang ${index + 1}` : 'The old switch'"
            ><USelect v-model="switches[index]" :items="contactItems" :aria-label="`Old switch of gang ${index + 1}`" class="w-full"
          /></UFormField>
          <UFormField label="Other locations that switch the same light"
            ><USelect
              v-model="far"
              :items="[0, 1, 2].map((value) => ({ value, label: String(value) }))"
              aria-label="Other switches"
              class="w-full"
          /></UFormField>
          <UFormField v-for="circuit in circuits" :key="circuit" :label="`Protection of circuit ${circuit}`"
            ><USelect
              :model-value="guards[circuit] ?? 'none'"
              :items="guardItems"
              :aria-label="`Protection of circuit ${circuit}`"
              class="w-full"
              @update:model-value="(guard: string) => (guards[circuit] = guard as 'none')"
          /></UFormField>
          <UFormField
            label="Wired about the year, if known"
            help="Orders the tests, decides nothing."
            :error="wiredYear.trim() && year === null ? 'A year between 1850 and 2100, or nothing.' : undefined"
            ><UInput v-model="wiredYear" inputmode="numeric" aria-label="Year of the wiring" placeholder="unknown"
          /></UFormField>
        </div>
      </template>
    </div>
    <p class="soft">
      Before anything is undone: look, photograph, and note where every conductor ends. These notes rule arrangements out; they establish
      nothing.
    </p>
    <JobDock>
      <div v-if="picked" class="row wrap held">
        <span
          ><b class="mono">{{ picked }}</b> selected. Tap the screw, the splice or the conductor it goes to.</span
        >
        <UButton @click="lay(picked, { kind: 'cap' })">{{ picked }} loose or capped</UButton>
        <UButton variant="ghost" @click="picked = null">Deselect</UButton>
      </div>
      <p v-else-if="!usual && unsaid.length === 0" class="soft small">
        A conductor of a splice that is put on a screw stands for a pigtail from that splice.
      </p>
      <template v-if="usual">
        <ul class="usual" data-testid="usual">
          <li v-for="splice in guess.splices" :key="splice.join()">
            <b class="mono">{{ splice.join(' + ') }}</b> together ({{ splice.map(colourOf).join(', ') }})
          </li>
          <li v-for="line in onSwitch" :key="line">{{ line }}</li>
          <li v-if="!farSwitches">No other location switches this light.</li>
        </ul>
        <p class="small warn">This is only what is usual for such cables. Check each conductor: a wrong note stops the bench.</p>
        <UButton class="self-start" @click="usual = false">Something is different</UButton>
      </template>
      <p v-if="unsaid.length && !picked" class="warn" data-testid="unsaid">
        Where {{ unsaid.length === 1 ? 'does' : 'do' }} {{ unsaid.join(', ') }} end? Tap the conductor, then the place.
      </p>
      <JobAct v-if="!picked" :loading="busy" :disabled="unsaid.length > 0 || (wiredYear.trim() !== '' && year === null)" @click="store"
        >This is how it was</JobAct
      >
    </JobDock>
  </div>
</template>

<style scoped>
.usual {
  display: grid;
  gap: 6px;
  font-size: 17px;
}
.held {
  border: 1.5px solid var(--ink);
  border-left: 8px solid var(--copper-bar);
  border-radius: 4px;
  padding: 8px 12px;
  background: var(--sheet);
}
/* The drawing and what is asked beside it. */
.sheet {
  display: grid;
  gap: 16px 32px;
  align-items: start;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 260px), 1fr));
  gap: 12px 20px;
}
@media (min-width: 901px) {
  .sheet:has(.fields) {
    grid-template-columns: minmax(0, 1fr) 340px;
  }
  .drawing {
    max-height: calc(100dvh - 320px);
    min-height: 400px;
  }
}
</style>
