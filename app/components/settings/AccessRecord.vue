<script setup lang="ts">
import type { AccessLine, Deed } from '../../../core/protocol'

/** Who logged in, changed accounts and settings, and took files out: for the lead to look at. */
const session = useSession()
const kinds: { value: Deed | 'all'; label: string }[] = [
  { value: 'all', label: 'Everything' },
  { value: 'login', label: 'Logins' },
  { value: 'person', label: 'People and rights' },
  { value: 'branch', label: 'Settings' },
  { value: 'tester', label: 'Testers' },
  { value: 'file', label: 'Files that were taken out' },
  { value: 'homePage', label: 'Pages for customers' },
  { value: 'link', label: 'Links' },
  { value: 'password', label: 'Own passwords and second factors' },
  { value: 'pin', label: 'Own PINs' },
  { value: 'erased', label: 'What was erased' },
]
const kind = ref<Deed | 'all'>('all')
const lines = ref<AccessLine[]>([])
const more = ref(false)
const problem = ref<Problem | null>(null)
const busy = ref(false)
async function load(before?: string) {
  busy.value = true
  const asked = kind.value
  const answer = await api('GET /api/access-record', { query: { before, deed: asked === 'all' ? undefined : asked } })
  busy.value = false
  // Another kind was chosen meanwhile: its answer is on the way.
  if (asked !== kind.value) return
  problem.value = answer.ok ? null : answer.problem
  if (!answer.ok) return
  lines.value = before ? [...lines.value, ...answer.value.lines] : answer.value.lines
  more.value = answer.value.more
}
watch(kind, () => load(), { immediate: true })

const fieldWords: Record<string, string> = {
  licensed: 'licence',
  active: 'account open',
  hasFactor: 'second factor',
  backInService: 'back in service',
}
const fieldWord = (field: string) => fieldWords[field] ?? field.replace(/(?<=[a-z])(?=[A-Z])/g, ' ').toLowerCase()
const said = ({ deed, what, about, changes }: AccessLine): string => {
  switch (deed) {
    case 'login':
      return `logged in on ${what === 'unknown device' ? 'an unknown device' : what}`
    case 'password':
      return what ? `switched their second factor ${what}` : 'set another password of their own'
    case 'pin':
      return 'set a PIN of their own'
    case 'person':
      return `${what} ${about || 'somebody'}`
    case 'branch':
      return what === 'added' ? `added the branch ${about}` : `changed the settings of ${about}`
    case 'tester':
      return `changed the tester ${about}`
    case 'link':
      return `${what} the link ${about}`
    case 'homePage':
      return 'made a page for the customer of'
    case 'erased':
      return changes.length ? `changed ${what}` : about ? `erased ${what} of` : `erased ${what}`
    case 'file':
      return about ? `took out ${what} of` : `took out ${what}`
  }
}
const changed = ({ changes }: AccessLine) =>
  changes
    .map(({ field, from, to }) => (!to ? fieldWord(field) : from ? `${fieldWord(field)} ${from} → ${to}` : `${fieldWord(field)} ${to}`))
    .join(' · ')
</script>

<template>
  <section class="mt-8" aria-label="Access record">
    <h2 class="kicker">Access record</h2>
    <p class="soft small mb-2">Who logged in, changed accounts and settings, and took files out. Nobody can change it.</p>
    <UFormField label="Show" name="deed" class="mb-3">
      <USelect v-model="kind" :items="kinds" class="w-64" />
    </UFormField>
    <CommonProblem :problem="problem" />
    <p v-if="!lines.length && !busy && !problem" class="soft">Nothing so far.</p>
    <div v-for="line in lines" :key="line.id" class="list-row dated" data-testid="access-line">
      <span class="soft small">{{ dayAndTime(line.at, session.region) }}</span>
      <span
        ><b>{{ line.who || 'Somebody who is gone' }}</b> {{ said(line) }}
        <NuxtLink v-if="line.jobId" class="underline" :to="`/jobs/${line.jobId}`">{{ line.about }}</NuxtLink><span
          v-if="line.changes.length"
          class="small soft block"
          >{{ changed(line) }}</span
        ></span
      >
    </div>
    <UButton v-if="more" variant="link" :loading="busy" @click="load(lines.at(-1)!.id)">Older ones</UButton>
  </section>
</template>
