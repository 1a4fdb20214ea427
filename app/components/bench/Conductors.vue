<script setup lang="ts">
import { colourHint } from '../../../core/connect'
import { conductorColours, type BoxState, type Conductor } from '../../../core/safety'
import { awgSizes, metricSizes } from '../../../core/units'

/** What is in the box: every conductor gets a letter. Colours are hints and are shown as such. */
const props = defineProps<{ box: BoxState }>()
const emit = defineEmits<{ done: [] }>()
const { scheme, giveSite } = injectJobRecord()
const { busy, refusal, run } = useAction()
const letterAt = (index: number) => (index < 26 ? String.fromCharCode(65 + index) : `A${String.fromCharCode(65 + index - 26)}`)
const blank = (cable: string): Conductor => ({
  letter: '',
  colour: 'unknown',
  gaugeAwg: na.value ? 14 : null,
  areaMm2: na.value ? null : 1.5,
  cable,
  course: 'ends',
})
const na = computed(() => scheme.value.id === 'na120')
const rows = ref<Conductor[]>(props.box.conductors.length ? props.box.conductors.map((conductor) => ({ ...conductor })) : [])
if (!rows.value.length) addCable('from panel')
const colours = conductorColours.map((colour) => ({ label: colour, value: colour }))
const gauges = computed(() =>
  na.value
    ? awgSizes.map((size) => ({ label: `${size} AWG`, value: size as number }))
    : metricSizes.map((size) => ({ label: `${size} mm²`, value: size as number })),
)
const courses = [
  { label: 'ends here', value: 'ends' },
  { label: 'runs through', value: 'through' },
  { label: 'loop, uncut', value: 'loop' },
]
const gaugeOf = (row: Conductor) => (na.value ? row.gaugeAwg : row.areaMm2) ?? undefined
const setGauge = (row: Conductor, size: number) => (na.value ? (row.gaugeAwg = size) : (row.areaMm2 = size))

function addCable(cable: string) {
  const usual = na.value ? (['black', 'white', 'bare'] as const) : (['brown', 'blue', 'green-yellow'] as const)
  for (const colour of usual) rows.value.push({ ...blank(cable), colour })
  relabel()
}
function addOne() {
  rows.value.push(blank(rows.value.at(-1)?.cable ?? ''))
  relabel()
}
/** Letters once given stay: they are on the tags at the wall. */
function relabel() {
  const used = new Set(rows.value.map((row) => row.letter).filter(Boolean))
  for (const row of rows.value) {
    if (row.letter) continue
    let index = 0
    while (used.has(letterAt(index))) index++
    row.letter = letterAt(index)
    used.add(row.letter)
  }
}
async function save() {
  if (await run(() => giveSite({ type: 'recordConductors', boxId: props.box.id, conductors: rows.value }))) emit('done')
}
</script>

<template>
  <div class="stack">
    <p class="soft">Look, do not touch. Every conductor you see gets a letter and is tested. A colour is a hint, never a role.</p>
    <div v-for="(row, index) in rows" :key="row.letter" class="line">
      <span class="letter">{{ row.letter }}</span>
      <USelect v-model="row.colour" :items="colours" :aria-label="`${row.letter}, colour`" class="w-full" />
      <USelect
        :model-value="gaugeOf(row)"
        :items="gauges"
        :aria-label="`${row.letter}, gauge`"
        class="w-full"
        @update:model-value="(size: number) => setGauge(row, size)"
      />
      <UInput v-model="row.cable" :aria-label="`${row.letter}, cable`" placeholder="cable" />
      <USelect v-model="row.course" :items="courses" :aria-label="`${row.letter}, course`" class="w-full" />
      <UButton icon="i-lucide-x" variant="ghost" square :aria-label="`Remove ${row.letter}`" @click="rows.splice(index, 1)" />
      <span class="hint small soft"
        >suggests {{ colourHint(scheme.id, row.colour).suggests
        }}<template v-if="colourHint(scheme.id, row.colour).warning">
          · <span class="warn">{{ colourHint(scheme.id, row.colour).warning }}</span></template
        ></span
      >
    </div>
    <div class="row wrap">
      <UButton icon="i-lucide-plus" @click="addCable(`cable ${rows.length}`)">Cable of three</UButton
      ><UButton icon="i-lucide-plus" @click="addOne">One conductor</UButton>
    </div>
    <CommonRefusal :refusal="refusal" />
    <UButton variant="solid" size="xl" block :loading="busy" :disabled="!rows.length" @click="save"
      >Store {{ rows.length }} conductors</UButton
    >
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 34px 1fr 1fr;
  gap: 6px;
  align-items: center;
  padding-bottom: 8px;
  border-bottom: 1px solid var(--line);
}
.line > :nth-child(4) {
  grid-column: 2;
}
.line > :nth-child(5) {
  grid-column: 3;
}
.line > :nth-child(6) {
  grid-column: 1;
  grid-row: 2;
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
