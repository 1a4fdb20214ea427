<script setup lang="ts">
import { routineSaid } from '../../../../core/automation/describe'
import type { AutomationFinding } from '../../../../core/automation'
import type { HomeDevice } from '../../../../core/automation/home'
import type { Habits, Routine, Sensor } from '../../../../core/automation/model.schema'
import { runWords, sensorWords } from '../../../../core/automation/words'

/** What the home does by itself: schedules and rules, played through a year, and what goes wrong in it first. */
const { page, job, site, onCrew, submitJob } = injectJobRecord()
const session = useSession()
const mayChange = computed(() => onCrew.value || session.isOffice)
const { region, telling, home, others, seed, deviceId, date, answer, failed, thinking, findings, sentence, dayOf, seenWords } =
  useYearPlayed()
const shownAtOnce = 3
const all = ref(false)
const picture = ref(false)
function look(finding: AutomationFinding) {
  picture.value = true
  deviceId.value = finding.deviceIds[0] ?? null
  date.value = finding.at === null ? null : dayOf(finding.at)
}

const { busy, refusal, run } = useAction()
function mend({ fix }: AutomationFinding) {
  if (!fix) return
  return run(() =>
    submitJob(
      fix.change === 'routine'
        ? { type: 'setRoutine', routine: plain(fix.routine) }
        : fix.change === 'behaviour'
          ? { type: 'setBehaviour', deviceId: fix.deviceId, behaviour: plain(fix.behaviour) }
          : { type: 'dropRoutine', routineId: fix.routineId },
    ),
  )
}
const pause = (routine: Routine) => run(() => submitJob({ type: 'setRoutine', routine: plain({ ...routine, paused: !routine.paused }) }))
/** A finger that slipped loses nothing. */
const dropped = shallowRef<Routine | null>(null)
async function drop(routine: Routine) {
  if (await run(() => submitJob({ type: 'dropRoutine', routineId: routine.id }))) dropped.value = plain(routine)
}
async function putBack() {
  const routine = dropped.value
  if (routine && (await run(() => submitJob({ type: 'setRoutine', routine })))) dropped.value = null
}

// One sheet for whatever is being changed.
type Open =
  | { what: 'routine'; routine: Routine; title: string }
  | { what: 'device'; device: HomeDevice }
  | { what: 'habits'; habits: Habits }
  | { what: 'sensor'; sensor: Sensor }
const open = shallowRef<Open | null>(null)
const title = computed(() => {
  const is = open.value
  if (!is) return ''
  if (is.what === 'routine') return is.title
  return is.what === 'device'
    ? `${is.device.name}, by itself`
    : is.what === 'habits'
      ? 'How the house is lived in'
      : is.sensor.name || 'A new sensor'
})
const everyDay = [1, 2, 3, 4, 5, 6, 7]
const runs = computed(() => (home.value.habits.hub ? 'hub' : 'cloud') as Routine['runs'])
const same = (name: string) => ({ id: newId(), name: freeName(name), runs: runs.value, paused: false, modes: [] })
const freeName = (name: string) => {
  const taken = new Set(home.value.routines.map((one) => one.name.toLowerCase()))
  for (let turn = 1; ; turn++) {
    const next = turn === 1 ? name : `${name} ${turn}`
    if (!taken.has(next.toLowerCase())) return next
  }
}
const lights = computed(() => home.value.devices.filter(({ light }) => light))
/** What most homes are given, ready to be changed. */
const starts: { label: string; make: () => Routine }[] = [
  {
    label: 'On and off by the sun',
    make: () => ({
      ...{
        ...same('Evening light'),
        kind: 'pair',
        deviceIds: lights.value.slice(0, 1).map(({ id }) => id),
        days: everyDay,
        date: null,
        level: null,
      },
      ...{ on: { at: 'sunset', offset: 0 }, off: { at: 'clock', minute: 23 * 60 } },
    }),
  },
  {
    label: 'Bedtime with a night light',
    make: () => {
      const ids = lights.value.map(({ id }) => id)
      const night = lights.value.find(({ name }) => /night|bedside|strip/i.test(name))?.id ?? ids.at(-1) ?? ''
      return {
        ...{ ...same('Bedtime'), kind: 'rule', when: [{ is: 'household', does: 'goesToBed' }], only: [] },
        then: [
          ...ids.filter((id) => id !== night).map((id) => ({ do: 'off' as const, deviceId: id, afterSeconds: 0 })),
          { do: 'on', deviceId: night, level: 10, afterSeconds: 0, forSeconds: null },
        ],
      }
    },
  },
  {
    label: 'A rule',
    make: () => ({
      ...{
        ...same('Rule'),
        kind: 'rule',
        only: [],
        when: [{ is: 'time', moment: { at: 'sunset', offset: 0 }, days: everyDay, date: null }],
      },
      then: [{ do: 'on', deviceId: home.value.devices[0]?.id ?? '', level: null, afterSeconds: 0, forSeconds: null }],
    }),
  },
  {
    label: 'As if somebody were home',
    make: () => ({
      ...{ ...same('As if somebody were home'), kind: 'presence', deviceIds: lights.value.slice(0, 3).map(({ id }) => id) },
      ...{ from: { at: 'sunset', offset: 0 }, to: { at: 'clock', minute: 23 * 60 } },
    }),
  },
  {
    label: 'On and off in turn',
    make: () => ({
      ...{ ...same('In turn'), kind: 'loop', deviceIds: home.value.devices.slice(0, 1).map(({ id }) => id), days: everyDay },
      ...{ from: { at: 'clock', minute: 6 * 60 }, to: { at: 'clock', minute: 20 * 60 }, onMinutes: 15, offMinutes: 45 },
    }),
  },
]
const itself = ({ behaviour: { powerOn, autoOnMinutes, autoOffMinutes, mustRun } }: HomeDevice) =>
  [
    mustRun ? 'must run' : '',
    powerOn === 'last' ? 'after an interruption as it was' : `after an interruption ${powerOn}`,
    autoOnMinutes === null ? '' : `on again after ${autoOnMinutes} min`,
    autoOffMinutes === null ? '' : `off after ${autoOffMinutes} min`,
  ]
    .filter(Boolean)
    .join(' · ')
