<script setup lang="ts">
import { handoverChecklist, handoverObstacles, openDefects, signatureIsCurrent } from '../../../../core/job'

const { page, job, site, region, onCrew, submitJob } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const { busy, refusal, run } = useAction()
const items = computed(() => handoverChecklist(job.value!, site.value!))
const obstacles = computed(() => handoverObstacles(job.value!, site.value!))
const defects = computed(() => openDefects(job.value!))
const accepted = ref<string[]>([])
const signer = ref(page.value?.customer.name ?? '')
const strokes = ref<[number, number][][]>([])
const done = computed(() => items.value.filter((item) => item.done).length)
const sentence = computed(() => {
  if (job.value!.handedOverAt)
    return `Handed over ${dayAndTime(job.value!.handedOverAt, region.value)}, signed by ${job.value!.signature?.signer}.`
  if (obstacles.value.length === 0) return 'Everything is shown, tested and signed. It can be handed over.'
  const left = items.value.length - done.value
  return left
    ? `${done.value} of ${items.value.length} items are done; ${counted(left, 'is', 'are')} left before the signature.`
    : 'Only the signature is left.'
})
const toggle = (id: string) => (accepted.value = toggled(accepted.value, id))
const sign = () =>
  run(() =>
    submitJob({
      type: 'signHandover',
      signatureId: newId(),
      signer: signer.value,
      strokes: strokes.value,
      acceptedDefectIds: accepted.value,
    }),
  )
const complete = () => run(() => submitJob({ type: 'completeHandover' }))
</script>

<template>
  <div class="page">
    <div class="row wrap mb-4">
      <h1 class="sentence grow">{{ sentence }}</h1>
      <UButton :to="`/api/jobs/${page?.job.id}/pack`" external data-paper target="_blank" icon="i-lucide-file-text"
        >Handover pack, PDF</UButton
      >
    </div>
    <div class="cols">
      <section>
        <h2 class="kicker mb-2">What this job needs</h2>
        <HandoverItem v-for="item in items" :key="item.id" :item="item" :open="onCrew && !job!.handedOverAt" />
      </section>
      <section class="stack">
        <HandoverSoak v-if="!job!.handedOverAt" />
        <LinkLeaving />
        <HandoverMembers :may-change="onCrew || session.isOffice" />
        <HandoverSchedules />
        <HandoverBatteries :may-change="onCrew || session.isOffice" />
        <HandoverWarranties :may-change="onCrew || session.isOffice" />
        <HandoverPermit :may-change="onCrew || session.isOffice" />
        <HandoverHomePage />
        <h2 class="kicker">The customer signs</h2>
        <template v-if="job!.handedOverAt"
          ><p class="good"><b>Signed and handed over.</b></p>
          <p class="soft">Later trouble is a callback: open it from the device.</p>
          <UButton to="/callbacks" class="self-start">Callbacks</UButton></template
        >
        <template v-else>
          <div v-for="defect in defects" :key="defect.id" class="note amber">
            <b>Open defect.</b> {{ defect.pointId ? `${job!.points[defect.pointId]?.name}: ` : '' }}{{ defect.text
            }}<UCheckbox
              :model-value="accepted.includes(defect.id)"
              label="The customer knows and accepts this"
              @update:model-value="toggle(defect.id)"
            />
          </div>
          <template v-if="onCrew">
            <UFormField label="Name of the person signing" name="signer"><UInput v-model="signer" name="signer" /></UFormField>
            <CommonSignature @change="strokes = $event" />
            <UButton :loading="busy" :disabled="!strokes.length || !signer.trim()" @click="sign">Take the signature</UButton>
          </template>
          <p v-if="job!.signature" class="small" :class="signatureIsCurrent(job!) ? 'good' : 'warn'">
            {{
              signatureIsCurrent(job!)
                ? `Signed by ${job!.signature.signer}, ${clockTime(job!.signature.at, region)}.`
                : 'Something has changed since it was signed. Sign again.'
            }}
          </p>
          <div v-if="obstacles.length" class="rule pt-3">
            <h3 class="kicker">Before handover</h3>
            <ul class="small list-disc ps-5">
              <li v-for="obstacle in obstacles.slice(0, 8)" :key="obstacle">{{ t(obstacle) }}</li>
            </ul>
          </div>
          <UButton v-if="onCrew" variant="solid" size="xl" :loading="busy" @click="complete">Hand over</UButton>
        </template>
        <CommonRefusal :refusal="refusal" />
      </section>
    </div>
  </div>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
  gap: 32px;
}
@media (max-width: 900px) {
  .cols {
    grid-template-columns: 1fr;
  }
}
</style>
