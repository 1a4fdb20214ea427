<script setup lang="ts">
import { nearMissKinds, nearMissSaid } from '../../../core/insight/near-misses'
import { visitWords } from '../../../core/job'
import type { WorkInsight } from '../../../core/protocol'

/** What visits took against what was booked, and what was refused before it could hurt somebody. */
const props = defineProps<{ branchId?: string }>()
const session = useSession()
const { number, t } = useTrade()
const { answer, problem } = useList('GET /api/insight/work', () => ({ query: props.branchId ? { branchId: props.branchId } : {} }), ['job'])
const kinds = computed(() => answer.value?.kinds ?? [])
const all = computed(() =>
  kinds.value.reduce(
    (sum, one) => ({ booked: sum.booked + one.bookedHours, taken: sum.taken + one.takenHours, way: sum.way + one.wayHours }),
    {
      booked: 0,
      taken: 0,
      way: 0,
    },
  ),
)
const percent = (share: number) => `${number(Math.round(share * 100))} %`
const hours = (value: number) => number(value, 1)
const against = ({ bookedHours, takenHours }: WorkInsight['kinds'][number]) => {
  const more = takenHours / bookedHours - 1
  return Math.abs(more) < 0.02 ? 'as booked' : more > 0 ? `${percent(more)} longer` : `${percent(-more)} shorter`
}
const missed = computed(() =>
  nearMissKinds.flatMap((kind) => {
    const lines = (answer.value?.nearMisses ?? []).flatMap((one) => (one.kind === kind ? [{ ...one, key: `${kind} ${one.code}` }] : []))
    return lines.length ? [{ kind, lines }] : []
  }),
)
const heads = { refused: 'Refused before it could hurt somebody', ended: 'Proofs that ended while somebody relied on them' }
const open = ref<string | null>(null)
</script>

<template>
  <section v-if="kinds.length || missed.length || problem" class="mt-8 stack" aria-label="Work">
    <h2 class="kicker">Work of the last year</h2>
    <CommonProblem :problem="problem" />
    <p v-if="kinds.length">
      {{ hours(all.taken) }} hours in homes, {{ hours(all.booked) }} were booked<template v-if="all.way"
        >; {{ hours(all.way) }} hours on the way, as far as somebody said that they left</template
      >.
    </p>
    <table v-if="kinds.length" class="kinds">
      <thead>
        <tr class="small soft">
          <th scope="col">Visits</th>
          <th scope="col">how many</th>
          <th scope="col">booked, h</th>
          <th scope="col">taken, h</th>
          <th scope="col">against it</th>
          <th scope="col">a quarter of an hour over</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in kinds" :key="one.kind">
          <th scope="row">{{ visitWords[one.kind] }}</th>
          <td class="mono">{{ one.visits }}</td>
          <td class="mono">{{ hours(one.bookedHours) }}</td>
          <td class="mono">{{ hours(one.takenHours) }}</td>
          <td :class="{ warn: one.takenHours > one.bookedHours * 1.1 }">{{ against(one) }}</td>
          <td class="mono">{{ percent(one.over / one.visits) }}</td>
        </tr>
      </tbody>
    </table>
    <div v-if="answer?.longest.length">
      <h3 class="kicker">Went over most</h3>
      <NuxtLink v-for="one in answer.longest" :key="`${one.jobId} ${one.at}`" :to="`/jobs/${one.jobId}`" class="row ruled"
        ><span class="grow"
          >{{ one.siteName }}<span class="soft small">{{ ` · ${visitWords[one.kind]}, ${dayAndTime(one.at, session.region)}` }}</span></span
        ><span class="mono small">{{ `${one.takenMinutes} min, ${one.bookedMinutes} booked` }}</span></NuxtLink
      >
    </div>
    <div v-for="{ kind, lines } in missed" :key="kind">
      <h3 class="kicker">{{ heads[kind] }}</h3>
      <p class="small soft">
        {{
          kind === 'refused'
            ? 'Days on which the record said no, home by home. What a screen locks is not counted: nobody could tap it. No names: look at the home, the step and the day.'
            : 'Each took a proof from under somebody’s hands. Many of one kind say where a step goes wrong.'
        }}
      </p>
      <div v-for="one in lines" :key="one.key">
        <button
          type="button"
          class="row ruled w-full text-left"
          :aria-expanded="open === one.key"
          @click="open = open === one.key ? null : one.key"
        >
          <span class="grow">{{ t(nearMissSaid(kind, one.code)) }}</span><span class="mono">{{ counted(one.days, 'day') }}</span>
        </button>
        <p v-for="home in open === one.key ? one.homes : []" :key="home.at" class="row small home">
          <NuxtLink v-if="home.jobId" class="grow underline" :to="`/jobs/${home.jobId}/history`">{{ home.siteName }}</NuxtLink><span
            v-else
            class="grow"
            >{{ home.siteName }}</span
          ><span class="soft">{{ dayAndTime(home.at, session.region) }}</span>
        </p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.kinds {
  width: 100%;
  border-collapse: collapse;
}
.kinds th {
  text-align: left;
  font-weight: inherit;
}
.kinds th,
.kinds td {
  padding: 8px 12px 8px 0;
  border-bottom: 1px solid var(--line);
}
.home {
  padding: 4px 0 4px 16px;
  min-height: 44px;
}
@media (max-width: 640px) {
  .kinds th,
  .kinds td {
    padding-right: 6px;
    font-size: 0.85rem;
  }
}
</style>
