<script setup lang="ts">
import { currentUnits, gangsOf, inDoubtAt, stepDone, stepsFor, stepsToUndo } from '../../../core/job'
import type { BoxState } from '../../../core/site'

/** The plate goes on: what is missing is said and asked about once; or the box stays open, capped and guarded. */
const props = defineProps<{ box: BoxState; mayTouch: boolean }>()
const { job, site, settings, submitSite } = injectJobRecord()
const { busy, refusal, run } = useAction()
const pictured = computed(() => job.value!.photos.some((photo) => photo.boxId === props.box.id && photo.kind === 'beforeClosing'))
const missing = computed(() => {
  const notes: string[] = []
  const work = job.value!.boxes[props.box.id]
  const units = currentUnits(job.value!).filter((unit) => unit.boxId === props.box.id)
  const gangs = Object.keys(work?.devices ?? {}).map(Number)
  if (gangs.some((gang) => !units.some((unit) => unit.gang === gang))) notes.push('A serial or setup code is not stored yet.')
  if (!pictured.value) notes.push('There is no picture from before closing.')
  if (inDoubtAt(job.value!, props.box.id)) notes.push('Something was done after its proof had ended, and nobody has checked it yet.')
  for (const gang of gangsOf(props.box)) {
    const steps = stepsFor(job.value!, site.value!, props.box.id, gang, settings.value)
    if (!steps.length && !gangs.includes(gang)) continue
    const open = steps.filter((step) => !stepDone(job.value!, props.box.id, gang, step))
    if (open.length || steps.length === 0)
      notes.push(
        `Gang ${gang}: ${steps.length ? `${open.length} of ${steps.length} connection steps are not done` : 'no connection steps were followed'}.`,
      )
    if (stepsToUndo(job.value!, props.box.id, gang, steps).length)
      notes.push(`Gang ${gang}: something done under another plan has not been undone.`)
  }
  return notes
})
/** With something missing it is asked once; a tap by mistake is taken back within a minute. */
const asking = ref(false)
async function close() {
  if (missing.value.length && !asking.value) return void (asking.value = true)
  if (await run(() => submitSite({ type: 'closeBox', boxId: props.box.id }))) asking.value = false
}
const guarding = ref(false)
const how = ref('')
async function guard() {
  if (await run(() => submitSite({ type: 'makeSafe', boxId: props.box.id, how: how.value }))) guarding.value = false
}
</script>

<template>
  <div class="stack">
    <ul v-if="missing.length" class="small warn">
      <li v-for="note in missing" :key="note">{{ note }}</li>
    </ul>
    <slot :pictured="pictured" />
    <div v-if="asking" class="note amber stack" data-testid="close-anyway">
      <p><b>Close it anyway?</b> At the handover the plate is on, and this cannot be added.</p>
      <div class="row wrap">
        <UButton variant="solid" :loading="busy" :disabled="!mayTouch" @click="close">Yes, it is closed</UButton>
        <UButton variant="link" @click="asking = false">Not yet</UButton>
      </div>
    </div>
    <JobAct v-else :loading="busy" :disabled="!mayTouch" @click="close">The box is closed</JobAct>
    <UButton variant="link" class="self-start" @click="guarding = !guarding">It stays open: cap and guard</UButton>
    <div v-if="guarding" class="stack">
      <UInput v-model="how" placeholder="all ends capped, blank plate on" aria-label="How it is capped and guarded" /><UButton
        :loading="busy"
        :disabled="!mayTouch || how.trim().length < 5"
        @click="guard"
        >Capped and guarded by me</UButton
      >
    </div>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>
