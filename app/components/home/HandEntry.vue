<script setup lang="ts">
import type { JobFileText } from '../../../core/format'
import type { SchemeId } from '../../../core/units'
import { technologyWords } from '../../../core/job'
import { sentence } from '../../../core/site'
import { lowerFirst } from '../../../core/wiring/plan/other-location-words'

/** Rooms, boxes, points, panel: written down in the order one walks. Becomes the same document a job file gives. */
const props = defineProps<{
  schemeId: SchemeId
  /** What the server finds wrong, said at its row. */
  problem: Problem | null
}>()
const { t } = useTrade()
interface Entry {
  id: string
}
interface BreakerEntry extends Entry {
  number: string
  label: string
  offLimits: string
}
interface BoxEntry extends Entry {
  room: string
  name: string
  gangs: number
  size: string
  feeds: string
}
interface PointEntry extends Entry {
  room: string
  name: string
  technology: keyof typeof technologyWords
  lamps: number
  watts: number
  dimmable: boolean
  controls: string[]
}

const panel = reactive({ name: '', place: '', amps: '' })
const breakers = ref<BreakerEntry[]>([{ id: newId(), number: '1', label: '', offLimits: '' }])
const boxes = ref<BoxEntry[]>([{ id: newId(), room: '', name: '', gangs: 1, size: '', feeds: '' }])
const points = ref<PointEntry[]>([
  { id: newId(), room: '', name: '', technology: 'led', lamps: 1, watts: 9, dimmable: true, controls: [''] },
])
const technologies = Object.entries(technologyWords).map(([value, label]) => ({ value, label }))
const volumeFirst = computed(() => props.schemeId === 'na120')
const slots = computed(() =>
  boxes.value
    .filter((box) => box.name.trim())
    .flatMap((box) =>
      Array.from({ length: Number(box.gangs) || 1 }, (_, index) => ({
        label: `${box.name}${Number(box.gangs) > 1 ? `, gang ${index + 1}` : ''}`,
        value: `${box.id}/${index + 1}`,
      })),
    ),
)
const rooms = computed(() => [...new Set([...boxes.value, ...points.value].map((entry) => entry.room.trim()).filter(Boolean))])
const nextNumber = () => String(Math.max(0, ...breakers.value.map((breaker) => Number(breaker.number) || 0)) + 1)

function addBox() {
  boxes.value.push({ id: newId(), room: boxes.value.at(-1)?.room ?? '', name: '', gangs: 1, size: '', feeds: '' })
}
function addPoint() {
  points.value.push({
    id: newId(),
    room: points.value.at(-1)?.room ?? '',
    name: '',
    technology: 'led',
    lamps: 1,
    watts: 9,
    dimmable: true,
    controls: [''],
  })
}

