<script setup lang="ts">
import { linkedUnits, linkOf, type Unit } from '../../../core/job'

/**
 * The household is let in, then the installer is taken off each device, before the home is the household’s alone; one that does not
 * answer stays open.
 */
const { job, submitJob } = injectJobRecord()
const held = computed(() => linkedUnits(job.value!).flatMap((id) => job.value!.units[id] ?? []))
const { link, busy: asking, problem, isAt, ask } = useJobLink()
const others = ({ id }: Unit) => linkOf(job.value!).units[id]?.homes?.list.filter(({ own }) => !own) ?? null
/** Who else is on it, in words; empty: nobody has asked since it was opened. */
const onIt = (unit: Unit) => {
  const homes = others(unit)
  if (!homes) return ''
  return homes.length
    ? `On it: ${listed(homes.map(({ label }) => label || 'a home without a name'))}.`
    : 'Nobody of the household is on it yet.'
}
function doings(unit: Unit) {
  const homes = others(unit)
  if (unit.removedAt) return ['leave'] as const
  if (!homes) return ['open', 'homes', 'leave'] as const
  if (!homes.length) return ['open', 'homes'] as const
  // Somebody’s app has joined it, and has not said its name yet: it can be asked again.
  return homes.every(({ label }) => label) ? (['leave'] as const) : (['leave', 'homes'] as const)
}
const free = computed(() => held.value.filter((unit) => unit.removedAt || others(unit)?.length))
/** Something else is asked of a device: it is waited for so long, ms. */
const waitsMs = 60_000
/** One after the other is asked, none left out; the link does them side by side. */
async function each(units: Unit[], doing: 'homes' | 'leave') {
  for (const { id } of units) {
    await until(() => isAt(id)).toBe(false, { timeout: waitsMs })
    await ask(id, doing)
  }
}
const { busy, refusal, run } = useAction()
const how = reactive<Record<string, string>>({})
const reset = reactive<Record<string, boolean>>({})
const gone = (unitId: string) =>
  run(() => submitJob({ type: 'noteInstallerGone', unitId, how: how[unitId] ?? '', reset: reset[unitId] ?? false }))
</script>

<template>
  <section v-if="held.length" class="stack note" aria-label="Installer on the devices">
    <p>
      <b>{{ counted(held.length, 'device carries', 'devices carry') }} the installer still.</b> First the household joins each with its own
      app, then the installer is taken off. A device that does not answer keeps it, and the link keeps the key until it does.
    </p>
    <div v-if="link?.online && held.length > 1" class="row wrap">
      <UButton v-if="free.length > 1" variant="solid" :loading="asking" @click="each(free, 'leave')"
        >Take it off {{ free.length === held.length ? 'all' : 'these' }} {{ free.length }}</UButton
      >
      <UButton v-if="free.length < held.length" :loading="asking" @click="each(held, 'homes')"
        >Ask all {{ held.length }} who is on them</UButton
      >
    </div>
    <p v-if="!link" class="warn">No link reaches this home. A device that keeps the installer is rid of it only when it is reset.</p>
    <div v-for="unit in held" :key="unit.id" class="stack">
      <p class="small">
        <b>{{ unit.name || unit.serial }}</b><span v-if="unit.removedAt" class="soft"> · in the wall no more</span
        ><span v-else-if="onIt(unit)" :class="others(unit)?.length ? 'good' : 'warn'"> · {{ onIt(unit) }}</span>
      </p>
      <LinkAsk :unit="unit" :doings="doings(unit)" />
      <details class="small">
        <summary>Otherwise</summary>
        <div v-if="!unit.removedAt && !others(unit)?.length" class="stack mt-2">
          <p>Taken off although no other home is on it, the device forgets its name and waits to be paired anew, with the code on it.</p>
          <UButton class="self-start" :loading="asking" :disabled="!link?.online" @click="ask(unit.id, 'leave', { anyway: true })"
            >Take it off all the same</UButton
          >
        </div>
        <form class="stack mt-2" @submit.prevent="gone(unit.id)">
          <p>It is off without the link:</p>
          <div class="row wrap">
            <UInput
              v-model="how[unit.id]"
              placeholder="reset as its maker says"
              :aria-label="`How the installer went from ${unit.name || unit.serial}`"
            /><UButton type="submit" variant="link" :loading="busy" :disabled="(how[unit.id]?.trim().length ?? 0) < 3">Store it</UButton>
          </div>
          <UCheckbox
            v-if="!unit.removedAt"
            v-model="reset[unit.id]"
            :name="`reset-${unit.serial}`"
            label="It was reset: the household is off it as well"
          />
        </form>
      </details>
    </div>
    <CommonProblem :problem="problem" />
    <CommonRefusal :refusal="refusal" />
  </section>
</template>
