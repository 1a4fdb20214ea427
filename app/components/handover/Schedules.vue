<script setup lang="ts">
/** What the home does by itself, played through a year before the customer signs for it. */
const { page, job } = injectJobRecord()
const { t } = useTrade()
const { home, others, findings, sentence, seenWords, answer, failed } = useYearPlayed()
/** A device that comes back on by itself is a finding without any schedule. */
const any = computed(() => home.value.routines.length > 0 || findings.value.length > 0)
const going = computed(() => home.value.routines.filter(({ paused }) => !paused).length)
const paused = computed(() => home.value.routines.length - going.value)
const said = computed(() =>
  [
    ...(going.value ? [counted(going.value, 'schedule or rule', 'schedules and rules')] : []),
    ...(paused.value ? [`${paused.value} paused`] : []),
    ...(answer.value && going.value > answer.value.ran ? [`${going.value - answer.value.ran} never ran in that year`] : []),
  ].join(', '),
)
const shownAtOnce = 3
</script>

<template>
  <section v-if="any" class="stack" aria-label="What it does by itself">
    <h2 class="kicker">What it does by itself</h2>
    <p v-if="failed" class="note amber">The year could not be played on this device.</p>
    <template v-else>
      <p data-testid="year-played">
        <b :class="!answer ? '' : findings.length ? 'warn' : 'good'">{{ sentence }}</b>
        <span v-if="said" class="soft"> {{ said }}.</span>
      </p>
      <p v-if="!page!.site.position" class="small warn">Nobody has shown where this home is: the sun rises at six and sets at six here.</p>
      <p v-if="others" class="small soft">Not played, since other jobs put them in: {{ others }}.</p>
      <ul v-if="findings.length" class="small list-disc ps-5">
        <li v-for="finding in findings.slice(0, shownAtOnce)" :key="finding.sentence">
          <b v-if="finding.kind === 'mustRunOff'" class="bad">Must run. </b>{{ t(finding.sentence) }}
          <span class="soft">{{ seenWords(finding) }}</span>
        </li>
        <li v-if="findings.length > shownAtOnce" class="soft">and {{ findings.length - shownAtOnce }} more</li>
      </ul>
      <NuxtLink v-if="findings.length && !job!.handedOverAt" class="underline small" :to="`/jobs/${page!.job.id}/schedules`"
        >Mend it, or tell the customer before they sign.</NuxtLink
      >
      <NuxtLink v-else class="underline small" :to="`/jobs/${page!.job.id}/schedules`">Schedules and rules</NuxtLink>
    </template>
  </section>
</template>
