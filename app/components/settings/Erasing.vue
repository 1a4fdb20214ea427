<script setup lang="ts">
import type { Erasable } from '../../../core/protocol'

/** Customers and pictures that are erased for good: by wish, or because they were kept for as long as the company keeps them. */
const session = useSession()
const { answer, problem, load } = useList('GET /api/erasures', () => ({}), ['jobs', 'erased'])
const { busy, problem: refused, give } = useGiving()

const search = ref('')
const found = ref<Erasable[] | null>(null)
async function find() {
  found.value = (await give(() => api('GET /api/erasures/customers', { query: { search: search.value.trim() } })))?.customers ?? null
}

const chosen = ref<string[]>([])
const listed = computed(() => {
  const all = [...(found.value ?? []), ...(answer.value?.due.customers ?? [])]
  return all.filter((one, index) => all.findIndex(({ customerId }) => customerId === one.customerId) === index)
})
const picked = computed(() => listed.value.filter(({ customerId }) => chosen.value.includes(customerId)))
const open = ref(false)
const invoicesOut = ref(false)
const said = ref('')
const left = ref<{ name: string; inTheWay: string[] }[]>([])
watch(open, () => (invoicesOut.value = false))
async function erase() {
  const customerIds = picked.value.slice(0, 50).map(({ customerId }) => customerId)
  const done = await give(() => api('POST /api/erasures/customers', { body: { customerIds } }))
  if (!done) return
  open.value = false
  left.value = done.left
  said.value = done.erased.length ? `${counted(done.erased.length, 'customer is', 'customers are')} erased.` : ''
  chosen.value = []
  found.value = found.value?.filter(({ customerId }) => !done.erased.includes(customerId)) ?? null
  await load()
}

const keptYears = [
  { value: 0, label: 'for good' },
  ...[1, 2, 3, 5, 7, 10, 15, 30].map((years) => ({ value: years, label: counted(years, 'year', 'years') })),
]
const optionsWith = (now: number | null | undefined) =>
  now && !keptYears.some(({ value }) => value === now)
    ? [...keptYears, { value: now, label: counted(now, 'year', 'years') }].sort((a, b) => a.value - b.value)
    : keptYears
async function keep(what: 'customersYears' | 'picturesYears', years: number) {
  if (!answer.value) return
  await give(() => api('PATCH /api/erasures', { body: { ...answer.value!.keep, [what]: years || null } }))
  await load()
}
const sureOfPictures = ref(false)
async function erasePictures() {
  const done = await give(() => api('POST /api/erasures/pictures'))
  if (!done) return
  sureOfPictures.value = false
  said.value = `${counted(done.erased, 'picture is', 'pictures are')} erased${done.left ? `; ${done.left} are left, once more` : ''}.`
  await load()
}
const whatGoes = ({ jobs, pictures, messages, offers }: Erasable) =>
  [
    counted(jobs, 'job', 'jobs'),
    ...(pictures ? [counted(pictures, 'picture', 'pictures')] : []),
    ...(messages ? [counted(messages, 'message', 'messages')] : []),
    ...(offers ? [counted(offers, 'offer', 'offers')] : []),
  ].join(', ')
</script>

