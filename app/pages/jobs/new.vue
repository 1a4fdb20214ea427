<script setup lang="ts">
import type { JobHead } from '~/components/home/HeadFields.vue'
import type { jobs, KnownHome, SiteLine, Submission } from '../../../core/protocol'

const session = useSession()
const way = ref<'file' | 'hand' | 'survey'>('file')
const branchId = ref(session.branch?.id ?? '')
const siteId = ref('new')
const sites = ref<SiteLine[]>([])
const fileName = ref('')
const text = ref('')
const isCsv = ref(false)
/** Tables of a survey, where these were chosen. */
const tables = ref<{ name: string; text: string }[]>([])
const found = ref<{ title: string; rooms: number; boxes: number; points: number; breakers: number } | null>(null)
const problem = ref<Problem | null>(null)
const busy = ref(false)
/** Homes on record that may be this one: asked before a second record of one home is begun. */
const alike = ref<KnownHome[]>([])
const newHome = ref(false)
const head = ref<JobHead>({
  title: '',
  note: '',
  customer: { name: '', phone: '', email: '' },
  site: { name: '', address: '', yearBuilt: '', doorCode: '' },
})
const hand = useTemplateRef<{ parts: () => object; forget: () => void }>('hand')
// The door code is not left lying on a device.
const headDraft = computed({
  get: () => ({ ...head.value, site: { ...head.value.site, doorCode: '' } }),
  set: (value) => (head.value = value),
})
const { forget: forgetHead } = useDraft('job head', headDraft)

onMounted(async () => {
  const answer = await api('GET /api/sites')
  if (answer.ok) sites.value = answer.value.sites
})
const branch = computed(() => session.branchOf(branchId.value))
const schemeId = computed(() => branch.value?.schemeId ?? 'na120')
const { t } = providePlace(() => ({ schemeId: schemeId.value, region: session.regionAt(branchId.value) }))
const branchItems = computed(() => session.branches.map((entry) => ({ label: entry.name, value: entry.id })))
const siteItems = computed(() => [
  { label: 'a home we do not know yet', value: 'new' },
  ...sites.value
    .filter((site) => site.branchId === branchId.value)
    .map((site) => ({ label: `${site.name}, ${site.address}`, value: site.id })),
])
const knownSite = computed(() => sites.value.find((site) => site.id === siteId.value) ?? null)

function headParts() {
  const { title, note, customer, site } = head.value
  const home = knownSite.value
    ? { name: knownSite.value.name, address: knownSite.value.address }
    : { name: site.name, address: site.address }
  return {
    job: { title, note },
    customer: knownSite.value ? { name: 'known', phone: '', email: '' } : customer,
    site: {
      ...home,
      scheme: branch.value?.schemeId ?? 'na120',
      yearBuilt: site.yearBuilt.trim() ? typedNumber(site.yearBuilt) : null,
      doorCode: site.doorCode,
      sources: [{ key: 'service', kind: 'service' as const, name: 'service' }],
    },
  }
}
/** Nothing but where it is: the crew records the rest on the spot. A home that is known has its panel. */
function toSurvey() {
  const main = { number: 'main', amps: null, source: 'service' }
  const panel = { key: 'panel', name: t('{panel}'), place: '', main, fedFrom: null, breakers: [] }
  return { panels: knownSite.value ? [] : [panel], rooms: [], boxes: [], points: [] }
}
function source(): Submission<typeof jobs.importJob>['body']['source'] {
  if (way.value !== 'file')
    return {
      kind: 'json',
      text: JSON.stringify({
        format: 'circuitry.job',
        version: 2,
        ...headParts(),
        ...(way.value === 'hand' ? hand.value!.parts() : toSurvey()),
      }),
    }
  if (tables.value.length) return { kind: 'tables', tables: tables.value, head: headParts() }
  return isCsv.value ? { kind: 'csv', text: text.value, head: headParts() } : { kind: 'json', text: text.value }
}
const request = (checkOnly: boolean) =>
  api('POST /api/jobs/import', {
    body: {
      branchId: branchId.value,
      siteId: siteId.value === 'new' ? null : siteId.value,
      newHome: newHome.value,
      checkOnly,
      source: source(),
    },
  })

async function choose(event: Event) {
  const files = [...((event.target as HTMLInputElement).files ?? [])]
  if (!files.length) return
  problem.value = null
  found.value = null
  try {
    const read = await readIntakeFiles(files)
    fileName.value = files.map(({ name }) => name).join(', ')
    tables.value = read.tables
    text.value = read.text
    isCsv.value = read.tables.length > 0 || read.isCsv
    if (!isCsv.value) await look()
  } catch {
    text.value = ''
    tables.value = []
    problem.value = {
      status: 422,
      code: 'fileBroken',
      message: 'This archive could not be opened. Choose the tables themselves.',
      details: null,
    }
  }
}
async function look() {
  const answer = await request(true)
  found.value = answer.ok && 'knownHomes' in answer.value ? answer.value : null
  problem.value = answer.ok ? null : answer.problem
}
async function open() {
  busy.value = true
  const answer = await request(false)
  busy.value = false
  if (answer.ok && 'jobId' in answer.value) {
    forgetHead()
    hand.value?.forget()
    return void (await navigateTo(`/jobs/${answer.value.jobId}`))
  }
  if (answer.ok) return
  alike.value = answer.problem.code === 'knownHome' ? (answer.problem.details as { homes: KnownHome[] }).homes : []
  problem.value = alike.value.length ? null : answer.problem
}
async function itIs(home: KnownHome | null) {
  if (home) siteId.value = home.id
  else newHome.value = true
  alike.value = []
  await open()
}
watch([siteId, text, tables], () => {
  alike.value = []
  newHome.value = false
})
/** By hand nothing is a file: what is wrong is said at its place. */
const told = computed(() => {
  const count = faultsOf(problem.value).length
  if (way.value === 'file' || !problem.value || !count) return problem.value
  return {
    ...problem.value,
    message: `${count === 1 ? 'One thing is' : `${count} things are`} missing or wrong, said at its place. Nothing was stored.`,
  }
})
const ready = computed(() =>
  way.value !== 'file'
    ? head.value.title.trim() !== ''
    : (text.value !== '' || tables.value.length > 0) && (!isCsv.value || head.value.title.trim() !== ''),
)
</script>

