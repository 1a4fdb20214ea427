<script setup lang="ts">
import { workWords } from '../../../core/dispatch/work'
import { numberIn } from '../../../core/units'

/** What the branch’s own visits say of each kind of work, against what one takes it to need. */
const session = useSession()
const { answer, problem } = useList('GET /api/durations', () => ({ query: { branchId: session.branch!.id } }), ['job'])
const region = computed(() => session.regionAt(session.branch!.id))
const minutes = (value: number) => `${numberIn(Math.round(value), region.value.locale)} min`
const against = (base: number, now: number) => {
  const percent = Math.round((100 * (now - base)) / base)
  return percent === 0 ? 'as taken' : `${Math.abs(percent)} % ${percent > 0 ? 'longer' : 'shorter'}`
}
</script>

<template>
  <section class="stack" aria-labelledby="durations-title">
    <h2 id="durations-title" class="next-title">How long work takes in {{ session.branch!.name }}</h2>
    <p class="soft">
      From arriving and ending visits. What was seen seldom stays near what one takes it to need: three jobs prove little. Visits are booked
      by it.
    </p>
    <CommonProblem :problem="problem" />
    <p v-if="answer && !answer.kinds.length" class="note">
      No visit was ended here yet: what is said of hours is what one takes them to be.
    </p>
    <table v-if="answer?.kinds.length" class="plain" data-testid="durations">
      <thead>
        <tr>
          <th>Work</th>
          <th>Taken to need</th>
          <th>Here</th>
          <th>Visits</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in answer.kinds" :key="line.kind">
          <td>
            <b>{{ workWords[line.kind][0] }}</b>
          </td>
          <td class="mono">{{ minutes(line.baseMinutes) }}</td>
          <td>
            <span class="mono">{{ minutes(line.minutes) }}</span>
            <span class="soft small">{{ against(line.baseMinutes, line.minutes) }}</span>
          </td>
          <td class="mono">{{ line.seen }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
