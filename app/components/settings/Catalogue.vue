<script setup lang="ts">
import { signMeaningWords, type SignMeaning } from '../../../core/commission/pairing/words'
import { terminalWords } from '../../../core/connect'
import {
  deviceKinds,
  gestureEffectWords,
  gestureWords,
  loadTechnologies,
  plainModel,
  radioWords,
  restartWayWords,
  terminalKeys,
  terminationWords,
  type Termination,
} from '../../../core/fit'
import { supplySchemes } from '../../../core/units'
import type { BodyOf, CatalogueModel } from '../../../core/protocol'
import type { NewPart } from '../../../core/fit/part-schema'
import { modelsCsv, partsCsv, readModelsCsv, readPartsCsv } from '../../../core/format/catalogue-csv'
import { addModel } from '../../../core/protocol/company'

const session = useSession()
const { t } = useTrade()
const mayEdit = computed(() => session.hasRole('dispatcher', 'lead'))
const editing = ref<CatalogueModel | 'new' | null>(null)
type Form = Omit<CatalogueModel, 'id' | 'pairingSteps'> & { pairingText: string }
const { pairingSteps: _, ...withoutSteps } = plainModel
const blank = (): Form => ({
  maker: '',
  name: '',
  kind: 'switch',
  schemes: ['na120'],
  terminals: ['ground', 'neutral', 'load', 'line'],
  gangsWide: 1,
  bodyIn3: 6,
  depthMm: 35,
  maxWatts: { led: 150, filament: 600, fan: 0, motor: 0, socket: 0 },
  setupCode: 'openHome',
  pairingText: '',
  ...withoutSteps,
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
const items = <T extends string>(words: Record<T, string>) =>
  (Object.entries(words) as [T, string][]).map(([value, label]) => ({ value, label }))
const fastenings = [{ value: 'unknown', label: 'not on record' }, ...items(terminationWords)]
const blankTermination: Termination = {
  kind: 'clamp',
  thinnestAwg: 16,
  thickestAwg: 12,
  thinnestMm2: 0.75,
  thickestMm2: 2.5,
  stranded: false,
  holds: 1,
  stripMm: null,
  torqueNm: null,
}
const fastening = computed({
  get: () => form.value.termination?.kind ?? 'unknown',
  set: (kind) =>
    (form.value.termination =
      kind === 'unknown' ? null : { ...(form.value.termination ?? blankTermination), kind: kind as Termination['kind'] }),
})
const restartItems = items(restartWayWords).map(({ value, label }) => ({ value, label: t(label) }))
const mostSigns = 10
const meaningItems = items(signMeaningWords)
const mostGestures = 8
const gestureItems = items(gestureWords)
const effectItems = items(gestureEffectWords)
const addSign = () => form.value.signs.push({ sign: '', means: 'waiting' as SignMeaning })
const codeWords = { openHome: 'open home standard, check digit', plain: 'other, typed twice', none: 'none' }
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
    batteryYears: rest.batteryYears ? number(rest.batteryYears) : null,
    besideOne: number(rest.besideOne),
    betweenTwo: number(rest.betweenTwo),
    termination: rest.termination && {
      ...rest.termination,
      holds: number(rest.termination.holds),
      ...Object.fromEntries(
        (['thinnestAwg', 'thickestAwg', 'thinnestMm2', 'thickestMm2', 'stripMm', 'torqueNm'] as const).map((key) => [
          key,
          rest.termination![key] ? number(rest.termination![key]) : null,
        ]),
      ),
    },
    pairingWindowMinutes: rest.pairingWindowMinutes ? number(rest.pairingWindowMinutes) : null,
    maxWatts: Object.fromEntries(Object.entries(rest.maxWatts).map(([key, value]) => [key, number(value)])),
    pairingSteps: linesOf(pairingText),
    signs: rest.signs.filter(({ sign }) => sign.trim()),
  }
})
/** Both lists as a file or as tables, and one taken in: what is known by maker and name is changed, the rest is added. */
const plainModels = () => session.catalogue.map(({ id: _, active: __, ...model }) => model)
const plainParts = () => session.parts.map(({ id: _, active: __, ...part }) => part as NewPart)
function exportList() {
  const lists = { format: 'circuitry.catalogue', version: 1, models: plainModels(), parts: plainParts() }
  saveText('catalogue.json', 'application/json', JSON.stringify(lists, null, 2))
}
function exportTables() {
  // A byte order mark, so that spreadsheets read the accents.
  saveText('models.csv', 'text/csv', `\ufeff${modelsCsv(plainModels())}`)
  saveText('parts.csv', 'text/csv', `\ufeff${partsCsv(plainParts())}`)
}
const importing = ref(false)
const imported = ref<{ count: number; problems: string[] } | null>(null)
/** One line of a file: where it stands, and what it says. */
interface Line<T> {
  where: string
  value: T
}
async function readFile(file: File): Promise<{ models: Line<BodyOf<typeof addModel>>[]; parts: Line<NewPart>[]; problems: string[] }> {
  const content = await file.text()
  if (/\.csv$/i.test(file.name)) {
    const isParts = /^.*part[^/]*$/i.test(file.name)
    const read = isParts ? readPartsCsv(content) : readModelsCsv(content)
    const lines = read.rows.map(({ line, value }) => ({ where: `${file.name}, line ${line}`, value }))
    const problems = read.problems.map(({ where, problem }) => `${where}: ${problem}`)
    return isParts ? { models: [], parts: lines as Line<NewPart>[], problems } : { models: lines as never, parts: [], problems }
  }
  const read = JSON.parse(content) as { format?: string; version?: number; models?: unknown; parts?: unknown }
  if (read.format !== 'circuitry.catalogue' || read.version !== 1 || !Array.isArray(read.models))
    throw new Error('This is no catalogue file (format “circuitry.catalogue”, version 1).')
  const numbered = <T extends { name?: string }>(what: string, list: T[]) =>
    list.map((value, index) => ({ where: `${what} ${index + 1}${value?.name ? ` (${value.name})` : ''}`, value }))
  return {
    models: numbered('Model', read.models as BodyOf<typeof addModel>[]),
    parts: numbered('Part', (Array.isArray(read.parts) ? read.parts : []) as NewPart[]),
    problems: [],
  }
}
/** Stores line by line: one that is refused holds up no other. */
async function takeIn<T>(lines: Line<T>[], send: (value: T) => Promise<Answer<{ id: string }>>) {
  for (const { where, value } of lines) {
    const answer = await send(value)
    if (answer.ok) imported.value!.count++
    else {
      const faults = faultsOf(answer.problem).map((one) => `${one.where}: ${one.problem}`)
      imported.value!.problems.push(`${where}: ${[answer.problem.message, ...faults].join(' ')}`)
    }
  }
}
async function importList(event: Event) {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  importing.value = true
  imported.value = { count: 0, problems: [] }
  try {
    for (const file of files) {
      const { models, parts, problems } = await readFile(file)
      imported.value.problems.push(...problems)
      await takeIn(models, (model) => {
        const known = session.catalogue.find((one) => one.maker === model?.maker && one.name === model?.name)
        return known
          ? api('PATCH /api/catalogue/:id', { params: { id: known.id }, body: { active: known.active, model } })
          : api('POST /api/catalogue', { body: model })
      })
      await takeIn(parts, (part) => {
        const known = session.parts.find((one) => one.kind === part?.kind && one.maker === part.maker && one.name === part.name)
        return known
          ? api('PATCH /api/parts/:id', { params: { id: known.id }, body: { active: known.active, part } })
          : api('POST /api/parts', { body: part })
      })
    }
    await Promise.all([session.load('catalogue'), session.load('parts')])
  } catch (error) {
    imported.value.problems.push(error instanceof SyntaxError ? `This is not JSON: ${error.message}` : (error as Error).message)
  } finally {
    importing.value = false
    input.value = ''
  }
}
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
    <div class="row wrap mt-4">
      <UButton v-if="mayEdit" icon="i-lucide-plus" @click="edit('new')">Model</UButton>
      <UButton variant="link" @click="exportList">Save as a file (JSON)</UButton>
      <UButton variant="link" @click="exportTables">Save as tables (CSV)</UButton>
      <label v-if="mayEdit" class="take-in"
        >Import a file<input
          type="file"
          multiple
          accept="application/json,.json,text/csv,.csv"
          aria-label="Catalogue file"
          :disabled="importing"
          @change="importList"
      /></label>
    </div>
    <div v-if="imported" class="note mt-2" :class="{ amber: imported.problems.length }" role="status" data-testid="catalogue-imported">
      <p>
        {{ counted(imported.count, 'entry', 'entries') }} stored{{
          imported.problems.length ? `, ${counted(imported.problems.length, 'problem')}:` : '.'
        }}
      </p>
      <p v-for="one in imported.problems.slice(0, 20)" :key="one" class="small">{{ one }}</p>
    </div>
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
          <SettingsSupplies v-model="form.schemes" />
          <fieldset>
            <legend class="font-semibold">Terminals</legend>
            <div class="row wrap">
              <UCheckbox
                v-for="terminal in terminalKeys"
                :key="terminal"
                :model-value="form.terminals.includes(terminal)"
                :label="t(terminalWords[terminal])"
                @update:model-value="form.terminals = toggled(form.terminals, terminal)"
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
          <UFormField label="Conductors are held by"><USelect v-model="fastening" :items="fastenings" class="w-full" /></UFormField>
          <template v-if="form.termination">
            <div class="grid grid-cols-3 gap-2">
              <UFormField label="from AWG" name="termination.thinnestAwg"
                ><UInput v-model="form.termination.thinnestAwg" name="termination.thinnestAwg" inputmode="numeric" /></UFormField
              ><UFormField label="to AWG" name="termination.thickestAwg"
                ><UInput v-model="form.termination.thickestAwg" name="termination.thickestAwg" inputmode="numeric" /></UFormField
              ><UFormField label="on one" name="termination.holds"
                ><UInput v-model="form.termination.holds" name="termination.holds" type="number" min="1" max="4"
              /></UFormField>
              <UFormField label="from mm²" name="termination.thinnestMm2"
                ><UInput v-model="form.termination.thinnestMm2" name="termination.thinnestMm2" inputmode="decimal" /></UFormField
              ><UFormField label="to mm²" name="termination.thickestMm2"
                ><UInput v-model="form.termination.thickestMm2" name="termination.thickestMm2" inputmode="decimal" /></UFormField
              ><UFormField label="strip, mm" name="termination.stripMm"
                ><UInput v-model="form.termination.stripMm" name="termination.stripMm" inputmode="decimal"
              /></UFormField>
              <UFormField label="torque, N·m" name="termination.torqueNm"
                ><UInput v-model="form.termination.torqueNm" name="termination.torqueNm" inputmode="decimal"
              /></UFormField>
            </div>
            <UCheckbox v-model="form.termination.stranded" label="Takes stranded conductors" />
          </template>
          <div class="grid grid-cols-2 gap-2">
            <UFormField label="Beside one device, share of its watts" name="besideOne"
              ><UInput v-model="form.besideOne" name="besideOne" inputmode="decimal" /></UFormField
            ><UFormField label="Between two, share" name="betweenTwo"
              ><UInput v-model="form.betweenTwo" name="betweenTwo" inputmode="decimal"
            /></UFormField>
          </div>
          <UFormField label="Family" name="family" help="Companions and what they belong to bear the same word."
            ><UInput v-model="form.family" name="family" maxlength="40"
          /></UFormField>
          <UFormField label="Radio"><USelect v-model="form.radio" :items="items(radioWords)" class="w-full" /></UFormField>
          <UCheckbox v-model="form.ownPlate" label="Has a plate of its own" />
          <UCheckbox v-model="form.oneGangOnly" label="For a box of one gang only" />
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
          <UFormField label="How it is started anew" name="restart"
            ><UInput v-model="form.restart" name="restart" maxlength="160"
          /></UFormField>
          <UFormField label="Its pairing window opens again"
            ><USelect v-model="form.restartsBy" :items="restartItems" class="w-full"
          /></UFormField>
          <UFormField label="By a network of its own" name="ownNetwork"
            ><UInput v-model="form.ownNetwork" name="ownNetwork" maxlength="200"
          /></UFormField>
          <fieldset>
            <legend class="font-semibold">What it shows while it is paired</legend>
            <div v-for="(sign, index) in form.signs" :key="index" class="row mt-1">
              <UInput v-model="sign.sign" class="grow" maxlength="60" placeholder="blue, slow" :aria-label="`Sign ${index + 1}`" /><USelect
                v-model="sign.means"
                :items="meaningItems"
                :aria-label="`What sign ${index + 1} means`"
                class="w-48"
              /><UButton variant="link" icon="i-lucide-x" :aria-label="`Take sign ${index + 1} off`" @click="form.signs.splice(index, 1)" />
            </div>
            <UButton v-if="form.signs.length < mostSigns" variant="link" class="p-0" icon="i-lucide-plus" @click="addSign">Sign</UButton>
          </fieldset>
          <fieldset>
            <legend class="font-semibold">What hands do at it</legend>
            <p class="small soft">As its maker says. The guest card and the teaching at the handover are made of it.</p>
            <div v-for="(one, index) in form.gestures" :key="index" class="row mt-1">
              <USelect v-model="one.gesture" :items="gestureItems" :aria-label="`Gesture ${index + 1}`" class="grow" /><USelect
                v-model="one.does"
                :items="effectItems"
                :aria-label="`What gesture ${index + 1} does`"
                class="w-48"
              /><UButton
                variant="link"
                icon="i-lucide-x"
                :aria-label="`Take gesture ${index + 1} off`"
                @click="form.gestures.splice(index, 1)"
              />
            </div>
            <UButton
              v-if="form.gestures.length < mostGestures"
              variant="link"
              class="p-0"
              icon="i-lucide-plus"
              @click="form.gestures.push({ gesture: 'press', does: 'onOff' })"
              >Gesture</UButton
            >
          </fieldset>
          <UFormField label="Battery it runs on; empty: none" name="battery"
            ><UInput v-model="form.battery" name="battery" maxlength="60" placeholder="one CR2450"
          /></UFormField>
          <UFormField label="Years a battery lasts in it" name="batteryYears"
            ><UInput v-model="form.batteryYears" name="batteryYears" inputmode="decimal"
          /></UFormField>
          <UFormField label="How everything it learnt is taken from it" name="reset"
            ><UInput v-model="form.reset" name="reset" maxlength="160"
          /></UFormField>
          <UFormField label="Most per channel, A" name="channelAmps"
            ><UInput v-model="form.channelAmps" name="channelAmps" inputmode="decimal"
          /></UFormField>
          <UCheckbox v-model="form.metering" label="Measures what its loads take" />
          <UCheckbox v-model="form.leadsInterchangeable" label="Line and load may be exchanged" />
          <UCheckbox v-model="form.bothPoles" label="Breaks both conductors" />
          <UCheckbox v-model="form.needsHub" label="Needs a hub" /><UCheckbox
            v-if="editing !== 'new'"
            v-model="form.active"
            label="In use"
          />
        </CommonContractForm>
      </template>
    </USlideover>
    <SettingsParts />
  </div>
</template>

<style scoped>
.take-in {
  position: relative;
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  padding: 0 6px;
  font-weight: 600;
  cursor: pointer;
}
.take-in input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
.take-in:focus-within {
  outline: 2.5px solid var(--copper);
}
</style>