<template>
  <div class="page">
    <h1 class="sentence mb-4">
      {{ { file: 'Import a job.', hand: 'Write a job down by hand.', survey: 'Send a crew to survey the home.' }[way] }}
    </h1>
    <div class="row wrap mb-5" role="group" aria-label="How">
      <UButton :variant="way === 'file' ? 'solid' : 'outline'" :aria-pressed="way === 'file'" @click="way = 'file'">From a file</UButton>
      <UButton :variant="way === 'hand' ? 'solid' : 'outline'" :aria-pressed="way === 'hand'" @click="way = 'hand'">By hand</UButton>
      <UButton :variant="way === 'survey' ? 'solid' : 'outline'" :aria-pressed="way === 'survey'" @click="way = 'survey'"
        >Survey on site</UButton
      >
    </div>
    <div class="grid sm:grid-cols-2 gap-3 mb-4">
      <UFormField label="Branch" name="branch"><USelect v-model="branchId" :items="branchItems" class="w-full" /></UFormField>
      <UFormField label="Home" name="home" :help="t('At a known home the {panel} directory and the boxes are used again.')"
        ><USelect v-model="siteId" :items="siteItems" class="w-full"
      /></UFormField>
    </div>

    <div v-if="way === 'file'" class="stack">
      <UFormField label="Job file (.json), list of points (.csv), or the tables of a survey (.csv, .zip)" name="file"
        ><input
          type="file"
          aria-label="Job file"
          multiple
          accept=".json,.csv,.zip,application/json,text/csv,application/zip"
          class="file"
          data-testid="job-file"
          @change="choose"
      /></UFormField>
      <template v-if="isCsv"
        ><p class="soft">
          {{ fileName }} {{ tables.length ? `: ${counted(tables.length, 'table')}.` : 'lists points.' }} The rest comes from you:
        </p>
        <HomeHeadFields v-model="head" :known="knownSite !== null" /><UButton class="self-start" :disabled="!ready" @click="look"
          >Check the file</UButton
        ></template
      >
      <p v-if="found" class="note petrol" data-testid="file-found">
        <b>{{ found.title }}</b>: {{ counted(found.points, 'point') }}, {{ counted(found.boxes, 'box', 'boxes') }} in
        {{ counted(found.rooms, 'room') }}, {{ t(counted(found.breakers, '{breaker}', '{breakers}')) }}. Nothing is wrong with this file.
      </p>
      <p class="soft small">
        The formats are written down in docs/formats.md; <a class="underline" href="/api/formats/job">the JSON Schema</a> is served here.
      </p>
    </div>
    <div v-else class="stack">
      <HomeHeadFields v-model="head" :known="knownSite !== null" :problem="problem" />
      <p v-if="way === 'survey'" class="soft">
        Rooms, boxes, points and {{ t('{breakers}') }} are recorded there, on the phone, with or without a network.
      </p>
      <HomeHandEntry v-else ref="hand" :scheme-id="branch?.schemeId ?? 'na120'" :problem="problem" />
    </div>

    <div v-if="alike.length" class="note amber stack mt-4" data-testid="known-home">
      <p><b>Is it this home?</b> Two records of one home would be two records of its power.</p>
      <div v-for="home in alike" :key="home.id" class="row wrap">
        <span class="grow"
          ><b>{{ home.name }}</b
          >, {{ home.address }}, {{ home.customer }} <span class="soft">({{ home.why.join(', ') }})</span></span
        >
        <UButton variant="solid" :loading="busy" @click="itIs(home)">It is this home</UButton>
      </div>
      <UButton variant="link" class="self-start" :loading="busy" @click="itIs(null)">None of these: another home</UButton>
    </div>
    <CommonProblem
      :problem="told"
      :placed="way !== 'file' ? ['job', 'customer', 'site', 'panels[0].breakers', 'rooms', 'boxes', 'points'] : []"
      class="mt-4"
    />
    <UButton
      class="mt-5"
      variant="solid"
      size="xl"
      :loading="busy"
      :disabled="!ready || (way === 'file' && problem !== null && !isCsv)"
      @click="open"
      >Open the job</UButton
    >
  </div>
</template>

<style scoped>
.file {
  width: 100%;
  padding: 12px;
  border: 1.5px dashed var(--soft);
  border-radius: 4px;
  background: var(--sheet);
}
</style>
