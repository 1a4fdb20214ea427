<script setup lang="ts">
import { actionsOf } from '../../../core/automation/program'
import type { AutomatedHome } from '../../../core/automation/home'
import { routineSaid, type Telling } from '../../../core/automation/describe'
import type { Routine } from '../../../core/automation/model.schema'
import { modeIds, modeWords, runPlaces, runWords, type Mode } from '../../../core/automation/words'
import type { Region } from '~/utils/time'

/** A schedule or a rule, being made or changed. What stands in it is said as a sentence below. */
const props = defineProps<{ home: AutomatedHome; routine: Routine; region: Region; telling: Telling }>()
const emit = defineEmits<{ done: [] }>()
const { submitJob } = injectJobRecord()
const { t } = useTrade()
const form = ref(plain(props.routine))
const { devices } = useAutomationItems(() => props.home)
const places = runPlaces.map((value) => ({ value, label: runWords[value] }))
const modes = modeIds.map((value) => ({ value, label: modeWords[value] }))
const flipMode = (mode: Mode) => (form.value.modes = toggled(form.value.modes, mode))
function flipDevice(id: string) {
  if (form.value.kind !== 'rule') form.value.deviceIds = toggled(form.value.deviceIds, id)
}
/** What is no light, and is switched on unasked. */
const starts = computed(() => {
  const switched = new Set(actionsOf(form.value).flatMap((one) => (one.do === 'off' ? [] : [one.deviceId])))
  return props.home.devices.filter(({ id, light }) => !light && switched.has(id)).map(({ name }) => name)
})
const deviceId = () => devices.value[0]?.value ?? ''
const wrong = computed(() => {
  const one = form.value
  if (!one.name.trim()) return 'Give it a name.'
  if (one.kind !== 'rule' && !one.deviceIds.length) return 'Choose at least one device.'
  if (one.kind === 'loop' && !one.days.length) return 'Choose the days.'
  if (one.kind === 'pair' && !one.days.length && !one.date) return 'Choose the days, or a date for once.'
  if (one.kind === 'rule' && one.only.some((condition) => condition.is === 'days' && !condition.days.length)) return 'Choose the days.'
  if (one.kind === 'rule' && one.when.some((trigger) => trigger.is === 'time' && !trigger.days.length && !trigger.date))
    return 'Choose the days, or a date for once.'
  return undefined
})
const give = () => submitJob({ type: 'setRoutine', routine: plain(form.value) })
</script>

<template>
  <AutomationKeep :wrong="wrong" :give="give" @done="emit('done')">
    <UFormField label="Name"><UInput v-model="form.name" maxlength="60" class="w-full" /></UFormField>
    <template v-if="form.kind === 'rule'">
      <fieldset class="stack">
        <legend class="kicker">When (any of these)</legend>
        <div v-for="(_, index) in form.when" :key="index" class="part">
          <AutomationTriggerField v-model="form.when[index]!" :home="home" :region="region" class="grow" />
          <UButton
            v-if="form.when.length > 1"
            icon="i-lucide-x"
            square
            :aria-label="`Take cause ${index + 1} out`"
            @click="form.when.splice(index, 1)"
          />
        </div>
        <UButton
          v-if="form.when.length < 8"
          icon="i-lucide-plus"
          class="self-start"
          @click="form.when.push({ is: 'time', moment: { at: 'clock', minute: 18 * 60 }, days: [1, 2, 3, 4, 5, 6, 7], date: null })"
          >Another cause</UButton
        >
      </fieldset>
      <fieldset class="stack">
        <legend class="kicker">Only if (all of these)</legend>
        <div v-for="(_, index) in form.only" :key="index" class="part">
          <AutomationConditionField v-model="form.only[index]!" :home="home" :region="region" class="grow" />
          <UButton icon="i-lucide-x" square :aria-label="`Take condition ${index + 1} out`" @click="form.only.splice(index, 1)" />
        </div>
        <UButton v-if="form.only.length < 8" icon="i-lucide-plus" class="self-start" @click="form.only.push({ is: 'dark', dark: true })"
          >A condition</UButton
        >
      </fieldset>
      <fieldset class="stack">
        <legend class="kicker">Then (one after the other)</legend>
        <div v-for="(_, index) in form.then" :key="index" class="part">
          <AutomationActionField v-model="form.then[index]!" :home="home" class="grow" />
          <UButton
            v-if="form.then.length > 1"
            icon="i-lucide-x"
            square
            :aria-label="`Take action ${index + 1} out`"
            @click="form.then.splice(index, 1)"
          />
        </div>
        <UButton
          v-if="form.then.length < 20"
          icon="i-lucide-plus"
          class="self-start"
          @click="form.then.push({ do: 'off', deviceId: deviceId(), afterSeconds: 0 })"
          >Another action</UButton
        >
      </fieldset>
    </template>
    <template v-else>
      <UFormField label="Devices"
        ><CommonToggles spoken="Devices" :items="devices" :chosen="form.deviceIds" @choose="flipDevice"
      /></UFormField>
      <template v-if="form.kind === 'pair'">
        <UFormField label="On"><AutomationMomentField v-model="form.on" label="On" :region="region" /></UFormField>
        <UFormField label="Off, the next time it is"><AutomationMomentField v-model="form.off" label="Off" :region="region" /></UFormField>
        <AutomationDaysField v-model:days="form.days" v-model:date="form.date" :region="region" />
        <AutomationMinutes v-model="form.level" label="% (empty: as it was)" :least="1" :most="100" maybe />
      </template>
      <template v-else>
        <UFormField label="From"><AutomationMomentField v-model="form.from" label="From" :region="region" /></UFormField>
        <UFormField label="To"><AutomationMomentField v-model="form.to" label="To" :region="region" /></UFormField>
        <template v-if="form.kind === 'loop'">
          <div class="row wrap">
            <AutomationMinutes v-model="form.onMinutes" label="min on" :least="1" :most="720" /><AutomationMinutes
              v-model="form.offMinutes"
              label="min off"
              :least="1"
              :most="720"
            />
          </div>
          <AutomationDaysField v-model:days="form.days" :region="region" />
        </template>
      </template>
    </template>
    <UFormField label="Runs" help="What runs behind the internet stands still while that is out. A device knows only itself and the clock."
      ><CommonToggles spoken="Runs" :items="places" :chosen="form.runs" @choose="form.runs = $event"
    /></UFormField>
    <UFormField v-if="form.kind !== 'presence'" label="Only in these modes (none: always)"
      ><CommonToggles spoken="Modes" :items="modes" :chosen="form.modes" @choose="flipMode"
    /></UFormField>
    <p class="said" data-testid="routine-said">{{ routineSaid(form, home, telling) }}</p>
    <p v-if="starts.length" class="note amber small">
      {{
        t(
          `${starts.join(', ')} may start with nobody there: nothing that heats or cuts belongs behind it, and hands stay off what can start by itself. What a schedule switched off is not dead: {breaker}, tag, test.`,
        )
      }}
    </p>
  </AutomationKeep>
</template>

<style scoped>
.part {
  display: flex;
  gap: 8px;
  align-items: flex-start;
}
.said {
  padding: 10px 12px;
  border-left: 3px solid var(--copper);
}
</style>
