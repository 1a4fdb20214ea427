<script setup lang="ts">
import { addressedIn } from '../../../core/job'

/** Addresses that the router keeps for hubs and relays; the list goes to whoever looks after the network. */
const { page, job, site, onCrew, submitJob } = injectJobRecord()
const session = useSession()
const { busy, refusal, run } = useAction()
const all = computed(() => addressedIn(job.value!, site.value!))
const kept = computed(() => all.value.filter((one) => one.kept))
const mayChange = computed(() => onCrew.value || session.isOffice)
const open = ref<string | null>(null)
const mac = ref('')
const address = ref('')
function edit(id: string) {
  const known = all.value.find((one) => one.id === id)?.kept
  mac.value = known?.mac ?? ''
  address.value = known?.address ?? ''
  open.value = id
}
async function keep() {
  const device = { deviceId: open.value!, mac: mac.value, address: address.value.trim() }
  if (await run(() => submitJob({ type: 'reserveAddress', ...device }))) open.value = null
}
async function save(as: 'csv' | 'conf') {
  const { addressesCsv, dnsmasqHosts } = await import('../../../core/format/addresses-out')
  const name = `addresses-${page.value!.job.number}.${as}`
  if (as === 'csv') saveText(name, 'text/csv', addressesCsv(all.value))
  else saveText(name, 'text/plain', dnsmasqHosts(all.value))
}
</script>

<template>
  <details v-if="all.length" data-testid="addresses">
    <summary class="kicker">Reserved addresses: {{ kept.length || 'none' }}</summary>
    <div class="stack mt-2">
      <div v-for="one in all" :key="one.id" class="stack">
        <p class="row wrap small">
          <span class="grow"
            ><b>{{ one.name }}</b> <span class="soft">{{ one.room }}{{ one.isolated ? ', isolated' : '' }}</span></span
          ><span v-if="one.kept" class="mono">{{ one.kept.address }}</span
          ><UButton v-if="mayChange" variant="link" class="p-0" :aria-label="`Address of ${one.name}`" @click="edit(one.id)">{{
            one.kept ? 'change' : 'reserve'
          }}</UButton>
        </p>
        <form v-if="open === one.id" class="row wrap" @submit.prevent="keep">
          <UInput v-model="mac" placeholder="3c:5a:b4:00:12:ef" class="w-44" aria-label="Hardware address" /><UInput
            v-model="address"
            placeholder="192.168.1.40"
            class="w-36"
            aria-label="Address"
          /><UButton type="submit" :loading="busy">Keep</UButton><UButton variant="link" @click="open = null">not</UButton>
        </form>
      </div>
      <p v-if="kept.length" class="row wrap">
        <UButton variant="link" class="p-0" @click="save('csv')">As a table (CSV)</UButton
        ><UButton variant="link" class="p-0" @click="save('conf')">For dnsmasq</UButton>
      </p>
      <CommonRefusal :refusal="refusal" />
    </div>
  </details>
</template>
