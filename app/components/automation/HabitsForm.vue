<script setup lang="ts">
import { clockWords, minuteOfDay } from '../../../core/automation/describe'
import type { Habits } from '../../../core/automation/model.schema'
import { declinables, declinableWords } from '../../../core/automation/words'
import type { Region } from '~/utils/time'

/** How the house is lived in: the year is played with these people. */
const props = defineProps<{ habits: Habits; region: Region }>()
const emit = defineEmits<{ done: [] }>()
const { submitJob } = injectJobRecord()
const form = ref(plain(props.habits))
const times = [
  ['wakes', 'gets up'],
  ['leaves', 'leaves'],
  ['returns', 'comes back'],
  ['sleeps', 'goes to bed'],
] as const
type Time = (typeof times)[number][0]
const set = (index: number, time: Time, text: string) => {
  if (text) form.value.people[index]![time] = minuteOfDay(text)
}
const counts = [
  ['weeksAway', 'weeks away a year', 20],
  ['nightsWithGuests', 'evenings with guests a year', 200],
  ['internetOutages', 'times a year the internet is out', 60],
  ['powerOutages', 'times a year the power is out', 60],
] as const
const wrong = computed(() => {
  if (form.value.people.some(({ name }) => !name.trim())) return 'Call each of them something: one, two.'
  const off = counts.find(([key, , most]) => !(Number.isInteger(form.value[key]) && form.value[key] >= 0 && form.value[key] <= most))
  return off ? `From 0 to ${off[2]}: ${off[1]}.` : undefined
})
const flip = (one: (typeof declinables)[number]) => (form.value.declined = toggled(form.value.declined, one))
const give = () => submitJob({ type: 'setHabits', habits: plain(form.value) })
</script>

<template>
  <AutomationKeep :wrong="wrong" :give="give" @done="emit('done')">
    <fieldset v-for="(person, index) in form.people" :key="index" class="stack">
      <legend class="kicker">Person {{ index + 1 }}</legend>
      <div class="row">
        <UInput v-model="person.name" maxlength="60" :aria-label="`Person ${index + 1}: called`" class="grow" />
        <UButton icon="i-lucide-x" square :aria-label="`Take person ${index + 1} out`" @click="form.people.splice(index, 1)" />
      </div>
      <div class="grid gap-2 grid-cols-2">
        <template v-for="[time, label] in times" :key="time">
          <UFormField v-if="time !== 'leaves' || person.leaves !== null" :label="label"
            ><CommonTime
              :model-value="clockWords(person[time] ?? 480)"
              :label="`Person ${index + 1} ${label}`"
              :region="region"
              @update:model-value="set(index, time, $event)"
          /></UFormField>
        </template>
      </div>
      <UCheckbox
        :model-value="person.leaves === null"
        label="stays in on working days"
        @update:model-value="person.leaves = $event ? null : 8 * 60"
      />
    </fieldset>
    <UButton
      v-if="form.people.length < 8"
      icon="i-lucide-plus"
      class="self-start"
      @click="form.people.push({ name: `person ${form.people.length + 1}`, wakes: 420, leaves: 510, returns: 1050, sleeps: 1350 })"
      >Another person</UButton
    >
    <AutomationMinutes v-for="[key, label] in counts" :key="key" v-model="form[key]" :label="label" />
    <UCheckbox v-model="form.hub" label="There is a hub in the home that runs rules" />
    <UFormField label="What the household does not allow"
      ><CommonToggles
        spoken="Not allowed"
        :items="declinables.map((value) => ({ value, label: declinableWords[value] }))"
        :chosen="form.declined"
        @choose="flip"
    /></UFormField>
  </AutomationKeep>
</template>
