<script setup lang="ts">
import { linkedUnits } from '../../../core/job'

/** The installer is taken off each device before the home is the household’s alone; one that does not answer stays open. */
const { job, submitJob } = injectJobRecord()
const held = computed(() => linkedUnits(job.value!).flatMap((id) => job.value!.units[id] ?? []))
const { link, busy: asking, isAt, ask } = useJobLink()
/** One after the other is asked; the link does them side by side. */
async function leaveAll() {
  for (const { id } of held.value) if (!isAt(id)) await ask(id, 'leave')
}
const { busy, refusal, run } = useAction()
const how = reactive<Record<string, string>>({})
const gone = (unitId: string) => run(() => submitJob({ type: 'noteInstallerGone', unitId, how: how[unitId] ?? '' }))
</script>

<template>
  <section v-if="held.length" class="stack note" aria-label="Installer on the devices">
    <p>
      <b>{{ counted(held.length, 'device carries', 'devices carry') }} the installer still.</b> It is taken off each; a device that does not
      answer keeps it, and the link keeps the key until it does.
    </p>
    <UButton v-if="link?.online && held.length > 1" variant="solid" class="self-start" :loading="asking" @click="leaveAll"
      >Take it off all {{ held.length }}</UButton
    >
    <p v-if="!link" class="warn">No link reaches this home. A device that keeps the installer is rid of it only when it is reset.</p>
    <div v-for="unit in held" :key="unit.id" class="stack">
      <p class="small">
        <b>{{ unit.name || unit.serial }}</b><span v-if="unit.removedAt" class="soft"> · in the wall no more</span>
      </p>
      <LinkAsk :unit="unit" :doings="['leave']" />
      <details class="small">
        <summary>It is off without the link</summary>
        <form class="row wrap mt-2" @submit.prevent="gone(unit.id)">
          <UInput
            v-model="how[unit.id]"
            placeholder="reset as its maker says"
            :aria-label="`How the installer went from ${unit.name || unit.serial}`"
          /><UButton type="submit" variant="link" :loading="busy" :disabled="(how[unit.id]?.trim().length ?? 0) < 3">Store it</UButton>
        </form>
      </details>
    </div>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>
