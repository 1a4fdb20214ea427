<script setup lang="ts">
import { cellCaution, monthSaid } from '../../../core/fit'
import { batteriesIn } from '../../../core/job'
import { dateIn } from '../../../core/units/region'

/** What of this home runs on a battery: since when, by when it is changed, and whom it tells what to do. */
const props = defineProps<{
  mayChange: boolean
  /** Only those of this device, or that tell it what to do. */
  unitId?: string
}>()
const { job, region, submitJob } = injectJobRecord()
const all = computed(() =>
  batteriesIn(job.value!).filter(({ unit, partner }) => !props.unitId || unit.id === props.unitId || partner?.id === props.unitId),
)
const today = computed(() => todayIn(region.value))
const { busy, refusal, run } = useAction()
const open = ref<string | null>(null)
const form = reactive({ battery: '', on: '' })
function begin({ unit, battery }: (typeof all.value)[number]) {
  Object.assign(form, { battery, on: today.value })
  open.value = open.value === unit.id ? null : unit.id
}
async function store(unitId: string) {
  if (await run(() => submitJob({ type: 'fitBattery', unitId, ...form }))) open.value = null
}
</script>

<template>
  <section v-if="all.length" id="batteries" class="stack" aria-label="Batteries">
    <h2 class="kicker">Batteries</h2>
    <div v-for="one in all" :key="one.unit.id" class="ruled stack">
      <div class="row wrap">
        <p class="small grow">
          <b>{{ one.unit.name || one.unit.serial }}</b> · {{ one.battery || 'nobody has said which' }}<br /><span
            :class="one.dueOn < today ? 'bad' : 'soft'"
            >{{ one.fittedOn ? `In since ${dateIn(one.fittedOn, region.locale)}` : 'The one it came with' }}; to be changed by
            {{ monthSaid(one.dueOn) }}.</span
          ><template v-if="one.partner"
            ><br /><span class="soft"
              >It tells {{ one.partner.name || one.partner.serial }} what to do; without it that is switched
              {{ one.partnerOnWall ? 'at its own place' : 'by the app alone' }}.</span
            ></template
          >
        </p>
        <UButton v-if="mayChange" :aria-expanded="open === one.unit.id" @click="begin(one)">A new one is in</UButton>
      </div>
      <form v-if="open === one.unit.id" class="row wrap items-end" @submit.prevent="store(one.unit.id)">
        <UFormField label="Printed on it" class="grow"
          ><UInput v-model="form.battery" maxlength="60" placeholder="one CR2450" class="w-full"
        /></UFormField>
        <UFormField label="In since"><UInput v-model="form.on" type="date" :max="today" /></UFormField>
        <UButton type="submit" variant="solid" :loading="busy" :disabled="!form.on">Store it</UButton>
      </form>
    </div>
    <p class="small soft">{{ cellCaution }}</p>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>
