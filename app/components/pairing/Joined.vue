<script setup lang="ts">
import { judgeSignal, type SignalEntry } from '../../../core/commission'
import type { Unit } from '../../../core/job'

/** It is paired: on which network, and how well it hears there. One tap where the network is known. */
const props = defineProps<{ unit: Unit; busy: boolean }>()
const emit = defineEmits<{ joined: [network: string, signal: SignalEntry] }>()
const network = useHomeNetwork(props.unit)
/** Known as the form was opened: it is not asked for again. */
const known = network.value.trim() !== ''
const changing = ref(false)
const typed = ref('')
const dbm = computed((): SignalEntry | null => {
  const value = -Math.abs(Math.round(typedNumber(typed.value)))
  return typed.value.trim() && value <= -10 && value >= -120 ? { kind: 'dbm', dbm: value } : null
})
const give = (signal: SignalEntry) => network.value.trim() && !props.busy && emit('joined', network.value.trim(), signal)
</script>

<template>
  <form class="stack" @submit.prevent="dbm && give(dbm)">
    <p v-if="known && !changing" class="row wrap">
      <span
        >On <b>{{ network }}</b>.</span
      ><UButton variant="link" class="p-0" @click="changing = true">another network</UButton>
    </p>
    <template v-else>
      <UFormField label="Network"><UInput v-model="network" maxlength="64" class="w-56" /></UFormField>
      <p v-if="!network.trim()" class="warn small">Say which network it is on; it is kept for the next ones.</p>
    </template>
    <p class="small">How well it hears there, by the app or the phone beside it:</p>
    <div class="row wrap">
      <CommonToggles spoken="Bars at the device" :items="signalBars" :chosen="undefined" @choose="give({ kind: 'bars', bars: $event })" />
      <span class="soft">bars, or</span>
      <UInput v-model="typed" placeholder="-58" inputmode="numeric" class="w-20" aria-label="dBm at the device" /><span>dBm</span>
      <UButton type="submit" variant="solid" :disabled="!dbm || !network.trim() || busy">Paired</UButton>
    </div>
    <p v-if="dbm" class="small">{{ judgeSignal(dbm).sentence }}</p>
  </form>
</template>
