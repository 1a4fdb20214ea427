<script setup lang="ts">
import { partnersOf } from '../../../core/fit'
import { judgeAtGang, pointsOfBox } from '../../../core/job'
import type { BoxState } from '../../../core/site'

/** The devices of the catalogue for one gang: those that fit first, each other one with what stands against it. */
const props = defineProps<{ box: BoxState; gang: number }>()
const emit = defineEmits<{ done: [] }>()
const { job, site, submitJob } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const { busy, refusal, run } = useAction()
const points = computed(() => pointsOfBox(job.value!, props.box.id, props.gang))
const chosen = computed(() => job.value!.boxes[props.box.id]?.devices[props.gang] ?? null)
const stays = computed(() => job.value!.boxes[props.box.id]?.oldStays?.includes(props.gang) ?? false)
const candidates = computed(() =>
  session.catalogue
    .filter((model) => model.active)
    .map((model) => {
      const remarks = judgeAtGang(job.value!, site.value!, props.box, props.gang, model, points.value)
      const alone = remarks.some(({ severity, text }) => severity === 'block' && /family|no input to signal/.test(text))
      const goesWith = alone
        ? partnersOf(
            model,
            session.catalogue.filter((one) => one.active),
          ).map(({ name }) => name)
        : []
      return { model, remarks, goesWith, blocked: remarks.some((remark) => remark.severity === 'block') }
    })
    .sort((a, b) => Number(a.blocked) - Number(b.blocked) || a.remarks.length - b.remarks.length),
)
async function choose(modelId: string, companion: boolean) {
  const pointIds = companion ? [] : points.value.map((point) => point.id)
  if (await run(() => submitJob({ type: 'chooseDevice', boxId: props.box.id, gang: props.gang, modelId, pointIds }))) emit('done')
}
async function keep() {
  if (await run(() => submitJob({ type: 'keepOldSwitch', boxId: props.box.id, gang: props.gang, stays: true }))) emit('done')
}
</script>

<template>
  <div class="stack">
    <p v-if="!candidates.length" class="note amber">
      The catalogue is empty. A lead or the office adds models under <b>Settings</b>, <b>Catalogue</b>.
    </p>
    <ul>
      <li v-for="candidate in candidates" :key="candidate.model.id" class="model">
        <span class="grow"
          ><b>{{ candidate.model.name }}</b> <span class="soft small">{{ candidate.model.maker }}</span><br /><span
            v-for="remark in candidate.remarks"
            :key="remark.text"
            class="small block"
            :class="remark.severity === 'block' ? 'bad' : 'warn'"
            >{{ t(remark.text) }}</span
          ><span v-if="candidate.goesWith.length" class="small block soft">Goes with {{ candidate.goesWith.join(', ') }}.</span></span
        >
        <UButton
          v-if="!candidate.blocked"
          :loading="busy"
          :aria-label="`Choose ${candidate.model.name}`"
          @click="choose(candidate.model.id, candidate.model.kind === 'companion')"
          >Choose</UButton
        ><span v-else class="small bad">does not fit</span>
      </li>
    </ul>
    <UButton v-if="!chosen && !stays" variant="link" class="self-start" :loading="busy" @click="keep">The old switch stays here</UButton>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>

<style scoped>
.model {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
</style>
