<script setup lang="ts">
import { awayWords } from '../../../core/dispatch/away'
import type { RequestLine } from '../../../core/protocol'
import type { Region } from '~/utils/time'

/** What people ask of the dispatcher: time off, and visits to hand over; and who is noted as away. */
const props = defineProps<{ branchId: string; region: Region }>()
const session = useSession()
const { answer } = useList('GET /api/requests', () => ({ query: { branchId: props.branchId } }), ['requests', 'job'])
const asked = computed(() => (answer.value?.requests ?? []).filter(({ state }) => state === 'asked'))
const approved = computed(() =>
  (answer.value?.requests ?? []).filter(
    ({ state, kind, endsAt }) => state === 'approved' && kind !== 'swap' && Date.parse(endsAt) > Date.now(),
  ),
)
const open = ref(false)
const noting = ref(false)
const people = computed(() => session.people.filter(({ branchId, active }) => branchId === props.branchId && active))
const nameOf = (id: string | null) => session.person(id ?? '')?.name ?? 'Somebody'
const span = ({ startsAt, endsAt }: { startsAt: string; endsAt: string }) =>
  `${dayAndTime(startsAt, props.region)} to ${dayAndTime(endsAt, props.region)}`
const words = (one: RequestLine) =>
  one.kind === 'swap'
    ? `${nameOf(one.personId)} asks that ${one.otherId ? nameOf(one.otherId) : 'somebody else'} goes to ${one.siteName}, ${dayAndTime(one.startsAt, props.region)}`
    : `${nameOf(one.personId)}: ${awayWords[one.kind]}, ${span(one)}`
const taker = reactive<Record<string, string>>({})
const takerOf = (one: RequestLine) => taker[one.id] ?? one.otherId ?? ''
const { busy, problem, give } = useGiving()
const decide = (one: RequestLine, approve: boolean) =>
  give(() =>
    api('POST /api/requests/:id/decision', {
      params: { id: one.id },
      body: { approve, otherId: one.kind === 'swap' && approve ? takerOf(one) || null : null },
    }),
  )
const takeBack = (id: string) => give(() => api('POST /api/requests/:id/withdraw', { params: { id }, body: {} }))
</script>

<template>
  <span>
    <UButton
      icon="i-lucide-user-minus"
      :square="!asked.length"
      :aria-label="asked.length ? `${counted(asked.length, 'request waits', 'requests wait')} for you` : 'Who is away'"
      @click="open = true"
      >{{ asked.length || '' }}</UButton
    >
    <USlideover
      :open="open"
      title="Who is away"
      description="Time off, illness, and visits that somebody wants to hand over."
      @update:open="open = $event"
    >
      <template #body>
        <div class="stack">
          <CommonProblem :problem="problem" />
          <section v-for="one in asked" :key="one.id" class="ask" :aria-label="words(one)">
            <p>
              <b>{{ words(one) }}.</b>
            </p>
            <p v-if="one.note" class="soft small">{{ one.note }}</p>
            <p v-if="one.booked.length" class="small warn">
              Booked then: {{ one.booked.map(({ siteName, startsAt }) => `${siteName} ${dayAndTime(startsAt, region)}`).join(', ') }}.
              Approved, these have nobody until the day is planned anew.
            </p>
            <USelect
              v-if="one.kind === 'swap'"
              :model-value="takerOf(one) || undefined"
              :items="
                people
                  .filter(({ id, role }) => id !== one.personId && role !== 'dispatcher')
                  .map(({ id: value, name: label }) => ({ value, label }))
              "
              placeholder="Who takes it"
              aria-label="Who takes it"
              class="w-full"
              @update:model-value="taker[one.id] = String($event)"
            />
            <div class="row">
              <UButton variant="solid" :loading="busy" :disabled="one.kind === 'swap' && !takerOf(one)" @click="decide(one, true)"
                >Approve</UButton
              >
              <UButton :loading="busy" @click="decide(one, false)">Decline</UButton>
            </div>
          </section>
          <p v-if="!asked.length" class="soft">Nobody asks for anything.</p>
          <UButton icon="i-lucide-plus" :aria-expanded="noting" @click="noting = !noting">Somebody is away</UButton>
          <DayAwayForm v-if="noting" :region="region" :people="people.map(({ id, name }) => ({ id, name }))" @done="noting = false" />
          <template v-if="approved.length">
            <h3 class="kicker">Away from today on</h3>
            <div v-for="one in approved" :key="one.id" class="row">
              <span class="grow small"
                >{{ words(one)
                }}<template v-if="one.booked.length"
                  ><br /><span class="warn">Still booked: {{ one.booked.map(({ siteName }) => siteName).join(', ') }}</span></template
                ></span
              >
              <UButton :loading="busy" :aria-label="`Take back: ${words(one)}`" @click="takeBack(one.id)">Take back</UButton>
            </div>
          </template>
        </div>
      </template>
    </USlideover>
  </span>
</template>

<style scoped>
.ask {
  display: grid;
  gap: 8px;
  border: 1.5px solid var(--ink);
  border-radius: 4px;
  padding: 12px;
}
</style>