/** The written home as the parts of a job file. */
function parts(): Pick<JobFileText, 'panels' | 'rooms' | 'boxes' | 'points'> {
  const roomKeys = new Map(rooms.value.map((name, index) => [name, `room-${index + 1}`]))
  const boxKeys = new Map(boxes.value.map((box, index) => [box.id, `box-${index + 1}`]))
  const number = (text: string) => (text.trim() === '' ? null : typedNumber(text))
  return {
    panels: [
      {
        key: 'panel',
        name: panel.name.trim() || t('{panel}'),
        place: panel.place,
        main: { number: 'main', amps: number(panel.amps), source: 'service' },
        fedFrom: null,
        breakers: breakers.value
          .filter((breaker) => breaker.number.trim())
          .map((breaker) => ({
            number: breaker.number.trim(),
            poles: 1,
            amps: null,
            label: breaker.label,
            state: 'closed',
            offLimits: breaker.offLimits.trim() || null,
          })),
      },
    ],
    rooms: rooms.value.map((name) => ({ key: roomKeys.get(name)!, name })),
    boxes: boxes.value.map((box) => {
      const feeds = box.feeds.split(/[\s,]+/).filter(Boolean)
      return {
        key: boxKeys.get(box.id)!,
        room: roomKeys.get(box.room.trim()) ?? 'missing',
        name: box.name,
        gangs: Number(box.gangs),
        volumeIn3: volumeFirst.value ? number(box.size) : null,
        depthMm: volumeFirst.value ? null : number(box.size),
        material: 'unknown',
        internalClamps: 0,
        feeds: feeds.map((breaker) => ({ panel: 'panel', breaker })),
        unknownFeed: feeds.length === 0,
      }
    }),
    points: points.value.map((point) => ({
      name: point.name,
      room: roomKeys.get(point.room.trim()) ?? 'missing',
      mustRun: point.technology === 'motor',
      load: {
        technology: point.technology,
        lamps: Number(point.lamps),
        wattsEach: typedNumber(String(point.watts)),
        dimmable: point.dimmable,
      },
      controls: point.controls.filter(Boolean).map((slot) => {
        const [id, gang] = slot.split('/')
        return { box: boxKeys.get(id!) ?? 'missing', gang: Number(gang) }
      }),
    })),
  }
}
const draft = computed({
  get: () => ({ panel: { ...panel }, breakers: breakers.value, boxes: boxes.value, points: points.value }),
  set: (value) => {
    Object.assign(panel, value.panel)
    breakers.value = value.breakers
    boxes.value = value.boxes
    points.value = value.points
  },
})
const { foundAt, forget, discard } = useDraft('job by hand', draft)
/** Everything that is wrong in one row, each in a sentence that names its field. */
const fieldWords: Record<string, string> = {
  name: 'name',
  room: 'room',
  number: 'number',
  gangs: 'gangs',
  volumeIn3: 'volume',
  depthMm: 'depth',
  feeds: t('{breakers}'),
  controls: 'switched from',
  load: 'load',
}
const wrongAt = (where: string) =>
  faultsOf(props.problem)
    .filter((fault) => liesAt(fault.where, where))
    .map((fault) => {
      const field = /^\.(\w+)/.exec(fault.where.slice(where.length))?.[1] ?? ''
      // What the file calls by a key is called by its name here.
      const said = /There is no (room|box) “missing”/.test(fault.problem) ? 'This is empty.' : fault.problem
      return fieldWords[field] ? `${fieldWords[field]}: ${lowerFirst(said)}` : said
    })
    .map(sentence)
    .join(' ')
/** A breaker without a number is left out: the rows of the file are not those of the screen. */
const breakerRow = (id: string) => breakers.value.filter((breaker) => breaker.number.trim()).findIndex((breaker) => breaker.id === id)
defineExpose({ parts, forget })
</script>

