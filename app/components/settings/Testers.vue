<script setup lang="ts">
import { dateIn } from '../../../core/units/region'
import type { BodyOf, Instrument } from '../../../core/protocol'
import { addInstrument, changeInstrument } from '../../../core/protocol/company'

const session = useSession()
const mayEdit = computed(() => session.hasRole('dispatcher', 'lead'))
const editing = ref<Instrument | 'new' | null>(null)
const blank = () => ({
  branchId: session.branch?.id ?? '',
  name: '',
  serial: '',
  kind: 'both' as Instrument['kind'],
  calibrationDue: '',
  lowestStepVolts: 12 as number | null,
  active: true,
})
const form = ref(blank())
const busy = ref(false)
const problem = ref<Problem | null>(null)
const kinds = [
  { label: 'low and high impedance', value: 'both' },
  { label: 'low impedance', value: 'low' },
  { label: 'high impedance', value: 'high' },
  { label: 'two-pole detector, steps', value: 'twoPole' },
  { label: 'non-contact, a screen only', value: 'nonContact' },
]
// Out of service and back: what was done, and good on two sources.
const failing = ref<string | null>(null)
const why = ref('')
const returning = ref<string | null>(null)
const service = reactive({ done: '', sourceOne: 'proving unit', voltsOne: '', sourceTwo: '', voltsTwo: '' })
const volts = typedNumber
async function change(id: string, body: object) {
  busy.value = true
  const answer = await api('PATCH /api/instruments/:id', { params: { id }, body })
  busy.value = false
  problem.value = answer.ok ? null : answer.problem
  if (!answer.ok) return
  failing.value = null
  returning.value = null
  why.value = ''
  await session.load('instruments')
}
const bringBack = (id: string) =>
  change(id, {
    backInService: {
      done: service.done,
      checks: [
        { source: service.sourceOne, volts: volts(service.voltsOne) },
        { source: service.sourceTwo, volts: volts(service.voltsTwo) },
      ],
    },
  })
const branches = computed(() => session.branches.map((branch) => ({ label: branch.name, value: branch.id })))
const today = todayIn(session.region)
function edit(instrument: Instrument | 'new') {
  editing.value = instrument
  form.value = instrument === 'new' ? blank() : { ...instrument }
}
const body = computed(() => {
  const { branchId, name, serial, kind, calibrationDue, active } = form.value
  const lowestStepVolts = kind === 'twoPole' ? Number(form.value.lowestStepVolts) : null
  return { branchId, name, serial, kind, calibrationDue, lowestStepVolts, ...(editing.value === 'new' ? {} : { active }) }
})
const add = (body: BodyOf<typeof addInstrument>) => api('POST /api/instruments', { body })
const store = (body: BodyOf<typeof changeInstrument>) =>
  api('PATCH /api/instruments/:id', { params: { id: (editing.value as Instrument).id }, body })
const sheet = computed(() =>
  editing.value === 'new' ? { schema: addInstrument.body, send: add } : { schema: changeInstrument.body, send: store },
)
async function saved() {
  editing.value = null
  await session.load('instruments')
}
</script>

