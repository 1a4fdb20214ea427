<script setup lang="ts">
import type { MemberState } from '../../../core/job'

/** Who of the household is in the home: an invitation alone opens nothing. */
defineProps<{ mayChange: boolean }>()
const { job, submitJob } = injectJobRecord()
const { refusal, inTurn } = useAction()
const members = computed(() => Object.entries(job.value!.members ?? {}).map(([id, one]) => ({ id, ...one })))
const name = ref('')
const note = (memberId: string, named: string, is: MemberState) =>
  inTurn(() => submitJob({ type: 'noteMember', memberId, name: named, is }))
async function add() {
  const given = name.value.trim()
  // The next name may be typed while this one is on its way.
  name.value = ''
  if (!(await note(newId(), given, 'invited'))) name.value ||= given
}
</script>

<template>
  <section class="stack" aria-label="Household members">
    <h2 class="kicker">Household in the app</h2>
    <p v-if="!members.length" class="small soft">
      Nobody is noted. Whoever uses the app has an invitation of their own, and accepts it while you are here.
    </p>
    <div v-for="one in members" :key="one.id" class="row wrap ruled">
      <span class="grow"
        ><b>{{ one.name }}</b
        ><span class="small" :class="one.is === 'accepted' ? 'good' : 'warn'">
          · {{ one.is === 'accepted' ? 'has accepted' : 'invited, not in yet' }} · {{ one.by }}</span
        ></span
      >
      <template v-if="mayChange">
        <UButton v-if="one.is === 'invited'" :aria-label="`${one.name} has accepted`" @click="note(one.id, one.name, 'accepted')"
          >Accepted</UButton
        >
        <UButton variant="link" icon="i-lucide-x" :aria-label="`Take ${one.name} off the list`" @click="note(one.id, one.name, 'gone')" />
      </template>
    </div>
    <form v-if="mayChange" class="row wrap" @submit.prevent="add">
      <UInput v-model="name" class="grow" maxlength="80" placeholder="Name" aria-label="Name of a household member" /><UButton
        type="submit"
        :disabled="!name.trim()"
        >Invited</UButton
      >
    </form>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>