<template>
  <div class="stack">
    <CommonDraft :at="foundAt" @discard="discard" />
    <datalist id="room-names"><option v-for="room in rooms" :key="room" :value="room" /></datalist>
    <section>
      <h2 class="kicker mb-2">{{ t('{Panel}, labels as found') }}</h2>
      <div class="row wrap mb-2">
        <UInput v-model="panel.name" :aria-label="t('{Panel} name')" :placeholder="t('{panel}')" class="w-36" /><UInput
          v-model="panel.place"
          :aria-label="t('Where the {panel} is')"
          placeholder="where it is"
          class="w-48"
        /><UInput v-model="panel.amps" aria-label="Main, amps" placeholder="main, A" class="w-28" inputmode="numeric" />
      </div>
      <div v-if="breakers.length" class="row heads" aria-hidden="true">
        <span class="w-20">Number</span><span class="grow">Label as found</span><span class="grow">Do not open because</span
        ><span class="w-11" />
      </div>
      <div v-for="(breaker, index) in breakers" :key="breaker.id" class="row wrap mb-2">
        <UInput v-model="breaker.number" :aria-label="`${t('{Breaker}')} ${index + 1}, number`" class="w-20" placeholder="no." /><UInput
          v-model="breaker.label"
          :aria-label="`${t('{Breaker}')} ${index + 1}, label as found`"
          placeholder="label as found"
          class="grow"
        /><UInput
          v-model="breaker.offLimits"
          :aria-label="`${t('{Breaker}')} ${index + 1}, do not open because`"
          placeholder="do not open because …"
          class="grow"
        />
        <UButton
          icon="i-lucide-x"
          variant="ghost"
          square
          :aria-label="`${t('Remove {breaker}')} ${breaker.number}`"
          @click="breakers.splice(index, 1)"
        />
        <p v-if="breakerRow(breaker.id) >= 0 && wrongAt(`panels[0].breakers[${breakerRow(breaker.id)}]`)" class="wrong">
          {{ wrongAt(`panels[0].breakers[${breakerRow(breaker.id)}]`) }}
        </p>
      </div>
      <UButton icon="i-lucide-plus" @click="breakers.push({ id: newId(), number: nextNumber(), label: '', offLimits: '' })">{{
        t('{Breaker}')
      }}</UButton>
    </section>
    <section>
      <h2 class="kicker mb-2">Boxes, in walking order</h2>
      <div class="row heads" aria-hidden="true">
        <span class="w-36">Room</span><span class="w-40">Box</span><span class="w-28">Gangs</span
        ><span class="w-28">{{ volumeFirst ? 'Volume, in³' : 'Depth, mm' }}</span
        ><span class="w-40">{{ t('{Breakers}') }}</span>
      </div>
      <div v-for="(box, index) in boxes" :key="box.id" class="row wrap mb-2">
        <UInput v-model="box.room" list="room-names" :aria-label="`Box ${index + 1}, room`" placeholder="room" class="w-36" /><UInput
          v-model="box.name"
          :aria-label="`Box ${index + 1}, name`"
          placeholder="stair foot"
          class="w-40"
        />
        <UInput v-model="box.gangs" type="number" min="1" max="6" :aria-label="`Box ${index + 1}, gangs`" class="w-28"
          ><template #trailing><span class="soft unit">gangs</span></template></UInput
        ><UInput
          v-model="box.size"
          :aria-label="`Box ${index + 1}, ${volumeFirst ? 'volume in³' : 'depth mm'}`"
          :placeholder="volumeFirst ? 'in³' : 'depth mm'"
          class="w-28"
          inputmode="decimal"
        />
        <UInput
          v-model="box.feeds"
          :aria-label="`Box ${index + 1}, ${t('{breakers}')}`"
          :placeholder="t('{breakers}: 7, 9')"
          class="w-40"
        /><UButton
          icon="i-lucide-x"
          variant="ghost"
          square
          :aria-label="`Remove box ${box.name || index + 1}`"
          @click="boxes.splice(index, 1)"
        />
        <p v-if="wrongAt(`boxes[${index}]`)" class="wrong">{{ wrongAt(`boxes[${index}]`) }}</p>
      </div>
      <UButton icon="i-lucide-plus" @click="addBox">Box</UButton>
      <p class="soft small mt-1">
        {{ t('No {breaker} given: the feed counts as unknown, and the {main} has to be opened for work there.') }}
      </p>
    </section>
    <section>
      <h2 class="kicker mb-2">Points: what is switched, and from where</h2>
      <div class="row heads" aria-hidden="true">
        <span class="w-36">Room</span><span class="w-40">Point</span><span class="w-28">Load</span><span class="w-28">Lamps</span
        ><span class="w-24">Watts each</span>
      </div>
      <div v-for="(point, index) in points" :key="point.id" class="row wrap mb-3 pb-2 border-b border-(--line)">
        <UInput v-model="point.room" list="room-names" :aria-label="`Point ${index + 1}, room`" placeholder="room" class="w-36" /><UInput
          v-model="point.name"
          :aria-label="`Point ${index + 1}, name`"
          placeholder="stair light"
          class="w-40"
        />
        <USelect v-model="point.technology" :items="technologies" :aria-label="`Point ${index + 1}, load`" class="w-28" /><UInput
          v-model="point.lamps"
          type="number"
          min="1"
          :aria-label="`Point ${index + 1}, lamps`"
          class="w-28"
          ><template #trailing><span class="soft unit">lamps</span></template></UInput
        ><UInput v-model="point.watts" inputmode="decimal" :aria-label="`Point ${index + 1}, watts each`" class="w-24"
          ><template #trailing><span class="soft">W</span></template></UInput
        >
        <UCheckbox v-model="point.dimmable" label="dimmable" />
        <USelect
          v-for="(_, slot) in point.controls"
          :key="slot"
          v-model="point.controls[slot]"
          :items="slots"
          :aria-label="`Point ${index + 1}, switched from ${slot + 1}`"
          placeholder="switched from"
          class="w-44"
        />
        <UButton variant="link" @click="point.controls.push('')">+ place</UButton
        ><UButton
          icon="i-lucide-x"
          variant="ghost"
          square
          :aria-label="`Remove point ${point.name || index + 1}`"
          @click="points.splice(index, 1)"
        />
        <p v-if="wrongAt(`points[${index}]`)" class="wrong">{{ wrongAt(`points[${index}]`) }}</p>
      </div>
      <UButton icon="i-lucide-plus" @click="addPoint">Point</UButton>
    </section>
  </div>
</template>

<style scoped>
.unit {
  display: none;
}
.heads {
  font-size: 13px;
  color: var(--soft);
}
.wrong {
  flex-basis: 100%;
  color: var(--live);
  font-size: 14px;
}
@media (max-width: 760px) {
  /* Rows wrap there: each field says itself what it is. */
  .heads {
    display: none;
  }
  .unit {
    display: inline;
  }
}
</style>
