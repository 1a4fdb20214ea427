<script setup lang="ts">
import { dateIn } from '../../../core/units'

/** Visits whose parts come too late, for whoever plans the day. */
const session = useSession()
const lines = useReorder()
const waiting = computed(() =>
  lines.value.filter(
    ({ late, jobs, ordered, instead }) => !instead && (late || ordered > 0) && jobs.some(({ on, short }) => on && short > 0),
  ),
)
const region = computed(() => session.regionAt(session.branch!.id))
</script>

<template>
  <p v-for="line in waiting" :key="line.articleId" class="note amber small" data-testid="waits-for-parts">
    <template v-for="job in line.jobs.filter(({ on }) => on)" :key="job.id"
      ><NuxtLink :to="`/jobs/${job.id}`" class="underline"
        ><b>{{ job.number }} · {{ job.title }}</b></NuxtLink
      >, {{ dateIn(job.on!, region.locale) }}: {{ job.short }} × {{ line.name }}
      {{ line.arrivesOn ? `cannot be here before ${dateIn(line.arrivesOn, region.locale)}` : 'is on its way' }}. Move the visit, or take
      them from a van.
    </template>
  </p>
</template>