const mustRun = computed(() => home.value.devices.filter(({ behaviour }) => behaviour.mustRun))
const standStill = computed(() => home.value.routines.filter((one) => !one.paused && one.runs === 'cloud').map(({ name }) => name))
const chosen = computed(() => [
  { value: 'all', label: 'all devices' },
  ...home.value.devices.map(({ id, name }) => ({ value: id, label: name })),
])
useHead({ title: () => (page.value ? `Schedules and rules · ${page.value.site.name}` : 'Schedules and rules') })
</script>

<template>
  <div v-if="job && site" class="page stack">
    <header>
      <h1 class="sentence mb-1" data-testid="schedules-sentence">{{ sentence }}</h1>
      <p class="soft small">
        A year is played with the sun of this place, with people who come, sit, forget and go, and with lines that fail. It is one such
        year, not a promise: what must not fail is tried in the home as well.
      </p>
    </header>
    <p v-if="!page!.site.position && home.devices.length" class="note amber">
      Nobody has shown where this home is: the sun rises at six and sets at six here. The office shows it on the map of the day.
    </p>
    <p v-if="others" class="note small">Not played, since other jobs put them in: {{ others }}.</p>
    <p v-if="failed" class="note amber">The year could not be played on this device. Schedules can still be set.</p>
    <CommonRefusal :refusal="refusal" />
    <section v-if="findings.length" aria-label="What goes wrong" class="stack">
      <h2 class="kicker">What goes wrong</h2>
      <div v-for="finding in all ? findings : findings.slice(0, shownAtOnce)" :key="finding.sentence" class="ruled" :class="finding.kind">
        <p>
          <b v-if="finding.kind === 'mustRunOff'" class="bad">Must run. </b>{{ finding.sentence }}
          <span class="soft">{{ seenWords(finding) }}</span>
        </p>
        <div class="row wrap">
          <UButton v-if="finding.fix && mayChange" variant="solid" :loading="busy" @click="mend(finding)">{{
            finding.fix.sentence
          }}</UButton>
          <UButton v-if="finding.at !== null" icon="i-lucide-chart-gantt" @click="look(finding)">Look at the day</UButton>
        </div>
      </div>
      <UButton v-if="findings.length > shownAtOnce" variant="link" class="p-0 self-start" @click="all = !all">{{
        all ? 'Only the worst' : `All ${findings.length}`
      }}</UButton>
    </section>
    <section aria-label="Schedules and rules" class="stack">
      <h2 class="kicker">Schedules and rules</h2>
      <p v-if="!home.routines.length" class="soft">None yet.{{ mayChange && home.devices.length ? ' Begin with one of these.' : '' }}</p>
      <div v-for="routine in home.routines" :key="routine.id" class="ruled" data-testid="routine">
        <p>
          <b>{{ routine.name }}</b> <span v-if="routine.paused" class="warn">paused</span><br />{{ routineSaid(routine, home, telling) }}
          <span class="soft small">Runs {{ runWords[routine.runs] }}.</span>
        </p>
        <div v-if="mayChange" class="row wrap">
          <UButton @click="open = { what: 'routine', routine, title: routine.name }">Change</UButton>
          <UButton :loading="busy" :aria-label="`${routine.paused ? 'Go on with' : 'Pause'} ${routine.name}`" @click="pause(routine)">{{
            routine.paused ? 'Go on' : 'Pause'
          }}</UButton>
          <UButton :loading="busy" :aria-label="`Delete ${routine.name}`" @click="drop(routine)">Delete</UButton>
        </div>
      </div>
      <p v-if="dropped" class="row wrap" role="status">
        <span>“{{ dropped.name }}” is deleted.</span> <UButton :loading="busy" @click="putBack">Put it back</UButton>
      </p>
      <div v-if="mayChange && home.devices.length" class="row wrap">
        <UButton
          v-for="one in starts"
          :key="one.label"
          icon="i-lucide-plus"
          @click="open = { what: 'routine', routine: one.make(), title: one.label }"
          >{{ one.label }}</UButton
        >
      </div>
      <p v-if="standStill.length" class="small">
        Without internet these stand still: {{ standStill.join(', ') }}. Everything else goes on.
      </p>
    </section>
    <div class="halves">
      <section aria-label="Devices by themselves" class="stack">
        <h2 class="kicker">Devices, by themselves</h2>
        <p v-if="!home.devices.length" class="soft">Devices come from the bench, with serial and code.</p>
        <div v-for="device in home.devices" :key="device.id" class="ruled row">
          <span class="grow"
            ><b>{{ device.name }}</b
            ><br /><span class="soft small">{{ itself(device) }}</span></span
          >
          <UButton v-if="mayChange" :aria-label="`Change what ${device.name} does by itself`" @click="open = { what: 'device', device }"
            >Change</UButton
          >
        </div>
      </section>
      <section aria-label="Sensors and people" class="stack">
        <h2 class="kicker">Sensors</h2>
        <div v-for="sensor in home.sensors" :key="sensor.id" class="ruled row">
          <span class="grow"
            ><b>{{ sensor.name }}</b
            ><br /><span class="soft small">{{ sensorWords[sensor.kind] }}</span></span
          >
          <UButton v-if="mayChange" :aria-label="`Change sensor ${sensor.name}`" @click="open = { what: 'sensor', sensor }">Change</UButton>
        </div>
        <UButton
          v-if="mayChange"
          icon="i-lucide-plus"
          class="self-start"
          @click="open = { what: 'sensor', sensor: { id: newId(), name: '', kind: 'motion', roomId: home.rooms[0]?.id ?? null } }"
          >A sensor</UButton
        >
        <h2 class="kicker">How the house is lived in</h2>
        <p class="small">
          {{ counted(home.habits.people.length, 'person', 'people') }}, {{ home.habits.weeksAway }} weeks away,
          {{ home.habits.nightsWithGuests }} evenings with guests, {{ home.habits.hub ? 'a hub' : 'no hub' }}; the internet is out
          {{ home.habits.internetOutages }} times and the power {{ home.habits.powerOutages }} times a year.
        </p>
        <UButton v-if="mayChange" class="self-start" @click="open = { what: 'habits', habits: home.habits }"
          >Change how it is lived in</UButton
        >
      </section>
    </div>
    <section v-if="mustRun.length" aria-label="What must run" class="stack">
      <h2 class="kicker">What must run</h2>
      <AutomationMustRun v-for="device in mustRun" :key="device.id" :device="device" :region="region" :may-change="mayChange" />
    </section>
    <section v-if="home.devices.length" aria-label="The year" class="stack">
      <div class="row wrap">
        <h2 class="kicker grow">The year</h2>
        <UButton v-if="!picture" icon="i-lucide-calendar-days" @click="picture = true">Show the year</UButton>
        <template v-else>
          <USelect
            :model-value="deviceId ?? 'all'"
            :items="chosen"
            aria-label="Device shown"
            class="w-52"
            @update:model-value="deviceId = $event === 'all' ? null : String($event)"
          />
          <UButton icon="i-lucide-dices" :loading="thinking" @click="seed++">Another year</UButton>
        </template>
      </div>
      <template v-if="picture && answer">
        <LazyAutomationYearMap
          :year="answer.year"
          :of="deviceId ? (home.devices.find(({ id }) => id === deviceId)?.name ?? '') : 'All devices'"
          :region="region"
          @day="date = $event"
        />
        <LazyAutomationDayLanes v-if="answer.day" :home="home" :day="answer.day" :region="region" />
      </template>
    </section>
    <AutomationFiles :home="home" :may-change="mayChange" />
    <!-- A tap beside it would lose what was entered. -->
    <USlideover
      :open="open !== null"
      :dismissible="false"
      :title="title"
      description="It is kept in the record of the job."
      @update:open="$event || (open = null)"
    >
      <template #body>
        <AutomationRoutineForm
          v-if="open?.what === 'routine'"
          :home="home"
          :routine="open.routine"
          :region="region"
          :telling="telling"
          @done="open = null"
        />
        <AutomationDeviceForm v-else-if="open?.what === 'device'" :device="open.device" @done="open = null" />
        <AutomationHabitsForm v-else-if="open?.what === 'habits'" :habits="open.habits" :region="region" @done="open = null" />
        <AutomationSensorForm v-else-if="open?.what === 'sensor'" :home="home" :sensor="open.sensor" @done="open = null" />
      </template>
    </USlideover>
  </div>
</template>

<style scoped>
.ruled > p {
  margin-bottom: 8px;
}
</style>
