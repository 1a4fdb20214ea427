<script setup lang="ts">
import { outcomeWords, type NextTest, type WireReading, type WireTest } from '../../../core/wiring'

/** The test the bench wants next, and where its result is entered. */
const props = defineProps<{
  next: NextTest
  energised: boolean
  /** The simulated meter takes the readings by itself. */
  simulated: boolean
  /** Why it may not be made now; empty: it may. */
  no: string[]
  busy?: boolean
}>()
const emit = defineEmits<{ simulate: []; store: [readings: WireReading[]]; apart: [] }>()
const { t } = useTrade()
const kickers = { find: 'Next best test', confirm: 'Confirm', cover: 'Check the rest', repeat: 'Read again' }
const entries = ref<Record<string, string>>({})
const key = (test: WireTest) => `${test.a} ${test.b}`
watch(
  () =>
    props.next.tests
      .map((test) => `${key(test)} ${test.kind} ${test.closed.join()} ${test.far.join()} ${test.old?.join() ?? ''}`)
      .join(';'),
  () => (entries.value = {}),
)
const ohmsOf: Record<string, number> = { 1: 0.3, 8: 1.5, 2: 300, 4: 1e9 }
const choicesOf = (kind: WireTest['kind']) =>
  kind === 'continuity'
    ? ['1', '8', '2', '4'].map((bit) => ({
        value: String(ohmsOf[bit]),
        label: outcomeWords.continuity[Number(bit)]!.split(/[,:]/)[0]!,
      }))
    : kind === 'contactless'
      ? Object.entries(outcomeWords.contactless).map(([bit, label]) => ({ value: String(Number(bit) - 1), label }))
      : null
/** Typed without a field: it goes to the first row that is empty, and the last one stores them all. */
const typing = ref('')
const nextRow = computed(() => props.next.tests.find((test) => test.kind !== 'contactless' && !(entries.value[key(test)] ?? '').trim()))
const unit = computed(() => (nextRow.value?.kind === 'continuity' ? 'Ω' : 'V'))
useTypedReading(() => unit.value, {
  typed: (text) => (typing.value = text),
  reading: (value) => {
    const row = nextRow.value
    if (props.simulated || props.no.length || props.busy || !row) return
    entries.value[key(row)] = String(Math.min(value, ohmsOf[4]!))
    if (complete.value) store()
  },
})
const complete = computed(() => props.next.tests.every((test) => decimal(entries.value[key(test)] ?? '') !== null))
const store = () =>
  emit(
    'store',
    props.next.tests.map((test) => ({ ...test, value: decimal(entries.value[key(test)]!)! })),
  )
</script>

<template>
  <div class="stack" data-testid="next-test">
    <p class="kicker">
      {{ next.purpose === 'cover' && next.tests[0]!.old ? 'As it was, before anything is undone' : kickers[next.purpose] }}
    </p>
    <h2 class="next-title">{{ next.title }}</h2>
    <p>{{ t(next.how) }}</p>
    <p v-if="!no.length" class="soft small">
      {{ next.bits > 0.1 ? `Rules out about ${Math.round(100 * (1 - 2 ** -next.bits))} % of what is still possible · ` : ''
      }}{{ next.energised ? (energised ? 'power is on already' : 'needs the power on') : 'no power needed' }} · about
      {{ Math.max(1, Math.round(next.minutes)) }} min
    </p>
    <p v-for="reason in no" :key="reason" class="note amber">{{ t(reason) }}</p>
    <JobAct v-if="simulated" :disabled="no.length > 0" @click="emit('simulate')">{{
      next.tests.length > 1 ? `Take the ${next.tests.length} readings` : 'Put the probes there'
    }}</JobAct>
    <template v-else>
      <div v-for="test in next.tests" :key="key(test)" class="entry" :class="{ here: test === nextRow }">
        <b class="mono whitespace-nowrap">{{ test.a }}–{{ t(endWord(test.b)) }}</b
        ><span v-if="test === nextRow && typing" class="mono">{{ typing }}</span>
        <CommonToggles
          v-if="choicesOf(test.kind)"
          :spoken="`${test.a} to ${t(endWord(test.b))}`"
          :items="choicesOf(test.kind)!"
          :chosen="entries[key(test)]"
          @choose="entries[key(test)] = $event"
        />
        <span v-else class="row">
          <!-- Most read nothing; each is ticked for itself. -->
          <CommonToggles
            :spoken="`${test.a} to ${t(endWord(test.b))}`"
            :items="[{ value: '0', label: 'nothing' }]"
            :chosen="entries[key(test)]"
            @choose="entries[key(test)] = $event" />
          <UInput
            v-model="entries[key(test)]"
            inputmode="decimal"
            placeholder="volts"
            :aria-label="`${test.a} to ${t(endWord(test.b))}, volts`"
            class="w-28"
        /></span>
      </div>
      <CommonUnreadReading v-if="nextRow" :unit="unit" :label="`${nextRow.a}–${t(endWord(nextRow.b))}`" />
      <JobAct :loading="busy" :disabled="!complete || no.length > 0" @click="store"
        >Store {{ next.tests.length === 1 ? 'the reading' : `${next.tests.length} readings` }}</JobAct
      >
    </template>
    <UButton v-if="next.tests[0]!.old" variant="link" class="self-start" @click="emit('apart')"
      >The conductors are off the old switch already</UButton
    >
    <dl v-if="next.meanings.length" class="meanings small">
      <template v-for="meaning in next.meanings" :key="meaning.outcome"
        ><dt>{{ meaning.outcome }}</dt>
        <dd class="soft">{{ t(meaning.means) }}</dd></template
      >
    </dl>
  </div>
</template>

<style scoped>
.next-title {
  font-size: 20px;
  font-weight: 680;
  line-height: 1.2;
}
.entry {
  display: flex;
  gap: 6px;
  align-items: center;
  justify-content: space-between;
  border-bottom: 1px solid var(--line);
  padding: 4px 0;
}
.here {
  border-bottom-color: var(--copper);
}
.meanings {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 12px;
}
.meanings dt {
  font-weight: 640;
}
</style>
