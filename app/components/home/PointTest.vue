<script setup lang="ts">
import { againstTestWiresOut, checksFor, pointStatus, seenWiresOut, testResults, type LightPoint } from '../../../core/job'

/** The functional test of one point: pass or fail per check, a note where it fails. */
const props = defineProps<{ point: LightPoint }>()
const { job, site, onCrew, settings, submitJob } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const checks = computed(() => checksFor(job.value!, site.value!, props.point))
/** What is looked at from several places stands in one picture; the rest, and what is being explained there, in rows. */
const pictured = computed(() => checks.value.filter((check) => check.others?.length))
const rows = computed(() =>
  checks.value.filter((check) => !check.others?.length || check.id === failing.value || results.value[check.id]?.result === 'fail'),
)
const locations = computed(() => props.point.controls.map((control) => site.value!.boxes[control.boxId]?.name ?? ''))
const results = computed(() => testResults(job.value!, site.value!, props.point))
/** The circuit is on for a moment, and a box is open: what is seen is kept, and is no test. */
const wiresOut = computed(() => settings.value.testsWiresOut && againstTestWiresOut(job.value!, site.value!, props.point.id) === null)
const seen = computed(() => seenWiresOut(job.value!, site.value!, props.point))
const shown = computed(() => (wiresOut.value ? seen.value : results.value))
const command = computed(() => (wiresOut.value ? ('testWiresOut' as const) : ('testPoint' as const)))
const status = computed(() => pointStatus(job.value!, site.value!, props.point))
const words = { passed: 'passes', failed: 'fails', partial: 'partly tested', untested: 'not tested' }
const failing = ref<string | null>(null)
const note = ref('')
const defect = ref('')
const defects = computed(() =>
  Object.values(job.value!.defects).filter((entry) => entry.pointId === props.point.id && entry.status === 'open'),
)
const settleHow = ref('')
/** Boxes of this point whose wiring was worked out: there the tests stand beside what was predicted. */
const benches = computed(() =>
  props.point.controls.flatMap((control) =>
    job.value!.boxes[control.boxId]?.wiring?.plan ? (site.value!.boxes[control.boxId] ?? []) : [],
  ),
)

const pass = (checkId: string) => run(() => submitJob({ type: command.value, pointId: props.point.id, checkId, result: 'pass', note: '' }))
async function fail(checkId: string) {
  const said = note.value
  if (!(await run(() => submitJob({ type: command.value, pointId: props.point.id, checkId, result: 'fail', note: said })))) return
  // While it was on its way another check may have been opened: what is written there stays.
  if (failing.value === checkId) failing.value = null
  if (note.value === said) note.value = ''
}
async function listDefect() {
  if (await run(() => submitJob({ type: 'listDefect', defectId: newId(), pointId: props.point.id, text: defect.value }))) defect.value = ''
}
</script>

