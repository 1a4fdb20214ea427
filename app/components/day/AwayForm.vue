<script setup lang="ts">
import { DateTime } from 'luxon'
import { awayKinds, awayWords } from '../../../core/dispatch/away'
import type { Region } from '~/utils/time'

/** When somebody does not work: one’s own, or for the office anybody’s of the branch. */
const props = defineProps<{ region: Region; people?: { id: string; name: string }[] }>()
const emit = defineEmits<{ done: [] }>()
const local = DateTime.now().setZone(props.region.zone)
const form = reactive({
  kind: 'off' as (typeof awayKinds)[number],
  personId: props.people?.[0]?.id ?? '',
  fromDay: local.plus({ days: 1 }).toISODate()!,
  from: '00:00',
  toDay: local.plus({ days: 1 }).toISODate()!,
  to: '23:59',
  note: '',
})
function choose(kind: typeof form.kind) {
  form.kind = kind
  // Whoever is ill is so today, from now on.
  if (kind === 'ill')
    Object.assign(form, {
      fromDay: local.toISODate()!,
      toDay: local.toISODate()!,
      from: DateTime.now().setZone(props.region.zone).toFormat('HH:mm'),
    })
}
const instant = (day: string, time: string) => DateTime.fromISO(`${day}T${time}`, { zone: props.region.zone })
const span = computed(() => ({ from: instant(form.fromDay, form.from), to: instant(form.toDay, form.to) }))
const wrong = computed(() => {
  const { from, to } = span.value
  if (!from.isValid || !to.isValid) return 'Enter both days and times.'
  return to <= from ? 'It ends before it starts.' : undefined
})
const { busy, problem, give } = useGiving()
let id = newId()
async function send() {
  const { kind, note } = form
  const body = {
    ...{ id, kind, note, personId: props.people ? form.personId : null },
    startsAt: span.value.from.toUTC().toISO()!,
    endsAt: span.value.to.toUTC().toISO()!,
  }
  if (!(await give(() => api('POST /api/requests', { body })))) return
  id = newId()
  emit('done')
}
</script>

<template>
  <form class="stack" @submit.prevent="send">
    <UFormField v-if="people" label="Who"
      ><USelect v-model="form.personId" :items="people.map(({ id: value, name: label }) => ({ value, label }))" class="w-full"
    /></UFormField>
    <CommonToggles
      spoken="Why"
      :items="awayKinds.map((value) => ({ value, label: awayWords[value] }))"
      :chosen="form.kind"
      @choose="choose"
    />
    <div class="grid gap-3 sm:grid-cols-2">
      <UFormField label="From day"
        ><CommonDay v-model="form.fromDay" label="From day" :region="region" name="fromDay" required
      /></UFormField>
      <UFormField label="From time"><CommonTime v-model="form.from" label="From time" :region="region" /></UFormField>
      <UFormField label="To day"><CommonDay v-model="form.toDay" label="To day" :region="region" name="toDay" required /></UFormField>
      <UFormField label="To time"><CommonTime v-model="form.to" label="To time" :region="region" /></UFormField>
    </div>
    <UFormField label="Note for the dispatcher"><UInput v-model="form.note" maxlength="500" /></UFormField>
    <p v-if="wrong" class="small warn">{{ wrong }}</p>
    <CommonProblem :problem="problem" />
    <UButton type="submit" variant="solid" :loading="busy" :disabled="wrong !== undefined || (people && !form.personId)">{{
      people ? 'Note it' : form.kind === 'ill' ? 'Say that I am ill' : 'Ask for it'
    }}</UButton>
  </form>
</template>
