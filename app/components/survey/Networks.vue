<script setup lang="ts">
import { networkBands, networkKinds, networkKindWords, type HomeNetwork, type NetworkBand } from '../../../core/site'

/** Every name a device might join, where each comes from, and how many more it takes. */
const { site, submitSite } = injectJobRecord()
const rooms = computed(() => site.value!.roomOrder.map((id) => ({ value: id, label: site.value!.rooms[id]!.name })))
const { refusal, busy, run } = useAction()
const all = computed(() => Object.values(site.value!.networks))
const blank = (): HomeNetwork => ({
  networkId: newId(),
  kind: 'router',
  name: '',
  bands: ['2.4', '5'],
  channel: null,
  ownName: false,
  isolated: false,
  holds: null,
  holdsMost: null,
  note: '',
  bound: [],
  roomId: null,
})
const form = ref<HomeNetwork | null>(null)
const kinds = networkKinds.map((value) => ({ value, label: networkKindWords[value] }))
const bands = networkBands.map((value) => ({ value, label: `${value} GHz` }))
const text = reactive({ channel: '', holds: '', most: '', bound: '' })
const whole = (said: string) => (said.trim() === '' ? null : Math.round(typedNumber(said)))
function edit(one: HomeNetwork | null) {
  form.value = one ? { ...one, bands: [...one.bands] } : blank()
  Object.assign(text, { channel: one?.channel ?? '', holds: one?.holds ?? '', most: one?.holdsMost ?? '' })
  for (const key of ['channel', 'holds', 'most'] as const) text[key] = String(text[key])
  text.bound = one?.bound.join('\n') ?? ''
}
const toggleBand = (band: NetworkBand) => {
  const { bands: on } = form.value!
  form.value!.bands = on.includes(band) ? on.filter((one) => one !== band) : networkBands.filter((one) => one === band || on.includes(one))
}
async function store() {
  const { channel, holds, most } = text
  const network = {
    ...form.value!,
    bound: linesOf(text.bound),
    name: form.value!.name.trim(),
    channel: whole(channel),
    holds: whole(holds),
    holdsMost: whole(most),
  }
  if (await run(() => submitSite({ type: 'recordNetwork', ...network }))) form.value = null
}
const say = (one: HomeNetwork) =>
  [
    networkKindWords[one.kind],
    one.bands.length ? `${one.bands.join(' and ')} GHz` : '',
    one.channel ? `channel ${one.channel}` : '',
    one.ownName ? 'own name' : '',
    one.isolated ? 'isolated' : '',
    one.holdsMost ? `${one.holds ?? '?'} of ${one.holdsMost} devices` : one.holds ? `${one.holds} devices` : '',
    one.bound.length ? `still bound to a previous owner: ${one.bound.join(', ')}` : '',
    one.note,
  ]
    .filter(Boolean)
    .join(' · ')
</script>

<template>
  <section class="stack" aria-label="Networks">
    <p v-for="one in all" :key="one.networkId" class="row">
      <span class="grow"
        ><b>{{ one.name }}</b> <span class="soft">{{ say(one) }}</span></span
      >
      <UButton variant="link" @click="edit(one)">Change</UButton>
      <UButton
        icon="i-lucide-x"
        variant="ghost"
        square
        :aria-label="`Take ${one.name} off`"
        @click="run(() => submitSite({ type: 'retireNetwork', networkId: one.networkId }))"
      />
    </p>
    <form v-if="form" class="note stack" @submit.prevent="store">
      <CommonToggles spoken="What it is" :items="kinds" :chosen="form.kind" @choose="form.kind = $event" />
      <UFormField :label="form.kind === 'hub' ? 'Called' : 'Its name (SSID), as written'"
        ><UInput v-model="form.name" maxlength="80" autocapitalize="off"
      /></UFormField>
      <template v-if="form.kind !== 'hub'">
        <CommonToggles spoken="Bands" :items="bands" :chosen="form.bands" @choose="toggleBand" />
        <div class="row wrap">
          <UCheckbox v-if="form.kind === 'extender'" v-model="form.ownName" label="has a name of its own" />
          <UCheckbox v-model="form.isolated" label="isolated from the rest" />
        </div>
        <UFormField label="Its 2.4 GHz channel"><UInput v-model="text.channel" inputmode="numeric" class="w-28" /></UFormField>
      </template>
      <div class="row wrap">
        <UFormField label="Devices on it now"><UInput v-model="text.holds" inputmode="numeric" class="w-28" /></UFormField>
        <UFormField label="At most"><UInput v-model="text.most" inputmode="numeric" class="w-28" /></UFormField>
      </div>
      <UFormField label="The room it stands in"
        ><USelect
          :model-value="form.roomId ?? undefined"
          :items="rooms"
          class="w-full"
          placeholder="not said"
          @update:model-value="form!.roomId = $event"
      /></UFormField>
      <UFormField label="Devices still bound to a previous owner, one a line" help="Each is reset before it joins anything."
        ><UTextarea v-model="text.bound" :rows="2" placeholder="plug in the hall"
      /></UFormField>
      <UFormField label="Where in it"><UInput v-model="form.note" placeholder="cupboard, behind the set" maxlength="200" /></UFormField>
      <div class="row">
        <UButton type="submit" variant="solid" :loading="busy" :disabled="!form.name.trim()">Record it</UButton>
        <UButton variant="ghost" @click="form = null">Cancel</UButton>
      </div>
    </form>
    <UButton v-else class="self-start" icon="i-lucide-plus" @click="edit(null)">Router, extender or hub</UButton>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>
