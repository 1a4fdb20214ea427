<script setup lang="ts">
import type { Instrument } from '~/stores/session'

const session = useSession()
const mayEdit = computed(() => session.hasRole('dispatcher', 'lead'))
const editing = ref<Instrument | 'new' | null>(null)
const blank = () => ({
  branchId: session.branch?.id ?? '',
  name: '',
  serial: '',
  kind: 'both' as Instrument['kind'],
  calibrationDue: '',
  active: true,
})
const form = ref(blank())
const busy = ref(false)
const problem = ref<Problem | null>(null)
const kinds = [
  { label: 'low and high impedance', value: 'both' },
  { label: 'low impedance', value: 'low' },
  { label: 'high impedance', value: 'high' },
]
const branches = computed(() => session.branches.map((branch) => ({ label: branch.name, value: branch.id })))
const today = new Date().toISOString().slice(0, 10)
function edit(instrument: Instrument | 'new') {
  editing.value = instrument
  problem.value = null
  form.value = instrument === 'new' ? blank() : { ...instrument }
}
async function save() {
  busy.value = true
  const { branchId, name, serial, kind, calibrationDue, active } = form.value
  const body = { branchId, name, serial, kind, calibrationDue }
  const answer =
    editing.value === 'new'
      ? await api('/api/instruments', { body })
      : await api(`/api/instruments/${(editing.value as Instrument).id}`, { method: 'PATCH', body: { ...body, active } })
  busy.value = false
  problem.value = answer.ok ? null : answer.problem
  if (answer.ok) {
    editing.value = null
    await session.load('instruments')
  }
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
          </td>
          <td>{{ kinds.find((kind) => kind.value === instrument.kind)?.label }}</td>
          <td :class="{ bad: instrument.calibrationDue < today }">
            {{ instrument.calibrationDue }}{{ instrument.calibrationDue < today ? ', over' : '' }}
          </td>
          <td>{{ session.branchOf(instrument.branchId)?.name }}</td>
          <td>
            <UButton v-if="mayEdit" variant="link" class="p-0" :aria-label="`Change ${instrument.serial}`" @click="edit(instrument)"
              >change</UButton
            >
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="!session.instruments.length" class="note amber mt-3">There is no tester yet: nobody can prove a box dead.</p>
    <UButton v-if="mayEdit" icon="i-lucide-plus" class="mt-4" @click="edit('new')">Tester</UButton>
    <USlideover
      :open="editing !== null"
      :title="editing === 'new' ? 'A new tester' : `Change ${form.serial}`"
      description="The register of instruments"
      @update:open="editing = null"
    >
      <template #body>
        <form class="stack" @submit.prevent="save">
          <UFormField label="Name" name="name"><UInput v-model="form.name" name="name" /></UFormField
          ><UFormField label="Serial" name="serial"><UInput v-model="form.serial" name="serial" /></UFormField>
          <UFormField label="Ranges"><USelect v-model="form.kind" :items="kinds" class="w-full" /></UFormField
          ><UFormField label="Calibration until" name="due"><UInput v-model="form.calibrationDue" type="date" name="due" /></UFormField>
          <UFormField label="Branch"><USelect v-model="form.branchId" :items="branches" class="w-full" /></UFormField
          ><UCheckbox v-if="editing !== 'new'" v-model="form.active" label="In use" /> <CommonProblem :problem="problem" /><UButton
            type="submit"
            variant="solid"
            :loading="busy"
            >Save</UButton
          >
        </form>
      </template>
    </USlideover>
  </div>
</template>
