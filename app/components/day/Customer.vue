<script setup lang="ts">
import { DateTime } from 'luxon'
import { customerMayMove, runsLate, type LetterPurpose } from '../../../core/dispatch/promise'
import type { DayVisit, PlannedVisit } from '../../../core/protocol'
import type { OfferedWindow } from '~/workers/day'
import type { Region } from '~/utils/time'

/** What the customer of a visit has been told and has ready, and what the office tells them: late, a reminder, other times. */
const props = defineProps<{
  visit: DayVisit
  region: Region
  /** When it is expected to begin as the day goes, and by when on four of five days. */
  expected: { startAt: string; fourAt: string } | null
  /** Looks for times on a day, YYYY-MM-DD; null where no day is worked out. */
  timesOn: ((visitId: string, date: string) => Promise<OfferedWindow[]>) | null
}>()
const { answer: contact } = useList('GET /api/visits/:id/contact', () => ({ params: { id: props.visit.id } }), ['messages', 'job', 'jobs'])
const ready = computed(() => contact.value?.prepared.filter(({ at }) => at).length ?? 0)
const missing = computed(() => contact.value?.prepared.filter(({ at }) => !at).map(({ what }) => what.toLowerCase()) ?? [])
const expectedAt = computed(() => props.visit.expectedAt ?? props.expected?.startAt ?? null)
const late = computed(() => expectedAt.value !== null && runsLate(props.visit.windowTo, expectedAt.value))
const purposes = computed((): LetterPurpose[] =>
  props.visit.status !== 'planned' ? [] : late.value ? ['late', 'reminder', 'booked'] : ['booked', 'reminder', 'late'],
)
const { now } = useNow()
/** So near, they would look at a page that offers them nothing. */
const theyMayMove = computed(() => customerMayMove({ ...props.visit, setOff: Boolean(props.visit.setOffAt) }, now.value))
const offeredWords = (count: number) =>
  `${counted(count, 'other time')} offered; ${theyMayMove.value ? 'none chosen yet.' : 'none was chosen, and their page offers none any more.'}`
const writing = ref(false)

// Other times: of this day and those after it that are worked.
const days = 4
/** So many are offered at most. */
const mostOffered = 12
const offering = ref(false)
interface OtherTime {
  id: string
  words: string
  visits: PlannedVisit[]
}
const found = shallowRef<OtherTime[] | null>(null)
const chosen = ref<string[]>([])
/** A time that is nearly the one they have is no other time, and one that begins soon is over before they have read of it. */
const differs = ({ change: { windowFrom, startAt } }: OfferedWindow) =>
  Math.abs(Date.parse(windowFrom) - Date.parse(props.visit.windowFrom)) > 45 * 60_000 && Date.parse(startAt) > Date.now() + 2 * 3_600_000
async function look() {
  offering.value = true
  found.value = null
  const first = DateTime.fromISO(props.visit.startsAt, { zone: props.region.zone })
  const list: OtherTime[] = []
  for (let day = 0; day < days; day++) {
    const offers = await props.timesOn!(props.visit.id, first.plus({ days: day }).toISODate()!)
    for (const { change, also } of offers.filter(differs))
      list.push({
        id: newId(),
        words: `${dayAndTime(change.windowFrom, props.region)}–${clockTime(change.windowTo, props.region)}`,
        visits: [change, ...also].map(plannedOf),
      })
  }
  found.value = list.slice(0, mostOffered)
  chosen.value = found.value.map(({ id }) => id)
}
const offers = computed(() => (found.value ?? []).filter(({ id }) => chosen.value.includes(id)).map(({ id, visits }) => ({ id, visits })))
</script>

<template>
  <section class="stack rule pt-3" aria-label="The customer">
    <h3 class="kicker">The customer</h3>
    <template v-if="contact">
      <p class="small">
        {{ contact.customer
        }}<template v-if="contact.phone"
          >, <a :href="`tel:${contact.phone.replace(/[^+\d]/g, '')}`">{{ contact.phone }}</a></template
        >
        · <a :href="contact.link" target="_blank" rel="noopener">their page</a>
      </p>
      <p class="small" :class="{ soft: !ready }">
        {{ ready ? `${ready} of ${contact.prepared.length} things are ready, they say.` : 'They have ticked nothing as ready yet.' }}
        <template v-if="ready && missing.length">Not yet: {{ missing.join('; ') }}.</template>
      </p>
      <p v-if="contact.chosenAt" class="small">They chose this time on their page, {{ dayAndTime(contact.chosenAt, region) }}.</p>
      <p v-else-if="contact.offered" class="small">{{ offeredWords(contact.offered) }}</p>
    </template>
    <template v-if="purposes.length">
      <p v-if="late && expectedAt" class="note amber">
        Expected about {{ clockTime(expectedAt, region) }}, promised until {{ clockTime(visit.windowTo, region) }}.
      </p>
      <div class="row wrap">
        <UButton icon="i-lucide-message-square" @click="((writing = !writing), (offering = false))">Write to them</UButton>
        <UButton v-if="timesOn && theyMayMove" icon="i-lucide-calendar-clock" @click="((writing = false), look())"
          >Offer other times</UButton
        >
      </div>
      <p v-if="timesOn && !theyMayMove" class="small soft">
        Too near for them to choose another time on their page: move it by telephone, under <i>Change time or crew</i>.
      </p>
      <LazyDayLetter
        v-if="writing"
        :visit-id="visit.id"
        :purposes="purposes"
        :region="region"
        :expected-at="expectedAt"
        :four-at="visit.setOffAt ? null : expected?.fourAt"
      />
      <template v-if="offering && theyMayMove">
        <p v-if="!found" class="soft">Looking for times …</p>
        <p v-else-if="!found.length" class="note">Nobody can come at another time on this day or the three after it.</p>
        <template v-else>
          <div class="grid gap-1">
            <UCheckbox
              v-for="one in found"
              :key="one.id"
              :model-value="chosen.includes(one.id)"
              :label="one.words"
              @update:model-value="chosen = toggled(chosen, one.id)"
            />
          </div>
          <p class="small soft">
            They choose on their page; the visit then moves by itself. A time that is taken meanwhile is not given twice.
          </p>
          <LazyDayLetter :visit-id="visit.id" :purposes="['windows']" :region="region" :offers="offers" @sent="offering = false" />
        </template>
      </template>
    </template>
  </section>
</template>
