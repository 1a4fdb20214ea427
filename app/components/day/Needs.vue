<script setup lang="ts">
import type { Needs } from '../../../core/dispatch/board/day-file'
import { needsNothing } from '../../../core/dispatch/board/needs'
import { mostPeople } from '../../../core/job/visit/set-needs.schema'

/** Whom the visits of a job take: said once, and every plan and every booking is held against it. */
const props = defineProps<{ jobId: string; branchId: string; needs: Needs }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const { refusal, inTurn } = useAction()
const now = ref<Needs>({ ...props.needs })
watch(
  () => props.needs,
  (needs) => (now.value = { ...needs }),
)
const skills = computed(() => skillItems(session.branchOf(props.branchId)?.settings.day.skills, now.value.skills))
async function set(needs: Needs) {
  now.value = needs
  if (await inTurn(() => submitJobCommand(props.jobId, { type: 'setNeeds', ...needs }))) emit('changed')
}
const people = computed({ get: () => now.value.people, set: (count) => void set({ ...now.value, people: count }) })
</script>

<template>
  <details class="needs" :open="!needsNothing(needs) || undefined">
    <summary class="opens">Whom it takes: {{ needsWords(now) }}</summary>
    <div class="stack">
      <SurveyStepper
        v-model="people"
        class="justify-self-start"
        :min="1"
        :max="mostPeople"
        word="person"
        words="people"
        spoken="People it takes"
      />
      <CommonToggles
        v-if="skills.length"
        spoken="What one of them can do"
        :items="skills"
        :chosen="now.skills"
        @choose="set({ ...now, skills: toggled(now.skills, $event) })"
      />
      <p class="soft small">Counts for every visit of this job. An apprentice counts beside somebody with a licence.</p>
      <CommonRefusal :refusal="refusal" />
    </div>
  </details>
</template>
