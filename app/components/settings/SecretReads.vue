<script setup lang="ts">
/** Who read which code of a home: for the lead to look at. */
const session = useSession()
const { answer, problem } = useList('GET /api/secret-reads', () => ({}), [])
const words = {
  setupCode: 'read the setup code of',
  doorCode: 'read the door code of',
  pack: 'read the codes in the pack of',
  homePage: 'made the page with the codes of',
} as const
const all = ref(false)
const shown = computed(() => (answer.value?.reads ?? []).slice(0, all.value ? 200 : 12))
</script>

<template>
  <section class="mt-8" aria-label="Codes that were read">
    <h2 class="kicker">Codes that were read</h2>
    <p class="soft small mb-2">
      Door and setup codes are for whoever has a visit in that home from yesterday to tomorrow, for leads, and for dispatchers who say why.
      Each reading stands here.
    </p>
    <CommonProblem :problem="problem" />
    <p v-if="answer && !shown.length" class="soft">None so far.</p>
    <div v-for="read in shown" :key="read.id" class="list-row dated">
      <span class="soft small">{{ dayAndTime(read.at, session.region) }}</span>
      <span
        ><b>{{ read.who || 'somebody who is gone' }}</b> {{ words[read.what] }}
        <span v-if="read.serial" class="mono">{{ read.serial }}</span><template v-if="read.serial">, </template
        ><NuxtLink v-if="read.jobId" class="underline" :to="`/jobs/${read.jobId}`">{{ read.siteName || 'a home' }}</NuxtLink
        ><template v-else>{{ read.siteName || 'a home' }}</template
        ><span v-if="read.reason" class="small soft block">{{ `because: ${read.reason}` }}</span></span
      >
    </div>
    <UButton v-if="!all && (answer?.reads.length ?? 0) > 12" variant="link" @click="all = true">All {{ answer!.reads.length }}</UButton>
  </section>
</template>
