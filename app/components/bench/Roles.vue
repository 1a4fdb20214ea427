<script setup lang="ts">
import {
  colourHint,
  conductorRoleWord,
  conductorRoles,
  roleMethods,
  roleMethodWords,
  type ConductorRole,
  type RoleMethod,
} from '../../../core/connect'
import type { BoxState } from '../../../core/site'

/** Which conductor is what, and the readings that say so. A line and a neutral are told by live readings only. */
const props = defineProps<{ box: BoxState }>()
const selected = defineModel<string | null>({ required: true })
const { job, scheme, asker, submitJob } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const known = computed(() => job.value?.boxes[props.box.id]?.roles ?? {})
const conductor = computed(() => props.box.conductors.find((candidate) => candidate.letter === selected.value) ?? null)

const role = ref<ConductorRole | null>(null)
const method = ref<RoleMethod>('continuity')
const vital = computed(() => role.value === 'line' || role.value === 'neutral')
// What the readings of the bench say is stored from there.
const methods = computed(() =>
  roleMethods
    .filter((value) => value !== 'readings' && (!vital.value || value === 'measured'))
    .map((value) => ({ label: roleMethodWords[value], value: value as RoleMethod })),
)
watch([role, selected], () => {
  first.value = second.value = ''
  if (vital.value) method.value = 'measured'
  else if (method.value === 'measured') method.value = 'continuity'
})
watch(selected, () => (role.value = null))
const first = ref('')
const second = ref('')
const asks = computed(() => {
  if (role.value === 'line') return [t('To the proven {ground}, its switch one way, V'), 'The same, its switch the other way, V']
  if (role.value === 'neutral') return ['From the line to it, V', t('From it to the proven {ground}, V')]
  return method.value === 'continuity' ? ['Continuity, Ω'] : []
})
const ready = computed(() => [first.value, second.value].slice(0, asks.value.length).every((text) => !Number.isNaN(typedNumber(text))))

async function establish() {
  const letter = selected.value!
  const values = [first.value, second.value].slice(0, asks.value.length).map(typedNumber)
  const command = {
    type: 'establishRole' as const,
    boxId: props.box.id,
    letter,
    role: role.value!,
    method: method.value,
    volts: vital.value ? values : [],
    ohms: !vital.value && method.value === 'continuity' ? values[0]! : null,
  }
  if (!(await run(() => submitJob(command)))) return
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
        ><b>{{ t(conductorRoleWord(known[wire.letter]!.role)) }}</b>
        <span class="small">{{ known[wire.letter]!.method === 'oldTerminal' ? 'old terminal' : known[wire.letter]!.method }}</span></span
      >
      <span v-else class="soft small">suggests {{ colourHint(scheme.id, wire.colour).suggests }}</span>
    </button>
    <form v-if="conductor" class="stack note" @submit.prevent="establish">
      <b>{{ conductor.letter }} {{ conductor.colour }} is</b>
      <div class="row wrap" role="group" :aria-label="`Role of ${conductor.letter}`">
        <UButton
          v-for="one in conductorRoles"
          :key="one"
          :variant="(role ?? known[conductor.letter]?.role) === one ? 'solid' : 'outline'"
          :aria-pressed="role === one"
          @click="role = one"
          >{{ t(conductorRoleWord(one)) }}</UButton
        >
      </div>
      <template v-if="role">
        <p v-if="vital && !asker.licensed" class="small warn">A licensed person measures it live, or the wiring bench identifies it.</p>
        <p v-else-if="vital" class="small">
          By live readings only: momentary power, everyone clear. A terminal, a colour, a traced cable or continuity does not establish it.
        </p>
        <USelect v-model="method" :items="methods" aria-label="How it was established" class="w-full" />
        <UFormField v-if="asks[0]" :label="asks[0]"><UInput v-model="first" inputmode="decimal" class="w-full" /></UFormField>
        <UFormField v-if="asks[1]" :label="asks[1]"><UInput v-model="second" inputmode="decimal" class="w-full" /></UFormField>
        <UButton type="submit" variant="solid" :loading="busy" :disabled="!ready"
          >{{ conductor.letter }} is {{ t(conductorRoleWord(role)) }}</UButton
        >
      </template>
    </form>
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
