<script setup lang="ts">
import { connectorKinds, connectorWords, plateKinds, plateWords } from '../../../core/site'
import { supplySchemes } from '../../../core/units'
import { partKinds, type NewPart } from '../../../core/fit/part-schema'
import type { ListedPart, PartKind } from '../../../core/fit'
import { addPart } from '../../../core/protocol/company'

/** Boxes, plates, connectors and lamps: what the survey offers, and what the van carries. */
const session = useSession()
const { number } = useTrade()
const mayEdit = computed(() => session.hasRole('dispatcher', 'lead'))
const kind = ref<PartKind>('box')
const kindWords: Record<PartKind, string> = { box: 'Boxes', plate: 'Plates', connector: 'Connectors', lamp: 'Lamps' }
const oneWords: Record<PartKind, string> = { box: 'Box', plate: 'Plate', connector: 'Connector', lamp: 'Lamp' }
const kinds = partKinds.map((value) => ({ value, label: kindWords[value] }))
const shown = computed(() => session.parts.filter((part) => part.kind === kind.value))
const editing = ref<ListedPart | 'new' | null>(null)
/** Every field of every kind: the kind says which of them count. */
const blank = () => ({
  maker: '',
  name: '',
  schemes: [session.branch?.schemeId ?? 'na120'] as NewPart['schemes'],
  gangs: '1',
  volumeIn3: '',
  depthMm: '',
  material: 'plastic' as 'plastic' | 'metal',
  internalClamps: '0',
  plate: 'standard' as (typeof plateKinds)[number],
  finish: '',
  connector: 'lever' as (typeof connectorKinds)[number],
  most: '3',
  bodyIn3: '',
  stranded: true,
  technology: 'led' as 'led' | 'filament',
  watts: '',
  dimmable: true,
  powerFactor: '',
  active: true,
})
const form = ref(blank())
function edit(part: ListedPart | 'new') {
  editing.value = part
  form.value = blank()
  if (part === 'new') return
  const typed = Object.entries(part).map(([key, value]) => [key, typeof value === 'number' ? String(value) : (value ?? '')])
  form.value = { ...blank(), ...Object.fromEntries(typed) }
}
const figure = (text: string) => (text.trim() === '' ? null : typedNumber(text))
const body = computed(() => {
  const { maker, name, schemes, ...facts } = form.value
  const of = { kind: kind.value, maker, name, schemes }
  switch (kind.value) {
    case 'box':
      return {
        ...of,
        gangs: figure(facts.gangs),
        volumeIn3: figure(facts.volumeIn3),
        depthMm: figure(facts.depthMm),
        material: facts.material,
        internalClamps: figure(facts.internalClamps),
      }
    case 'plate':
      return { ...of, gangs: figure(facts.gangs), plate: facts.plate, finish: facts.finish }
    case 'connector':
      return { ...of, connector: facts.connector, most: figure(facts.most), bodyIn3: figure(facts.bodyIn3), stranded: facts.stranded }
    default:
      return {
        ...of,
        technology: facts.technology,
        watts: figure(facts.watts),
        dimmable: facts.dimmable,
        powerFactor: figure(facts.powerFactor),
      }
  }
})
const store = (part: NewPart): Promise<Answer<{ id: string }>> =>
  editing.value === 'new'
    ? api('POST /api/parts', { body: part })
    : api('PATCH /api/parts/:id', { params: { id: (editing.value as ListedPart).id }, body: { active: form.value.active, part } })
async function saved() {
  editing.value = null
  await session.load('parts')
}
const said = (part: ListedPart): string => {
  if (part.kind === 'box')
    return [
      counted(part.gangs, 'gang'),
      part.volumeIn3 ? `${number(part.volumeIn3)} in³` : '',
      part.depthMm ? `${number(part.depthMm)} mm` : '',
      part.material,
      part.internalClamps ? counted(part.internalClamps, 'clamp') : '',
    ]
      .filter(Boolean)
      .join(', ')
  if (part.kind === 'plate') return [counted(part.gangs, 'gang'), plateWords[part.plate], part.finish].filter(Boolean).join(', ')
  if (part.kind === 'connector')
    return `${connectorWords[part.connector]}, joins ${part.most}, ${number(part.bodyIn3)} in³${part.stranded ? '' : ', solid only'}`
  return `${part.technology === 'led' ? 'LED' : 'filament'}, ${number(part.watts)} W${part.dimmable ? ', dimmable' : ''}${part.powerFactor ? `, power factor ${number(part.powerFactor)}` : ''}`
}
</script>

