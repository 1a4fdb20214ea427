<script setup lang="ts">
import { conductorRoleWord, terminalWords } from '../../../core/connect'
import { rolesIn, stepDone, stepsFor } from '../../../core/job'
import type { BoxState } from '../../../core/site'
import { deviceId } from '../../../core/wiring/plan/plan-words'

/** The box as the record has it: its conductors, their roles, and where the connection steps put them. A tap selects a conductor. */
const props = defineProps<{ box: BoxState }>()
const selected = defineModel<string | null>({ required: true })
const { job, site, settings } = injectJobRecord()
const { t } = useTrade()

const roles = computed(() => (job.value ? rolesIn(job.value, props.box.id) : {}))
const conductors = computed(() =>
  props.box.conductors.map(({ letter, colour, cable }) => ({
    letter,
    colour,
    cable,
    word: roles.value[letter] ? t(conductorRoleWord(roles.value[letter])) : null,
  })),
)
const devices = computed(() =>
  Array.from({ length: props.box.gangs }, (_, index) => {
    const gang = index + 1
    const work = job.value?.boxes[props.box.id]
    const model = work?.devices[gang]?.model ?? null
    const steps = job.value && model ? stepsFor(job.value, site.value!, props.box.id, gang, settings.value) : []
    return {
      part: deviceId(gang),
      name: model?.name ?? `gang ${gang}`,
      note: model?.maker ?? 'no device chosen',
      chosen: model !== null,
      terminals: (model?.terminals ?? []).map((key) => {
        const step = steps.find((candidate) => candidate.terminal === key)
        return {
          key,
          word: t(terminalWords[key]),
          letters: step?.letters ?? [],
          done: Boolean(step && stepDone(job.value!, props.box.id, gang, step)),
        }
      }),
    }
  }),
)
</script>

<template>
  <WiringBoxSketch
    :label="`${box.name}: ${counted(box.conductors.length, 'conductor')}`"
    :open="box.closure === 'opened'"
    :conductors="conductors"
    :splices="[]"
    :devices="devices"
    :selected="selected ? [selected] : []"
    @pick="selected = $event"
  />
</template>