<template>
  <div class="erasing">
    <div>
      <section aria-label="Erase a customer">
        <h2 class="kicker">Erase a customer</h2>
        <form class="row wrap mb-2" @submit.prevent="find">
          <UFormField label="Name, telephone, mail or address" name="search" class="grow"
            ><UInput v-model="search" name="search" type="search" maxlength="120" class="w-full"
          /></UFormField>
          <UButton type="submit" class="self-end" :loading="busy" :disabled="search.trim().length < 2">Find</UButton>
        </form>
        <p v-if="found && !found.length" class="soft" role="status">Nobody is found by that.</p>
        <SettingsErasable v-for="one in found ?? []" :key="one.customerId" v-model="chosen" :customer="one" :what="whatGoes(one)" />
      </section>

      <section v-if="answer" class="mt-6" aria-label="What is due">
        <h2 class="kicker">What is due</h2>
        <div class="row wrap mb-2">
          <UFormField label="Customers are kept" name="customersYears" help="after the last that was done for them"
            ><USelect
              :model-value="answer.keep.customersYears ?? 0"
              :items="optionsWith(answer.keep.customersYears)"
              class="w-40"
              @update:model-value="keep('customersYears', Number($event))"
          /></UFormField>
          <UFormField label="Pictures are kept" name="picturesYears" help="after they were taken"
            ><USelect
              :model-value="answer.keep.picturesYears ?? 0"
              :items="optionsWith(answer.keep.picturesYears)"
              class="w-40"
              @update:model-value="keep('picturesYears', Number($event))"
          /></UFormField>
        </div>
        <p class="soft small mb-2">
          Nothing is erased by itself: a clock that is wrong would empty the record. What is due waits here for you. How long records must
          or may be kept is the law’s where you work; ask whoever advises you.
        </p>
        <p v-if="!answer.due.customers.length && !answer.due.pictures" class="soft">Nothing is due.</p>
        <SettingsErasable
          v-for="one in answer.due.customers"
          :key="one.customerId"
          v-model="chosen"
          :customer="one"
          :what="whatGoes(one)"
        />
        <p v-if="answer.due.moreCustomers" class="soft">More are due; they come when these are done.</p>
        <div v-if="answer.due.pictures" class="row wrap mt-2">
          <span class="grow">{{ counted(answer.due.pictures, 'picture is', 'pictures are') }} older than that.</span>
          <UButton v-if="!sureOfPictures" @click="sureOfPictures = true">Erase them</UButton>
          <template v-else
            ><span>They go for good.</span><UButton :loading="busy" @click="erasePictures">Erase {{ answer.due.pictures }}</UButton
            ><UButton variant="link" @click="sureOfPictures = false">Keep them</UButton></template
          >
        </div>
      </section>

      <p v-if="said" class="good mt-4" role="status">{{ said }}</p>
      <div v-for="one in left" :key="one.name" class="note amber mt-2">
        <b>{{ one.name }} is not erased.</b>
        <span v-for="reason in one.inTheWay" :key="reason" class="block">{{ reason }}</span>
      </div>
      <CommonProblem :problem="refused ?? problem" />
      <div v-if="picked.length" class="chosen row wrap">
        <span class="grow">{{
          picked.map(({ name, homes }) => [name, homes[0]?.split(',')[0]].filter(Boolean).join(', ')).join(' · ')
        }}</span>
        <UButton variant="solid" @click="open = true">Erase {{ counted(picked.length, 'customer', 'customers') }} …</UButton>
        <UButton variant="link" @click="chosen = []">None of them</UButton>
      </div>
    </div>

    <aside>
      <h2 class="kicker">What goes</h2>
      <p>
        Name, telephone, mail, address and door code; every note, caption and message of their jobs; signatures; people of the household;
        names of networks and accounts; setup codes; all pictures; the pages and links they have.
      </p>
      <h2 class="kicker mt-4">What stays</h2>
      <p>
        What was wired, tagged, measured and proved, when and by whom, with the reasons and reports of danger as they were written; names of
        rooms, boxes, circuits, lights and devices; models and serials; what was sold at what price. Those who worked there answer for it.
        Where names, numbers or addresses of theirs stand in any of it, those go.
      </p>
      <h2 class="kicker mt-4">Backups</h2>
      <p>
        Backups of before, and the changes kept with them, still hold it until they are removed themselves. Where one is put back, it is
        erased again before anybody logs in.
      </p>
      <p v-if="answer && !answer.listKept" class="note amber mt-2" role="alert">
        <b>The list of what was erased is kept in the database alone.</b> A backup of before would bring people back. Tell whoever keeps the
        server: the guide to operations says how.
      </p>
      <h2 class="kicker mt-4">Erased</h2>
      <p v-if="answer && !answer.erased.length" class="soft">Nothing so far.</p>
      <div v-for="one in answer?.erased ?? []" :key="one.id" class="list-row dated">
        <span class="soft small">{{ dayAndTime(one.at, session.region) }}</span>
        <span
          ><b>{{ one.who || 'somebody who is gone' }}</b>
          {{ one.kind === 'customer' ? 'the customer of' : `${counted(one.count, 'picture', 'pictures')} of` }}
          <template v-for="(job, index) in one.jobs" :key="job.id"
            >{{ index ? ', ' : '' }}<NuxtLink class="underline" :to="`/jobs/${job.id}`">job {{ job.number }}</NuxtLink></template
          ><template v-if="!one.jobs.length">a job that is gone</template></span
        >
      </div>
    </aside>

    <UModal v-model:open="open" title="Erase for good" description="Nobody can bring it back, we neither.">
      <template #body>
        <ul class="stack">
          <li v-for="one in picked" :key="one.customerId">
            <b>{{ one.name }}</b> {{ one.homes.join(' · ') }}<span class="small soft block">{{ whatGoes(one) }}</span>
          </li>
        </ul>
        <label class="row mt-4"
          ><input v-model="invoicesOut" type="checkbox" class="tick" /><span
            >What bookkeeping, warranty or the law needs was taken out: afterwards no offer and no invoice here bears their name.</span
          ></label
        >
        <CommonProblem :problem="refused" />
        <div class="row wrap mt-4">
          <UButton variant="solid" :loading="busy" :disabled="!invoicesOut" @click="erase">Erase for good</UButton>
          <UButton variant="link" @click="open = false">Keep them</UButton>
        </div>
      </template>
    </UModal>
  </div>
</template>

<style scoped>
.erasing {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 8px 48px;
}
/* In reach however long the list is. */
.chosen {
  position: sticky;
  bottom: 0;
  z-index: 5;
  margin-top: 12px;
  padding: 10px 0;
  background: var(--paper);
  border-top: 1.5px solid var(--ink);
}
.tick {
  width: 20px;
  height: 20px;
  flex: none;
  accent-color: var(--ink);
}
@media (max-width: 900px) {
  .erasing {
    grid-template-columns: minmax(0, 1fr);
  }
  .chosen {
    bottom: 60px;
  }
}
</style>
