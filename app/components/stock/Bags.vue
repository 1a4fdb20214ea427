<script setup lang="ts">
import { bagsOf, failedInShop, leftInShop, type Bag, type BagDevice } from '../../../core/job'

/** A bag for each box: what goes in, what of it was made ready in the shop, and the labels. */
defineProps<{ mayPrepare: boolean }>()
const { job, site } = injectJobRecord()
const bags = computed(() => (job.value && site.value ? bagsOf(job.value, site.value) : []))
const open = ref('')
const keyOf = ({ box }: Bag, { gang }: BagDevice) => `${box.id}:${gang}`
const left = ({ unit }: BagDevice) => (unit ? leftInShop(unit) : null)
const ready = computed(() => bags.value.filter(({ devices }) => devices.every((device) => left(device)?.length === 0)).length)
const sentence = computed(() =>
  !bags.value.length
    ? 'No box waits for a device: nothing to put in bags.'
    : ready.value === bags.value.length
      ? bags.value.length === 1
        ? 'The bag is ready.'
        : `All ${counted(bags.value.length, 'bag')} are ready.`
      : `${ready.value} of ${counted(bags.value.length, 'bag')} ready.`,
)
const bins = ({ splices }: Bag) =>
  splices.length
    ? `connectors: ${splices.map(({ conductors, count }) => `${count} × for ${conductors}`).join(', ')}`
    : 'connectors and pigtails from the bins'
</script>

<template>
  <div>
    <h1 class="sentence">{{ sentence }}</h1>
    <div v-if="bags.length" class="row wrap my-3">
      <p class="soft grow">
        What is made ready here is not done again on site: its code, its meter, how it comes back. On and off, dimming with the home’s own
        lamps and motors are tested there.
      </p>
      <UButton :to="`/api/jobs/${job!.jobId}/bag-labels`" external data-paper target="_blank" icon="i-lucide-printer">Labels</UButton>
    </div>
    <section v-for="bag in bags" :key="bag.box.id" class="bag" :data-testid="`bag-${bag.box.name}`">
      <h2>
        <b>{{ bag.box.name }}</b> <span class="soft">{{ bag.room }}</span>
      </h2>
      <p class="small soft">Plate: {{ bag.plate ?? 'not known yet' }} · {{ bins(bag) }}</p>
      <template v-for="device in bag.devices" :key="device.gang">
        <div class="device">
          <span class="mono">{{ device.gang }}</span>
          <span
            ><b>{{ device.model.maker }} {{ device.model.name }}</b>
            <span class="small soft block"
              >{{ device.points.join(', ') || 'companion' }}{{ device.unit ? ` · ${device.unit.serial}` : '' }}</span
            ></span
          >
          <span :class="left(device) === null ? 'soft' : left(device)!.length ? 'warn' : 'good'">{{
            left(device) === null ? 'not begun' : left(device)!.length ? `left: ${left(device)!.join(', ')}` : 'ready'
          }}</span>
          <UButton
            v-if="mayPrepare"
            :aria-expanded="open === keyOf(bag, device)"
            :aria-label="`Prepare gang ${device.gang} of ${bag.box.name}`"
            @click="open = open === keyOf(bag, device) ? '' : keyOf(bag, device)"
            >{{
              open === keyOf(bag, device) ? 'Close' : !device.unit ? 'Prepare' : failedInShop(device.unit) ? 'Another' : 'Look'
            }}</UButton
          >
        </div>
        <StockPrepare v-if="open === keyOf(bag, device)" :box-id="bag.box.id" :device="device" @done="open = ''" />
      </template>
    </section>
  </div>
</template>

<style scoped>
.bag {
  border-top: 2px solid var(--ink);
  padding: 10px 0 14px;
}
.device {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) minmax(0, 220px) auto;
  gap: 4px 10px;
  align-items: center;
  min-height: 56px;
  border-bottom: 1px solid var(--line);
}
@media (max-width: 760px) {
  .device {
    grid-template-columns: 24px minmax(0, 1fr) auto;
  }
  .device > :nth-child(3) {
    grid-row: 2;
    grid-column: 2 / -1;
  }
}
</style>
