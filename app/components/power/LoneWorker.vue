<script setup lang="ts">
import { loneWorkOf } from '../../../core/site'

/** Working alone: a named contact, a check-in in time, the same rules. */
const { site, asker, vantage, region, onCrew, submitSite } = injectJobRecord()
const { busy, refusal, run } = useAction()
const solo = computed(() => site.value?.solo[asker.value.personId] ?? null)
const state = computed(() =>
  site.value ? loneWorkOf(site.value, asker.value.personId, vantage.value) : { working: false, overdue: false },
)
const starting = ref(false)
const contact = ref('')
const every = ref(30)
const minutes = computed(() => (solo.value ? Math.round((Date.parse(solo.value.dueAt) - Date.parse(vantage.value.now)) / 60_000) : 0))
async function start() {
  if (await run(() => submitSite({ type: 'startLoneWork', contact: contact.value, everyMinutes: every.value }))) starting.value = false
}
</script>

<template>
  <div v-if="onCrew && site" class="stack">
    <div v-if="solo" class="note" :class="state.overdue ? 'red' : ''" data-testid="solo">
      <p>
        <b>You work alone.</b> {{ solo.contact }} expects your check-in by {{ clockTime(solo.dueAt, region)
        }}<template v-if="state.overdue">: <b class="bad">overdue</b>. Check in before you ask for power or measure live.</template
        ><template v-else-if="minutes <= 5">: {{ minutes }} minutes left.</template>
      </p>
      <div class="row wrap mt-2">
        <UButton variant="solid" :loading="busy" @click="run(() => submitSite({ type: 'checkIn' }))">Check in</UButton>
        <UButton variant="link" :loading="busy" @click="run(() => submitSite({ type: 'endLoneWork' }))">no longer alone</UButton>
      </div>
    </div>
    <UButton v-else-if="asker.licensed" variant="link" class="self-start" @click="starting = !starting">I work alone here</UButton>
    <form v-if="starting && !solo" class="note stack" @submit.prevent="start">
      <p>The same rules, and somebody who waits for your check-ins. The office sees a missed one.</p>
      <UFormField label="Who waits for your check-in"><UInput v-model="contact" placeholder="Odo, at the office" /></UFormField>
      <UFormField label="Every how many minutes"><UInput v-model.number="every" type="number" min="10" max="120" /></UFormField>
      <UButton type="submit" :loading="busy" :disabled="!contact.trim()">Start working alone</UButton>
    </form>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