<template>
  <section class="stack mt-8" aria-labelledby="parts-title">
    <h2 id="parts-title" class="next-title">Boxes, plates, connectors, lamps</h2>
    <p class="soft">The survey offers the sizes and watts of this list, and says where it holds no plate for a row.</p>
    <CommonToggles spoken="Kind of part" :items="kinds" :chosen="kind" @choose="kind = $event" />
    <table class="plain">
      <thead>
        <tr>
          <th>{{ kindWords[kind] }}</th>
          <th>Supply</th>
          <th>What it is</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="part in shown" :key="part.id" :class="{ soft: !part.active }">
          <td>
            <b>{{ part.name }}</b><br /><span class="soft small">{{ part.maker }}{{ part.active ? '' : ', out of use' }}</span>
          </td>
          <td>{{ part.schemes.map((scheme) => supplySchemes[scheme].nominalVolts).join(', ') }} V</td>
          <td>{{ said(part) }}</td>
          <td>
            <UButton v-if="mayEdit" variant="link" class="p-0" :aria-label="`Change ${part.name}`" @click="edit(part)">change</UButton>
          </td>
        </tr>
      </tbody>
    </table>
    <UButton v-if="mayEdit" icon="i-lucide-plus" class="self-start" @click="edit('new')">{{ oneWords[kind] }}</UButton>
    <USlideover
      :open="editing !== null"
      :title="editing === 'new' ? 'A new part' : `Change ${form.name}`"
      description="From the maker’s data sheet"
      @update:open="editing = null"
    >
      <template #body>
        <CommonContractForm :schema="addPart.body" :body="body" :send="store" @saved="saved">
          <UFormField label="Maker" name="maker"><UInput v-model="form.maker" name="maker" /></UFormField>
          <UFormField label="Name" name="name"><UInput v-model="form.name" name="name" /></UFormField>
          <SettingsSupplies v-model="form.schemes" />
          <template v-if="kind === 'box'">
            <UFormField label="Gangs" name="gangs"><UInput v-model="form.gangs" name="gangs" inputmode="numeric" /></UFormField>
            <UFormField label="Volume as marked, in³" name="volumeIn3"
              ><UInput v-model="form.volumeIn3" name="volumeIn3" inputmode="decimal"
            /></UFormField>
            <UFormField label="Depth, mm" name="depthMm"><UInput v-model="form.depthMm" name="depthMm" inputmode="decimal" /></UFormField>
            <UFormField label="Clamps inside" name="internalClamps"
              ><UInput v-model="form.internalClamps" name="internalClamps" inputmode="numeric"
            /></UFormField>
            <UFormField label="Material"><USelect v-model="form.material" :items="['plastic', 'metal']" class="w-full" /></UFormField>
          </template>
          <template v-else-if="kind === 'plate'">
            <UFormField label="Gangs" name="gangs"><UInput v-model="form.gangs" name="gangs" inputmode="numeric" /></UFormField>
            <UFormField label="Size"
              ><USelect v-model="form.plate" :items="plateKinds.map((value) => ({ value, label: plateWords[value] }))" class="w-full"
            /></UFormField>
            <UFormField label="Finish" name="finish"><UInput v-model="form.finish" name="finish" maxlength="40" /></UFormField>
          </template>
          <template v-else-if="kind === 'connector'">
            <UFormField label="How it joins"
              ><USelect
                v-model="form.connector"
                :items="connectorKinds.map((value) => ({ value, label: connectorWords[value] }))"
                class="w-full"
            /></UFormField>
            <UFormField label="Conductors at most" name="most"><UInput v-model="form.most" name="most" inputmode="numeric" /></UFormField>
            <UFormField label="Its body, in³" name="bodyIn3"
              ><UInput v-model="form.bodyIn3" name="bodyIn3" inputmode="decimal"
            /></UFormField>
            <UCheckbox v-model="form.stranded" label="Takes stranded conductors" />
          </template>
          <template v-else>
            <UFormField label="Technology"
              ><USelect
                v-model="form.technology"
                :items="[
                  { value: 'led', label: 'LED' },
                  { value: 'filament', label: 'filament' },
                ]"
                class="w-full"
            /></UFormField>
            <UFormField label="Watts" name="watts"><UInput v-model="form.watts" name="watts" inputmode="decimal" /></UFormField>
            <UFormField label="Power factor, as its maker says" name="powerFactor"
              ><UInput v-model="form.powerFactor" name="powerFactor" inputmode="decimal"
            /></UFormField>
            <UCheckbox v-model="form.dimmable" label="Marked dimmable" />
          </template>
          <UCheckbox v-if="editing !== 'new'" v-model="form.active" label="In use" />
        </CommonContractForm>
      </template>
    </USlideover>
  </section>
</template>
