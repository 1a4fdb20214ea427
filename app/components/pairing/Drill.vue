<script setup lang="ts">
import { drillAnswers, drillAnswerWords, drills, drillSaid, drillWords, pairingOf } from '../../../core/job'

/** One drill in each home: the internet off, then the router; what still works is noted. */
const { job, onCrew, submitJob } = injectJobRecord()
const { busy, refusal, run } = useAction()
const known = computed(() => pairingOf(job.value!).drills)
const open = ref<(typeof drills)[number] | null>(null)
const blank = () => ({
  wall: 'works' as 'works' | 'fails',
  app: 'none' as (typeof drillAnswers)[number],
  voice: 'none' as (typeof drillAnswers)[number],
  note: '',
})
const form = ref(blank())
const answers = drillAnswers.map((value) => ({ value, label: drillAnswerWords[value] }))
const wallAnswers = answers.filter((one): one is { value: 'works' | 'fails'; label: string } => one.value !== 'none')
const begin = (which: (typeof drills)[number]) => {
  form.value = blank()
  open.value = which
}
async function keep() {
  if (await run(() => submitJob({ type: 'recordDrill', without: open.value!, ...form.value }))) open.value = null
}
</script>

<template>
  <section class="stack" data-testid="drill">
    <h2 class="kicker">Without internet, without router</h2>
    <p v-for="one in drills" :key="one" class="row wrap small">
      <span class="grow"
        >{{ drillWords[one] }}: <b v-if="known[one]">{{ drillSaid(known[one]) }}</b><span v-else class="soft">not tried yet</span></span
      ><UButton v-if="onCrew" variant="link" class="p-0" :aria-label="`Note it with the ${drillWords[one]}`" @click="begin(one)">{{
        known[one] ? 'again' : 'Note it'
      }}</UButton>
    </p>
    <form v-if="open" class="stack" @submit.prevent="keep">
      <p class="small">
        {{ open === 'internet' ? 'Pull the line out of the router, wait a minute.' : 'Pull the router’s plug, wait a minute.' }}
      </p>
      <UFormField label="Every wall control"
        ><CommonToggles spoken="Every wall control" :items="wallAnswers" :chosen="form.wall" @choose="form.wall = $event"
      /></UFormField>
      <UFormField label="The app, on the home’s network"
        ><CommonToggles spoken="The app" :items="answers" :chosen="form.app" @choose="form.app = $event"
      /></UFormField>
      <UFormField label="Voice"
        ><CommonToggles spoken="Voice" :items="answers" :chosen="form.voice" @choose="form.voice = $event"
      /></UFormField>
      <UFormField label="Note"><UInput v-model="form.note" maxlength="200" class="w-full" /></UFormField>
      <p class="small warn">Put it back in, and see that the home answers again.</p>
      <div class="row">
        <UButton type="submit" variant="solid" :loading="busy">Store</UButton><UButton variant="link" @click="open = null">not</UButton>
      </div>
    </form>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>
