<script setup lang="ts">
import { terminalWords } from '../../../core/connect'
import { deviceKinds, loadTechnologies, terminalKeys } from '../../../core/fit'
import { schemeIds, supplySchemes } from '../../../core/units'
import type { BodyOf, CatalogueModel } from '../../../core/protocol'
import { addModel } from '../../../core/protocol/company'

const session = useSession()
const { t } = useTrade()
const mayEdit = computed(() => session.hasRole('dispatcher', 'lead'))
const editing = ref<CatalogueModel | 'new' | null>(null)
type Form = Omit<CatalogueModel, 'id' | 'pairingSteps'> & { pairingText: string }
const blank = (): Form => ({
  maker: '',
  name: '',
  kind: 'switch',
  schemes: ['na120'],
  terminals: ['ground', 'neutral', 'load', 'line'],
  gangsWide: 1,
  bodyIn3: 6,
  depthMm: 35,
  terminalAwg: 14,
  maxWatts: { led: 150, filament: 600, fan: 0, motor: 0, socket: 0 },
  minWatts: 0,
  multiWay: 'single',
  setupCode: 'openHome',
  firstIndicator: '',
  pairingText: '',
  pairingWindowMinutes: null,
  needsHub: false,
  leadsInterchangeable: false,
  metering: false,
  channelAmps: null,
  active: true,
})
/** A new model is a long form from a data sheet: it is kept until it is stored. */
const fresh = ref<Form>(blank())
const { foundAt, discard } = useDraft('model', fresh)
const changing = ref<Form>(blank())
const form = computed(() => (editing.value === 'new' ? fresh.value : changing.value))
const kindWords = {
  switch: 'switch',
  dimmer: 'dimmer',
  fanControl: 'fan control',
  companion: 'companion',
  relayModule: 'relay module',
  sender: 'sender behind a switch',
}
const wayWords = {
  single: 'one location',
  commonTravelers: t('multi-way: common and two {travelers}'),
  sensedTraveler: t('multi-way: one sensed {traveler}'),
  companion: 'multi-way: companion',
}
const codeWords = { openHome: 'open home standard, check digit', plain: 'other, typed twice', none: 'none' }
const items = <T extends string>(words: Record<T, string>) =>
  (Object.entries(words) as [T, string][]).map(([value, label]) => ({ value, label }))
function toggle<T>(list: T[], value: T): T[] {
  return list.includes(value) ? list.filter((other) => other !== value) : [...list, value]
}
function edit(model: CatalogueModel | 'new') {
  editing.value = model
  if (model !== 'new') changing.value = { ...structuredClone(toRaw(model)), pairingText: model.pairingSteps.join('\n') }
}
const body = computed(() => {
  const { pairingText, active: _, ...rest } = form.value
  const number = (value: unknown) => (value === '' ? undefined : typedNumber(String(value)))
  return {
    ...rest,
    gangsWide: number(rest.gangsWide),
    bodyIn3: number(rest.bodyIn3),
    depthMm: number(rest.depthMm),
    minWatts: number(rest.minWatts),
    channelAmps: rest.channelAmps ? number(rest.channelAmps) : null,
    pairingWindowMinutes: rest.pairingWindowMinutes ? number(rest.pairingWindowMinutes) : null,
    maxWatts: Object.fromEntries(Object.entries(rest.maxWatts).map(([key, value]) => [key, number(value)])),
    pairingSteps: pairingText
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean),
  }
})
const store = (model: BodyOf<typeof addModel>): Promise<Answer<{ id: string }>> =>
  editing.value === 'new'
    ? api('POST /api/catalogue', { body: model })
    : api('PATCH /api/catalogue/:id', { params: { id: (editing.value as CatalogueModel).id }, body: { active: form.value.active, model } })
async function saved() {
  if (editing.value === 'new') discard()
  editing.value = null
  await session.load('catalogue')
}
</script>