<template>
  <div>
    <p class="soft mb-3">Only a tester from this register, with its calibration in date, can prove a box dead.</p>
    <table class="plain">
      <thead>
        <tr>
          <th>Tester</th>
          <th>Ranges</th>
          <th>Calibration until</th>
          <th>Branch</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="instrument in session.instruments" :key="instrument.id" :class="{ soft: !instrument.active }">
          <td>
            {{ instrument.name }} <span class="mono">{{ instrument.serial }}</span>{{ instrument.active ? '' : ' (out of use)' }}
            <p v-if="instrument.outOfService" class="bad small">Out of service: {{ instrument.failedWhy }}</p>
            <p v-else-if="instrument.serviceNote" class="soft small">Back in service: {{ instrument.serviceNote }}</p>
          </td>
          <td>
            {{ kinds.find((kind) => kind.value === instrument.kind)?.label
            }}{{ instrument.lowestStepVolts ? ` from ${instrument.lowestStepVolts} V` : '' }}
          </td>
          <td :class="{ bad: instrument.calibrationDue < today }">
            {{ dateIn(instrument.calibrationDue, session.region.locale) }}{{ instrument.calibrationDue < today ? ', expired' : '' }}
          </td>
          <td>{{ session.branchOf(instrument.branchId)?.name }}</td>
          <td>
            <UButton v-if="mayEdit" variant="link" class="p-0" :aria-label="`Change ${instrument.serial}`" @click="edit(instrument)"
              >change</UButton
            >
            <UButton
              v-if="mayEdit && !instrument.outOfService"
              variant="link"
              color="error"
              class="p-0 ml-3"
              :aria-label="`${instrument.serial} failed`"
              @click="failing = failing === instrument.id ? null : instrument.id"
              >failed</UButton
            >
            <UButton
              v-if="instrument.outOfService && session.hasRole('lead')"
              variant="link"
              class="p-0 ml-3"
              :aria-label="`${instrument.serial} back in service`"
              @click="returning = returning === instrument.id ? null : instrument.id"
              >back in service</UButton
            >
            <form v-if="failing === instrument.id" class="note stack" @submit.prevent="change(instrument.id, { failed: { why } })">
              <p>Nobody can prove anything with it, and every proof it made since it was last good ends, in every home.</p>
              <UFormField label="What is wrong with it"><UInput v-model="why" /></UFormField>
              <CommonProblem :problem="problem" />
              <UButton type="submit" color="error" :loading="busy" :disabled="why.trim().length < 3">Out of service</UButton>
            </form>
            <form v-if="returning === instrument.id" class="note stack" @submit.prevent="bringBack(instrument.id)">
              <UFormField label="What was done"><UInput v-model="service.done" placeholder="new battery" /></UFormField>
              <div class="row wrap">
                <UFormField label="Good on"><UInput v-model="service.sourceOne" /></UFormField>
                <UFormField label="Shows, V"><UInput v-model="service.voltsOne" inputmode="decimal" /></UFormField>
              </div>
              <div class="row wrap">
                <UFormField label="And on another source"
                  ><UInput v-model="service.sourceTwo" placeholder="socket in the office"
                /></UFormField>
                <UFormField label="Shows, V"><UInput v-model="service.voltsTwo" inputmode="decimal" /></UFormField>
              </div>
              <CommonProblem :problem="problem" />
              <UButton
                type="submit"
                :loading="busy"
                :disabled="
                  service.done.trim().length < 3 ||
                  !(volts(service.voltsOne) >= 50) ||
                  !(volts(service.voltsTwo) >= 50) ||
                  !service.sourceTwo.trim()
                "
                >Back in service</UButton
              >
            </form>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="!session.instruments.length" class="note amber mt-3">There is no tester yet. Without one nobody can prove a box dead.</p>
    <UButton v-if="mayEdit" icon="i-lucide-plus" class="mt-4" @click="edit('new')">Tester</UButton>
    <USlideover
      :open="editing !== null"
      :title="editing === 'new' ? 'A new tester' : `Change ${form.serial}`"
      description="The register of instruments"
      @update:open="editing = null"
    >
      <template #body>
        <CommonContractForm :schema="sheet.schema as never" :send="sheet.send as never" :body="body" @saved="saved">
          <UFormField label="Name" name="name"><UInput v-model="form.name" name="name" /></UFormField>
          <UFormField label="Serial" name="serial"><UInput v-model="form.serial" name="serial" /></UFormField>
          <UFormField label="Ranges" name="kind"><USelect v-model="form.kind" name="kind" :items="kinds" class="w-full" /></UFormField>
          <UFormField v-if="form.kind === 'twoPole'" label="Lowest step it shows" name="lowestStepVolts" hint="volts; 12 at most"
            ><UInput v-model="form.lowestStepVolts" name="lowestStepVolts" type="number"
          /></UFormField>
          <UFormField label="Calibration until" name="calibrationDue"
            ><CommonDay v-model="form.calibrationDue" label="Calibration until" :region="session.region" name="calibrationDue"
          /></UFormField>
          <UFormField label="Branch" name="branchId"
            ><USelect v-model="form.branchId" name="branchId" :items="branches" class="w-full"
          /></UFormField>
          <UCheckbox v-if="editing !== 'new'" v-model="form.active" label="In use" />
        </CommonContractForm>
      </template>
    </USlideover>
  </div>
</template>
