<script setup lang="ts">
import { colourHint, conductorRoles, roleMethods, roleMethodWords, type ConductorRole, type RoleMethod } from '../../../core/connect'
import type { BoxState } from '../../../core/safety'

/** Which conductor is what, and how that is known. */
const props = defineProps<{ box: BoxState }>()
const selected = defineModel<string | null>({ required: true })
const { job, scheme, giveJob } = injectJobRecord()
const { busy, refusal, run } = useAction()
const known = computed(() => job.value?.boxes[props.box.id]?.roles ?? {})
const conductor = computed(() => props.box.conductors.find((candidate) => candidate.letter === selected.value) ?? null)
const method = ref<RoleMethod>('continuity')
// What the readings say is stored from the wiring bench.
const methods = roleMethods.flatMap((value) =>
  value === 'readings' ? [] : [{ label: roleMethodWords[value], value: value as RoleMethod }],
)

async function establish(role: ConductorRole) {
  const letter = selected.value!
  if (!(await run(() => giveJob({ type: 'establishRole', boxId: props.box.id, letter, role, method: method.value })))) return
  // Whoever has gone on to another conductor stays there.
  if (selected.value === letter) selected.value = props.box.conductors.find((candidate) => !known.value[candidate.letter])?.letter ?? null
}
</script>

<template>
  <div class="stack">
    <button
      v-for="wire in box.conductors"
      :key="wire.letter"
      type="button"
      class="wire"
      :class="{ sel: selected === wire.letter }"
      :aria-pressed="selected === wire.letter"
      @click="selected = wire.letter"
    >
      <b class="mono">{{ wire.letter }}</b><span class="grow"
        >{{ wire.colour }} <span class="soft small">{{ wire.cable }}</span></span
      >
      <span v-if="known[wire.letter]" class="good"
        ><b>{{ known[wire.letter]!.role }}</b>
        <span class="small">{{ known[wire.letter]!.method === 'oldTerminal' ? 'old terminal' : known[wire.letter]!.method }}</span></span
      >
      <span v-else class="soft small">suggests {{ colourHint(scheme.id, wire.colour).suggests }}</span>
    </button>
    <div v-if="conductor" class="stack note">
      <b>{{ conductor.letter }} {{ conductor.colour }} is established by</b>
      <USelect v-model="method" :items="methods" aria-label="How it was established" class="w-full" />
      <div class="row wrap" role="group" :aria-label="`Role of ${conductor.letter}`">
        <UButton
          v-for="role in conductorRoles"
          :key="role"
          :loading="busy"
          :variant="known[conductor.letter]?.role === role ? 'solid' : 'outline'"
          @click="establish(role)"
          >{{ role }}</UButton
        >
      </div>
    </div>
    <CommonRefusal :refusal="refusal" />
  </div>
</template>

<style scoped>
.wire {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 44px;
  padding: 4px 8px;
  border-bottom: 1px solid var(--line);
  text-align: left;
  color: inherit;
}
.wire.sel {
  outline: 2px solid var(--copper);
  border-radius: 4px;
}
</style>