<template>
  <section class="point" :data-testid="`test-${point.name}`">
    <h3 class="row wrap">
      <b class="text-lg">{{ point.name }}</b><span class="soft grow"
        >{{ site!.rooms[point.roomId]?.name }} · from
        {{ point.controls.map((control) => site!.boxes[control.boxId]?.name).join(', ') }}</span
      ><b :class="{ good: status === 'passed', bad: status === 'failed', soft: status === 'untested', warn: status === 'partial' }">{{
        words[status]
      }}</b>
    </h3>
    <p v-if="wiresOut" class="note hot">
      <b>On for a moment, with a box open: hands off, ends guarded.</b> What you see now is kept as seen with the wires out, and asked again
      with the boxes closed.
    </p>
    <HomeMultiWayTest
      v-if="pictured.length"
      :checks="pictured"
      :locations="locations"
      :results="shown"
      :on-crew="onCrew"
      :busy="busy"
      @pass="pass"
      @fail="failing = failing === $event ? null : $event"
    />
    <div v-for="check in rows" :key="check.id" class="check">
      <span class="grow"
        >{{ t(check.what)
        }}<span v-if="results[check.id]?.inShop" class="soft small block"
          >in the shop, {{ results[check.id]!.inShop }}; a test here counts before it</span
        ><span v-if="seen[check.id]" class="small block" :class="seen[check.id]!.result === 'pass' ? 'soft' : 'bad'"
          >with the wires out: {{ seen[check.id]!.result }} {{ seen[check.id]!.by
          }}{{ seen[check.id]!.note ? `, ${seen[check.id]!.note}` : '' }}; asked again when closed</span
        ><span v-if="results[check.id]?.measured" class="soft small block">measured: {{ results[check.id]!.measured }}</span
        ><span v-if="results[check.id]?.note" class="bad small block">{{ results[check.id]!.note }}</span></span
      >
      <span v-if="results[check.id]" class="small mono" :class="results[check.id]!.result === 'pass' ? 'good' : 'bad'"
        >{{ results[check.id]!.result }} {{ results[check.id]!.by }}</span
      >
      <template v-if="onCrew && !check.others?.length && check.kind !== 'link'"
        ><UButton
          :loading="busy"
          :variant="shown[check.id]?.result === 'pass' ? 'solid' : 'outline'"
          color="success"
          :aria-label="`${check.what}: pass`"
          @click="pass(check.id)"
          >Pass</UButton
        ><UButton
          :variant="shown[check.id]?.result === 'fail' ? 'solid' : 'outline'"
          color="error"
          :aria-label="`${check.what}: fail`"
          @click="failing = failing === check.id ? null : check.id"
          >Fail</UButton
        ></template
      >
      <form v-if="failing === check.id" class="row w-full" @submit.prevent="fail(check.id)">
        <UInput v-model="note" placeholder="What did you see?" aria-label="What did you see?" autofocus class="grow" /><UButton
          type="submit"
          color="error"
          variant="solid"
          :loading="busy"
          :disabled="note.trim().length < 3"
          >Store</UButton
        >
      </form>
    </div>
    <CommonRefusal :refusal="refusal" class="mt-2" />
    <div v-if="status === 'failed' && onCrew && !defects.length" class="stack note red mt-2">
      <span>{{
        t(
          'Wiring explains most of these: line and load swapped, common and {traveler} mixed. Can’t be fixed today? List it; the customer has to sign for it.',
        )
      }}</span>
      <NuxtLink v-for="box in benches" :key="box.id" :to="`/jobs/${job!.jobId}/wiring/${box.id}`" class="underline"
        >Which fault explains it: the wiring of {{ box.name }}</NuxtLink
      >
      <div class="row">
        <UInput
          v-model="defect"
          placeholder="Stays on with both handles down; new visit agreed"
          :aria-label="`Open defect at ${point.name}`"
          class="grow"
        /><UButton :loading="busy" :disabled="defect.trim().length < 5" @click="listDefect">List as open defect</UButton>
      </div>
    </div>
    <div v-for="entry in defects" :key="entry.id" class="note amber mt-2">
      <b>Open defect:</b> {{ entry.text }}
      <div v-if="onCrew" class="row mt-1">
        <UInput v-model="settleHow" placeholder="how it was settled" :aria-label="`How ${entry.text} was settled`" class="grow" /><UButton
          :loading="busy"
          :disabled="settleHow.trim().length < 3"
          @click="run(() => submitJob({ type: 'settleDefect', defectId: entry.id, how: settleHow }))"
          >Settled</UButton
        >
      </div>
    </div>
  </section>
</template>

<style scoped>
.point {
  border-top: 3px solid var(--ink);
  padding: 12px 0 20px;
}
.check {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
  min-height: 52px;
}
@media (max-width: 760px) {
  .check > .grow {
    flex-basis: 100%;
  }
  .check :deep(button) {
    flex: 1;
  }
}
</style>