<template>
  <div>
    <p class="soft mb-3">Ratings come from the maker’s instructions, which always win. A change here never alters jobs already recorded.</p>
    <table class="plain">
      <thead>
        <tr>
          <th>Model</th>
          <th>Kind</th>
          <th>Supply</th>
          <th>Terminals</th>
          <th>LED / filament / motor</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="model in session.catalogue" :key="model.id" :class="{ soft: !model.active }">
          <td>
            <b>{{ model.name }}</b><br /><span class="soft small">{{ model.maker }}{{ model.active ? '' : ', out of use' }}</span>
          </td>
          <td>
            {{ kindWords[model.kind] }}<br /><span class="soft small">{{ wayWords[model.multiWay] }}</span>
          </td>
          <td>{{ model.schemes.map((scheme) => supplySchemes[scheme].nominalVolts).join(', ') }} V</td>
          <td class="small">{{ model.terminals.map((terminal) => t(terminalWords[terminal])).join(', ') }}</td>
          <td class="mono">{{ model.maxWatts.led }} / {{ model.maxWatts.filament }} / {{ model.maxWatts.motor }} W</td>
          <td>
            <UButton v-if="mayEdit" variant="link" class="p-0" :aria-label="`Change ${model.name}`" @click="edit(model)">change</UButton>
          </td>
        </tr>
      </tbody>
    </table>
    <UButton v-if="mayEdit" icon="i-lucide-plus" class="mt-4" @click="edit('new')">Model</UButton>
    <USlideover
      :open="editing !== null"
      :title="editing === 'new' ? 'A new model' : `Change ${form.name}`"
      description="From the maker’s data sheet"
      @update:open="editing = null"
    >
      <template #body>
        <CommonContractForm :schema="addModel.body" :body="body" :send="store" @saved="saved">
          <CommonDraft v-if="editing === 'new'" :at="foundAt" @discard="discard" />
          <UFormField label="Maker" name="maker"><UInput v-model="form.maker" name="maker" /></UFormField
          ><UFormField label="Model" name="name"><UInput v-model="form.name" name="name" /></UFormField>
          <UFormField label="Kind"
            ><USelect v-model="form.kind" :items="items(kindWords).filter((item) => deviceKinds.includes(item.value))" class="w-full"
          /></UFormField>
          <UFormField label="Locations"><USelect v-model="form.multiWay" :items="items(wayWords)" class="w-full" /></UFormField>
          <fieldset>
            <legend class="font-semibold">Supply</legend>
            <div class="row wrap">
              <UCheckbox
                v-for="scheme in schemeIds"
                :key="scheme"
                :model-value="form.schemes.includes(scheme)"
                :label="supplySchemes[scheme].name"
                @update:model-value="form.schemes = toggle(form.schemes, scheme)"
              />
            </div>
          </fieldset>
          <fieldset>
            <legend class="font-semibold">Terminals</legend>
            <div class="row wrap">
              <UCheckbox
                v-for="terminal in terminalKeys"
                :key="terminal"
                :model-value="form.terminals.includes(terminal)"
                :label="t(terminalWords[terminal])"
                @update:model-value="form.terminals = toggle(form.terminals, terminal)"
              />
            </div>
          </fieldset>
          <div class="grid grid-cols-3 gap-2">
            <UFormField label="Gangs (0: module)" name="gangsWide"
              ><UInput v-model="form.gangsWide" name="gangsWide" type="number" min="0" max="3" /></UFormField
            ><UFormField label="Body, in³" name="bodyIn3"><UInput v-model="form.bodyIn3" name="bodyIn3" inputmode="decimal" /></UFormField
            ><UFormField label="Depth, mm" name="depthMm"
              ><UInput v-model="form.depthMm" name="depthMm" type="number" min="0"
            /></UFormField>
          </div>
          <div class="grid grid-cols-3 gap-2">
            <UFormField v-for="load in loadTechnologies" :key="load" :label="`${load}, W`" :name="`maxWatts.${load}`"
              ><UInput v-model="form.maxWatts[load]" :name="`maxWatts.${load}`" type="number" min="0" /></UFormField
            ><UFormField label="least, W" name="minWatts"
              ><UInput v-model="form.minWatts" name="minWatts" type="number" min="0"
            /></UFormField>
          </div>
          <UFormField label="Setup code"><USelect v-model="form.setupCode" :items="items(codeWords)" class="w-full" /></UFormField>
          <UFormField label="First indicator at power-on" name="firstIndicator"
            ><UInput v-model="form.firstIndicator" name="firstIndicator"
          /></UFormField>
          <UFormField label="How it pairs, one step a line" name="pairingSteps"
            ><UTextarea v-model="form.pairingText" name="pairingSteps" :rows="4"
          /></UFormField>
          <UFormField label="Pairing window, minutes" name="pairingWindowMinutes"
            ><UInput v-model="form.pairingWindowMinutes" name="pairingWindowMinutes" type="number" min="1"
          /></UFormField>
          <UFormField label="Most per channel, A" name="channelAmps"
            ><UInput v-model="form.channelAmps" name="channelAmps" inputmode="decimal"
          /></UFormField>
          <UCheckbox v-model="form.metering" label="Measures what its loads take" />
          <UCheckbox v-model="form.leadsInterchangeable" label="Line and load may be exchanged" />
          <UCheckbox v-model="form.needsHub" label="Needs a hub" /><UCheckbox
            v-if="editing !== 'new'"
            v-model="form.active"
            label="In use"
          />
        </CommonContractForm>
      </template>
    </USlideover>
  </div>
</template>
