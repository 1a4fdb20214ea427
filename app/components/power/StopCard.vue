<script setup lang="ts">
import { stopKinds, stopWords, type StopKind } from '../../../core/site'

/** One tap stops everybody here; then what to do, what had happened, and how work goes on. */
const { page, site, asker, offline, submitSite } = injectJobRecord()
const { t } = useTrade()
const session = useSession()
const { busy, refusal, run } = useAction()
const open = ref(false)
const note = ref('')
const stop = computed(() => site.value?.stop ?? null)
const mayEnd = computed(() => stop.value && (stop.value.personId === asker.value.personId || session.viewer?.role === 'lead'))
const told = computed(() => {
  if (offline.value) return 'No network here: nobody else is told yet. Shout.'
  return stop.value ? `${stop.value.name} has stopped the work. Everyone on this site is told.` : 'Telling everyone on this site …'
})
function give() {
  open.value = true
  if (!stop.value) void run(() => submitSite({ type: 'stopWork', stopId: newId() }))
}
const tell = (what: StopKind) => run(() => submitSite({ type: 'tellStop', stopId: stop.value!.id, what, note: '' }))
async function goOn() {
  if (!(await run(() => submitSite({ type: 'endStop', stopId: stop.value!.id, note: note.value.trim() })))) return
  note.value = ''
  open.value = false
}
</script>

<template>
  <span>
    <UButton color="error" variant="solid" class="px-3" @click="give">Stop</UButton>
    <UModal v-model:open="open" title="Stop work" :description="told">
      <template #body>
        <CommonRefusal :refusal="refusal" />
        <ol class="stack text-[17px]">
          <li><b>Hands off, step back.</b> Say it out loud, so that everyone in the home hears it.</li>
          <li>
            <b>Somebody is touching a live part?</b>
            {{ t('Do not touch them. Open the {breaker}; if you do not know which, open the {main}.') }}
          </li>
          <li>
            <b>Call the emergency number</b> of this country. The address is:<br /><span class="mono">{{ page?.site.address }}</span>
          </li>
          <li><b>Smoke or fire?</b> Everyone out. No water on anything electrical.</li>
        </ol>
        <p class="soft small mt-3">Even after a small shock: a doctor, today. The heart can react later.</p>
        <template v-if="stop">
          <h3 class="kicker rule pt-3 mt-4">What happened?</h3>
          <div class="row wrap mt-2" role="group" aria-label="What happened">
            <UButton
              v-for="kind in stopKinds"
              :key="kind"
              :variant="stop.what === kind ? 'solid' : undefined"
              :aria-pressed="stop.what === kind"
              :loading="busy"
              @click="tell(kind)"
              >{{ stopWords[kind] }}</UButton
            >
          </div>
          <p v-if="stop.what === 'voltage' || stop.what === 'shock'" class="note red mt-2">
            <b>Every proof here has ended.</b> Report the voltage at its box too, once nobody is in danger.
          </p>
          <form v-if="mayEnd" class="stack rule pt-3 mt-4" @submit.prevent="goOn">
            <UFormField label="Why work restarts"
              ><UInput v-model="note" placeholder="checked together: a lamp had burst" autocomplete="off"
            /></UFormField>
            <UButton type="submit" :loading="busy" :disabled="note.trim().length < 3">Restart work</UButton>
          </form>
          <p v-else class="soft small mt-4">{{ stop.name }} or a lead restarts work.</p>
        </template>
      </template>
    </UModal>
  </span>
</template>
