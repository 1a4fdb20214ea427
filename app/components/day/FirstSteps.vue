<script setup lang="ts">
/** What a new company does first, in order; each ticks itself, and with the last one the list is gone. */
const props = defineProps<{ jobs: number; visits: number }>()
const session = useSession()
const people = computed(() => session.people.filter((person) => person.active))
const steps = computed(() => [
  {
    done: people.value.length > 1,
    text: 'Your crew: everybody with a login of their own',
    why: 'A tag, a proof and a signature are somebody’s.',
    to: '/settings?part=people',
  },
  {
    done: people.value.some((person) => person.licensed && person.role !== 'dispatcher'),
    text: 'Who of them is licensed',
    why: 'Without a licensed person in the field no proof counts.',
    to: '/settings?part=people',
  },
  {
    done: session.instruments.some((instrument) => instrument.active),
    text: 'A tester, with its calibration',
    why: 'Nothing is proven dead without one from the register.',
    to: '/settings?part=testers',
  },
  {
    done: session.catalogue.some((model) => model.active),
    text: 'The devices you install',
    why: 'Terminals, size and limits decide what fits and how it is connected.',
    to: '/settings?part=catalogue',
  },
  {
    done: people.value.find((person) => person.id === session.viewer?.personId)?.hasPin ?? false,
    text: 'Your own PIN; tell the others to set theirs',
    why: 'For the day a phone dies with a tag hanging.',
    to: '/settings?part=pin',
  },
  { done: props.jobs > 0, text: 'The first job', why: 'From a file, or by hand.', to: '/jobs/new' },
  { done: props.visits > 0, text: 'Its visit, with a crew', why: 'Schedule it from the list beside.', to: '/jobs' },
])
const next = computed(() => steps.value.findIndex((step) => !step.done))
</script>

<template>
  <section v-if="next >= 0" class="stack mb-6" aria-label="First steps" data-testid="first-steps">
    <h2 class="next-title">First steps: {{ steps.filter((step) => step.done).length }} of {{ steps.length }} done.</h2>
    <ol>
      <li v-for="(step, index) in steps" :key="step.text" class="step" :class="{ done: step.done, next: index === next }">
        <span class="mark" :aria-label="step.done ? 'done' : 'to do'" role="img">{{ step.done ? '✓' : index + 1 }}</span>
        <NuxtLink v-if="!step.done" :to="step.to" class="grow"
          ><b>{{ step.text }}</b
          ><br /><span class="soft small">{{ step.why }}</span></NuxtLink
        >
        <span v-else class="grow soft">{{ step.text }}</span>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.step {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 44px;
  padding: 6px 8px;
  border-bottom: 1px solid var(--line);
}
.step.next {
  border: 1.5px solid var(--ink);
  border-left: 8px solid var(--copper-bar);
  border-radius: 4px;
}
.mark {
  width: 26px;
  text-align: center;
  font: 640 16px var(--font-mono);
}
.done .mark {
  color: var(--petrol);
}
</style>
