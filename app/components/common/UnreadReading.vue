<script setup lang="ts">
/** A reading of the linked meter that cannot be used: whoever holds the probes has gone on, so it is waited for them. */
const props = defineProps<{ unit: 'V' | 'Ω'; label: string }>()
const unread = useUnreadReading()
const over = computed(() => props.unit === 'V' && /^\W*0?\W?[o0]\W?l/i.test(unread.value ?? ''))
</script>

<template>
  <div v-if="unread !== null" class="note red stack" data-testid="unread">
    <p>
      <b>“{{ unread }}” is not taken, nor anything after it.</b>
      {{
        over
          ? 'Over the range: that can be full voltage. Set the meter to volts, and treat it as live.'
          : `Circuitry does not understand it as ${unit === 'V' ? 'volts' : 'ohms'}.`
      }}
      Go back to {{ label }}.
    </p>
    <UButton class="self-start" @click="unread = null">I am back there</UButton>
  </div>
</template>
