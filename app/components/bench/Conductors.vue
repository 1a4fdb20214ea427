<script setup lang="ts">
import { cableShapes, colourHint, type CableShape } from '../../../core/connect'
import { conductorColours, type BoxState, type Conductor } from '../../../core/site'
import { awgSizes, metricSizes } from '../../../core/units'

/** What is in the box, cable by cable: every conductor gets a letter. Colours are hints and are shown as such. */
const props = defineProps<{ box: BoxState }>()
const emit = defineEmits<{ done: [] }>()
const { scheme, submitSite } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const letterAt = (index: number) => (index < 26 ? String.fromCharCode(65 + index) : `A${String.fromCharCode(65 + index - 26)}`)
const na = computed(() => scheme.value.id === 'na120')
const shapes = computed(() => cableShapes[scheme.value.id])
const rows = ref<Conductor[]>(props.box.conductors.map((conductor) => ({ ...conductor })))
const cables = computed(() => [...new Set(rows.value.map((row) => row.cable))])
const colours = conductorColours.map((colour) => ({ label: colour, value: colour }))
const gauges = computed(() =>
  na.value
    ? awgSizes.map((size) => ({ label: `${size} AWG`, value: size as number }))
    : metricSizes.map((size) => ({ label: t(`${size} mm²`), value: size as number })),
)
const passages = [
  { label: 'ends here', value: 'ends' },
  { label: 'runs through', value: 'through' },
  { label: 'loop, uncut', value: 'loop' },
]
const details = ref(false)
const gaugeOf = (row: Conductor) => (na.value ? row.gaugeAwg : row.areaMm2) ?? undefined
const setGauge = (row: Conductor, size: number) => (na.value ? (row.gaugeAwg = size) : (row.areaMm2 = size))

function nextCable() {
  let number = 1
  while (cables.value.includes(`cable ${number}`)) number++
  return `cable ${number}`
}
function add(cable: string, colour: Conductor['colour']) {
  // Letters once given stay: they are on the tags at the wall.
  const used = new Set(rows.value.map((row) => row.letter))
  let index = 0
  while (used.has(letterAt(index))) index++
  rows.value.push({
    letter: letterAt(index),
    colour,
    gaugeAwg: na.value ? 14 : null,
    areaMm2: na.value ? null : 1.5,
    cable,
    course: 'ends',
  })
}
function addCable(shape: CableShape) {
  const cable = nextCable()
  for (const colour of shape.colours) add(cable, colour)
}
/** The one size of all, if all have it and none runs through. */
const alike = computed(() => {
  const [first] = rows.value
  const same = rows.value.every((row) => gaugeOf(row) === gaugeOf(first!) && row.course === 'ends')
  return same ? gauges.value.find(({ value }) => value === gaugeOf(first!))?.label : undefined
})
const remove = (row: Conductor) => rows.value.splice(rows.value.indexOf(row), 1)
async function save() {
  if (await run(() => submitSite({ type: 'recordConductors', boxId: props.box.id, conductors: rows.value }))) emit('done')
}
</script>

<template>
  <div class="stack">
    <p class="next-title">Which cables come into {{ box.name }}?</p>
    <p class="soft small">Plate off. Look, do not touch. Every conductor gets a letter and is tested; a colour is a hint, never a role.</p>
    <div class="row wrap" role="group" aria-label="Add a cable">
      <UButton v-for="shape in shapes" :key="shape.id" icon="i-lucide-plus" @click="addCable(shape)">{{ t(shape.label) }}</UButton>
      <UButton icon="i-lucide-plus" @click="add(nextCable(), 'unknown')">one conductor</UButton>
    </div>
    <fieldset v-for="cable in cables" :key="cable" class="cable">
      <legend class="kicker">{{ cable }}</legend>
      <div v-for="row in rows.filter((one) => one.cable === cable)" :key="row.letter" class="line" :class="{ details }">
        <span class="letter">{{ row.letter }}</span>
        <USelect v-model="row.colour" :items="colours" :aria-label="`${row.letter}, colour`" class="w-full" />
        <template v-if="details">
          <USelect
            :model-value="gaugeOf(row)"
            :items="gauges"
            :aria-label="`${row.letter}, gauge`"
            class="w-full"
            @update:model-value="(size: number) => setGauge(row, size)"
          />
          <USelect v-model="row.course" :items="passages" :aria-label="`${row.letter}, how it runs`" class="w-full" />
        </template>
        <UButton icon="i-lucide-x" variant="ghost" square :aria-label="`Remove ${row.letter}`" @click="remove(row)" />
        <span v-if="colourHint(scheme.id, row.colour).warning" class="hint small warn">{{
          t(colourHint(scheme.id, row.colour).warning)
        }}</span>
      </div>
      <UButton variant="link" icon="i-lucide-plus" @click="add(cable, 'unknown')">one more in {{ cable }}</UButton>
    </fieldset>
    <UButton v-if="rows.length" variant="link" class="self-start" :aria-expanded="details" @click="details = !details">{{
      details ? 'hide the sizes' : alike ? `All ${alike}, all end here` : 'Sizes, and what runs through'
    }}</UButton>
    <CommonRefusal :refusal="refusal" />
    <JobAct :loading="busy" :disabled="!rows.length" @click="save">{{
      rows.length ? `Store ${counted(rows.length, 'conductor')}` : 'Store the conductors'
    }}</JobAct>
  </div>
</template>

<style scoped>
.cable {
  border-left: 4px solid var(--line);
  padding-left: 10px;
}
.line {
  display: grid;
  grid-template-columns: 34px 1fr 44px;
  gap: 6px;
  align-items: center;
  padding: 3px 0;
}
.line.details {
  grid-template-columns: 34px 1fr 1fr 1fr 44px;
}
.letter {
  display: grid;
  place-items: center;
  width: 30px;
  height: 30px;
  border: 1.6px solid var(--ink);
  border-radius: 4px;
  font: 680 15px var(--font-mono);
}
.hint {
  grid-column: 2 / -1;
}
</style>
