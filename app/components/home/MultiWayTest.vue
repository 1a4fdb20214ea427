<script setup lang="ts">
import type { TestResult } from '../../../core/job'
import type { FunctionalCheck } from '../../../core/commission'

/**
 * A light with several control locations, as a picture: for each location and each way the others stand, is it on and is it
 * off. A tap on the lamp passes; a tap on the cross says that it does something else.
 */
const props = defineProps<{
  checks: FunctionalCheck[]
  /** Names of the locations, in walk order. */
  locations: string[]
  results: Record<string, TestResult>
  onCrew: boolean
  busy?: boolean
}>()
const emit = defineEmits<{ pass: [checkId: string]; fail: [checkId: string] }>()
const letterOf = (index: number) => String.fromCharCode(65 + index)
/** Two locations may have one name: a check says by its id which it is of. */
const indexOf = (check: FunctionalCheck) => Number(check.id.split(':')[1])
/** One way the others stand, with what is looked at there. */
const ways = computed(() =>
  props.locations.map((location, index) => {
    const here = props.checks.filter((check) => indexOf(check) === index)
    const others = props.locations.map((_, at) => at).filter((at) => at !== index)
    const keys = [...new Set(here.map((check) => check.others!.join()))]
    return {
      location,
      stands: keys.map((key) => ({
        key,
        checks: here.filter((check) => check.others!.join() === key),
        plates: props.locations.map((_, at) => ({
          letter: letterOf(at),
          moved: at === index,
          down: at !== index && key.split(',')[others.indexOf(at)] === '1',
        })),
      })),
    }
  }),
)
const resultOf = (check: FunctionalCheck) => props.results[check.id]
const done = computed(() => props.checks.filter((check) => props.results[check.id]?.result === 'pass').length)
</script>

<template>
  <div class="multi" data-testid="multi-way">
    <p class="soft small">
      {{ done }} of {{ checks.length }} pass. The framed switch is worked, the others stand as drawn. Tap the lamp when it does that.
    </p>
    <p class="key">
      <span v-for="(location, index) in locations" :key="index"
        ><b class="mono">{{ letterOf(index) }}</b> {{ location }}</span
      >
    </p>
    <section v-for="(way, index) in ways" :key="index" :aria-label="`From ${letterOf(index)}, ${way.location}`">
      <h4 class="small">From {{ letterOf(index) }}, {{ way.location }}</h4>
      <div class="stands">
        <div v-for="stand in way.stands" :key="stand.key" class="stand">
          <svg :viewBox="`0 0 ${stand.plates.length * 34} 62`" :width="stand.plates.length * 34" height="62" aria-hidden="true">
            <g v-for="(plate, at) in stand.plates" :key="plate.letter" :transform="`translate(${at * 34 + 4} 2)`">
              <rect width="26" height="42" rx="3" class="plate" :class="{ moved: plate.moved }" />
              <template v-if="plate.moved"><path d="M13 8V34M8 13l5-6 5 6M8 29l5 6 5-6" class="arrow" /></template>
              <rect v-else x="8" :y="plate.down ? 22 : 6" width="10" height="14" class="handle" />
              <text x="13" y="56" text-anchor="middle">{{ plate.letter }}</text>
            </g>
          </svg>
          <div class="answers">
            <div v-for="check in stand.checks" :key="check.id" class="answer" :class="resultOf(check)?.result">
              <button
                type="button"
                class="lamp"
                :aria-label="`${check.what}: pass`"
                :aria-pressed="resultOf(check)?.result === 'pass'"
                :disabled="!onCrew || busy"
                @click="emit('pass', check.id)"
              >
                <svg viewBox="0 0 20 20" width="20" height="20" aria-hidden="true">
                  <circle cx="10" cy="10" r="6" :class="check.kind === 'on' ? 'lit' : 'unlit'" />
                  <path
                    v-if="check.kind === 'on'"
                    d="M10 1v2M10 17v2M1 10h2M17 10h2M3.6 3.6 5 5M15 15l1.4 1.4M3.6 16.4 5 15M15 5l1.4-1.4"
                    class="rays"
                  />
                </svg>
                {{ check.kind }}<span v-if="resultOf(check)?.result === 'pass'" class="mono"> ✓ {{ resultOf(check)!.by }}</span>
              </button>
              <button
                v-if="onCrew"
                type="button"
                class="cross"
                :aria-label="`${check.what}: fail`"
                :aria-pressed="resultOf(check)?.result === 'fail'"
                :disabled="busy"
                @click="emit('fail', check.id)"
              >
                ✗
              </button>
            </div>
          </div>
        </div>
      </div>
    </section>
  </div>
</template>

<style scoped>
.multi {
  display: grid;
  gap: 8px;
  padding: 6px 0 10px;
  border-bottom: 1px solid var(--line);
}
.key {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
}
h4 {
  font-weight: 640;
}
.stands {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(236px, 1fr));
  gap: 10px 18px;
  padding-top: 4px;
}
.stand {
  display: flex;
  gap: 10px;
  align-items: center;
}
.plate {
  fill: var(--sheet);
  stroke: var(--soft);
  stroke-width: 1.5;
}
.plate.moved {
  stroke: var(--copper);
  stroke-width: 3;
}
.arrow,
.rays {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.8;
}
.handle {
  fill: var(--ink);
}
text {
  font: 640 12px var(--font-mono);
  fill: var(--ink);
}
.lit {
  fill: var(--ink);
}
.unlit {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.8;
}
.answers {
  display: grid;
  gap: 4px;
  flex: 1;
}
.answer {
  display: flex;
}
.answer button {
  min-height: 44px;
  border: 1.5px solid var(--ink);
  background: var(--sheet);
  color: var(--ink);
  font-weight: 600;
}
.lamp {
  flex: 1;
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 0 10px;
  border-radius: 4px 0 0 4px;
  white-space: nowrap;
}
.cross {
  width: 44px;
  border-radius: 0 4px 4px 0;
  margin-left: -1.5px;
}
.answer.pass .lamp {
  border-color: var(--petrol);
  border-bottom-width: 4px;
  color: var(--petrol);
}
.answer.fail .cross {
  background: var(--live);
  border-color: var(--live);
  color: var(--sheet);
}
button:disabled {
  color: var(--soft);
  border-style: dashed;
}
</style>
