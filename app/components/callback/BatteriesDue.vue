<script setup lang="ts">
import { cellCaution, monthSaid } from '../../../core/fit'

/** Batteries of all homes that are due soon or were, and whom to call. */
const session = useSession()
const { answer } = useList('GET /api/batteries', () => ({}), ['job'])
const batteries = computed(() => answer.value?.batteries ?? [])
const late = computed(() => batteries.value.filter(({ dueOn, branchId }) => dueOn < todayIn(session.regionAt(branchId))).length)
</script>

<template>
  <section v-if="batteries.length" class="mt-8" aria-label="Batteries that are due">
    <h2 class="kicker mb-2">
      {{ counted(batteries.length, 'battery is', 'batteries are') }} due within two months{{
        late ? `, ${late} past ${late === 1 ? 'its' : 'their'} day` : ''
      }}
    </h2>
    <div v-for="one in batteries" :key="one.unitId" class="list-row line">
      <span
        ><b>{{ one.siteName }}</b> <span class="soft">{{ one.name || one.serial }}</span><br /><span class="soft"
          >{{ one.place }}, {{ one.model }}</span
        ></span
      >
      <span class="small"
        >{{ one.customer }}<br /><a v-if="one.phone" class="underline mono" :href="`tel:${one.phone}`">{{ one.phone }}</a
        ><span v-else class="soft">no number on record</span></span
      >
      <span class="small"
        ><span :class="one.dueOn < todayIn(session.regionAt(one.branchId)) ? 'bad' : 'warn'">by {{ monthSaid(one.dueOn) }}</span
        ><br /><NuxtLink
          class="underline"
          :to="`/jobs/${one.jobId}/handover#batteries`"
          :aria-label="`Note a new battery: ${one.name || one.serial}`"
          >a new one is in</NuxtLink
        ></span
      >
    </div>
    <p class="soft small mt-1">Whoever is near takes one along, or the customer puts it in. {{ cellCaution }}</p>
    <p v-if="answer?.more" class="soft small">More are due after these.</p>
  </section>
</template>

<style scoped>
.line {
  grid-template-columns: minmax(0, 1fr) 210px 190px;
}
@media (max-width: 760px) {
  .line {
    grid-template-columns: 1fr 1fr;
  }
  .line > :first-child {
    grid-column: 1 / -1;
  }
}
</style>
