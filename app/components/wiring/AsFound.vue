<script setup lang="ts">
import type { BoxState } from '../../../core/site'
import { guessFound, type FoundNotes } from '../../../core/job'
import { isEarthMarked } from '../../../core/units'
import { oldTerminalWords, switchTerminals } from '../../../core/wiring'

/** The box before anything is undone: what is spliced, and which conductor is on which terminal. */
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

type Contacts = FoundNotes['oldSwitches'][number]['contacts']
const contactWords: Record<Contacts, string> = {
  single: 'single-pole switch',
  threeWay: t('{3-way} switch'),
  fourWay: t('{4-way} switch'),
  other: 'dimmer, timer, two-pole, something else, or nothing',
}
/** Of something else nobody knows what its leads are; what hung on which is noted all the same. */
const namesOf = (contacts: Contacts): readonly string[] => (contacts === 'other' ? ['a', 'b', 'c', 'd'] : switchTerminals[contacts])
const switches = ref<Contacts[]>(
  Array.from(
    { length: props.box.gangs },
    (_, index) =>
      props.notes?.oldSwitches[index]?.contacts ?? (props.farSwitches > 1 ? 'fourWay' : props.farSwitches ? 'threeWay' : 'single'),
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
const spliceCount = 5
const at = ref<Record<string, string>>({})
/** Terminals that a splice reaches by a pigtail. */
const pigtails = ref<Record<string, string[]>>({})
const earths = props.box.conductors.filter(({ colour }) => isEarthMarked(colour))
const onlyEarth = earths.length === 1 ? earths[0]!.letter : null
const guess = guessFound(props.box, props.farSwitches)
function fill({ splices, oldSwitches }: Pick<FoundNotes, 'splices' | 'oldSwitches'>) {
  for (const { letter } of props.box.conductors) {
    const splice = splices.findIndex((letters) => letters.includes(letter))
    // Where nobody has looked yet nothing is said; an earth alone hangs on the box or the yoke.
    at.value[letter] = splice >= 0 ? `splice ${splice + 1}` : props.notes || letter === onlyEarth ? 'loose' : ''
  }
  oldSwitches.forEach((old, index) => {
    for (const [name, letters] of Object.entries(old.terminals))
      for (const letter of letters) {
        const key = `${index} ${name}`
        if (at.value[letter] === 'loose' || at.value[letter] === '') at.value[letter] = key
        else if (at.value[letter]?.startsWith('splice')) (pigtails.value[at.value[letter]!] ??= []).push(key)
      }
  })
}
fill(props.notes ?? guess)
/** What is usual stands as sentences to be looked at one by one; each place by itself where it is otherwise. */
const usual = ref(props.notes === null && guess.whole)
const onSwitch = computed(() =>
  guess.oldSwitches.map(({ contacts, terminals }, index) => {
    const whose = props.box.gangs > 1 ? `Gang ${index + 1}, ` : 'Old '
    return `${whose}${contactWords[contacts]}: ${Object.values(terminals).flat().join(' and ')} on its two screws.`
  }),
)
const colourOf = (letter: string) => props.box.conductors.find((one) => one.letter === letter)?.colour ?? ''
const terminalItems = computed(() =>
  switches.value.flatMap((contacts, index) =>
    namesOf(contacts).map((name) => ({
      value: `${index} ${name}`,
      label: `${props.box.gangs > 1 ? `gang ${index + 1}: ` : ''}${t(oldTerminalWords[name])}`,
    })),
  ),
)
const items = computed(() => [
  { value: 'loose', label: 'loose or capped' },
  ...Array.from({ length: spliceCount }, (_, index) => ({ value: `splice ${index + 1}`, label: `splice ${index + 1}` })),
  ...terminalItems.value,
])
const used = computed(() => [...new Set(Object.values(at.value))].filter((place) => place.startsWith('splice')).sort())
const contactItems = Object.entries(contactWords).map(([value, label]) => ({ value: value as Contacts, label }))
const unsaid = computed(() => props.box.conductors.filter(({ letter }) => !at.value[letter]).map(({ letter }) => letter))
const lonely = computed(() => used.value.filter((place) => Object.values(at.value).filter((other) => other === place).length < 2))

const draft = computed({
  get: () => ({
    switches: switches.value,
    far: far.value,
    guards: guards.value,
    wiredYear: wiredYear.value,
    at: at.value,
    pigtails: pigtails.value,
    usual: usual.value,
  }),
  set: (value) => {
    switches.value = value.switches
    far.value = value.far
    guards.value = value.guards
    wiredYear.value = value.wiredYear
    at.value = value.at
    pigtails.value = value.pigtails
    usual.value = value.usual
  },
})
// Of the conductors as they are on record: with others it says nothing.
const { foundAt, forget, discard } = useDraft(
  `as found ${props.box.id} ${props.box.conductors.map(({ letter, colour, cable }) => `${letter}${colour}${cable}`).join()}`,
  draft,
)
watch(() => props.notes, forget)
function store() {
  const on = (place: string) => props.box.conductors.map((conductor) => conductor.letter).filter((letter) => at.value[letter] === place)
  emit('store', {
    farSwitches: far.value,
    complete: true,
    wiredYear: year.value,
    guards: { ...guards.value },
    splices: used.value.map(on),
    oldSwitches: switches.value.flatMap((contacts, index) => {
      const terminals = Object.fromEntries(
        namesOf(contacts).map((name) => {
          const key = `${index} ${name}`
          const splice = used.value.find((place) => pigtails.value[place]?.includes(key))
          return [name, splice ? [on(splice)[0]!] : on(key)]
        }),
      )
      const nothing = contacts === 'other' && Object.values(terminals).every((letters) => !letters.length)
      return nothing ? [] : [{ contacts, terminals }]
    }),
  })
}
</script>

<template>
  <div class="stack">
    <h2 class="next-title">The box as found</h2>
    <p class="soft">
      Before anything is undone: look, photograph, and note where every conductor ends. These notes rule arrangements out; they establish
      nothing.
    </p>
    <CommonDraft :at="foundAt" @discard="discard" />
    <template v-if="usual">
      <ul class="usual" data-testid="usual">
        <li v-for="splice in guess.splices" :key="splice.join()">
          <b class="mono">{{ splice.join(' + ') }}</b> together ({{ splice.map(colourOf).join(', ') }})
        </li>
        <li v-for="line in onSwitch" :key="line">{{ line }}</li>
        <li v-if="!farSwitches">No other place switches this light.</li>
      </ul>
      <p class="small warn">This is only what is usual for such cables. Check each conductor: a wrong note stops the bench.</p>
      <UButton class="self-start" @click="usual = false">Something is different</UButton>
    </template>
    <template v-else>
      <label v-for="(contacts, index) in switches" :key="index" class="row">
        <span class="grow">{{ box.gangs > 1 ? `Gang ${index + 1}` : 'The old switch' }}</span>
        <USelect v-model="switches[index]" :items="contactItems" :aria-label="`Old switch of gang ${index + 1}`" class="w-56" />
      </label>
      <label class="row">
        <span class="grow">Other places that switch the same light</span>
        <USelect
          v-model="far"
          :items="[0, 1, 2].map((value) => ({ value, label: String(value) }))"
          aria-label="Other switches"
          class="w-24"
        />
      </label>
      <label v-for="circuit in circuits" :key="circuit" class="row">
        <span class="grow">Protection of circuit {{ circuit }}</span>
        <USelect
          :model-value="guards[circuit] ?? 'none'"
          :items="guardItems"
          :aria-label="`Protection of circuit ${circuit}`"
          class="w-44"
          @update:model-value="(guard: string) => (guards[circuit] = guard as 'none')"
        />
      </label>
      <label class="row">
        <span class="grow">Wired about the year, if known <span class="soft small">orders the tests, decides nothing</span></span>
        <UInput v-model="wiredYear" inputmode="numeric" aria-label="Year of the wiring" placeholder="unknown" class="w-24" />
      </label>
      <p v-if="wiredYear.trim() && year === null" class="small warn">A year between 1850 and 2100, or nothing.</p>
      <label v-for="conductor in box.conductors" :key="conductor.letter" class="row">
        <b class="mono letter">{{ conductor.letter }}</b>
        <span class="grow small"
          >{{ conductor.colour }} <span class="soft">{{ conductor.cable }}</span></span
        >
        <USelect
          v-model="at[conductor.letter]"
          :items="items"
          :aria-label="`Where ${conductor.letter} ends`"
          placeholder="look"
          class="w-44"
        />
      </label>
      <label v-for="place in used" :key="place" class="row">
        <span class="grow small">Pigtails from {{ place }}</span>
        <USelect
          :model-value="pigtails[place] ?? []"
          multiple
          :items="terminalItems"
          placeholder="none"
          :aria-label="`Pigtails from ${place}`"
          class="w-44"
          @update:model-value="(value: string[]) => (pigtails[place] = value)"
        />
      </label>
    </template>
    <p v-if="unsaid.length" class="small warn">Where does {{ unsaid.join(', ') }} end?</p>
    <p v-if="lonely.length" class="small warn">{{ lonely.join(', ') }}: a splice holds at least two conductors.</p>
    <JobAct :loading="busy" :disabled="unsaid.length > 0 || lonely.length > 0 || (wiredYear.trim() !== '' && year === null)" @click="store"
      >This is how it was</JobAct
    >
  </div>
</template>

<style scoped>
.letter {
  width: 26px;
}
.usual {
  display: grid;
  gap: 8px;
  font-size: 17px;
}
</style>
