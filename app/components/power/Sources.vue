<script setup lang="ts">
import { looseSources, mainBreakers, sourceKinds } from '../../../core/site'

/** Where power comes from besides the service, and where each is switched off. */
const { site, asker, onCrew, offline, submitSite } = injectJobRecord()
const { t } = useTrade()
const { busy, refusal, run } = useAction()
const words: Record<string, string> = {
  service: 'service',
  generator: 'generator',
  battery: 'battery',
  solar: 'solar',
  secondSupply: 'second supply',
}
const kinds = sourceKinds.map((value) => ({ value, label: words[value]! }))
const startsItself = new Set(['battery', 'generator'])
const lines = computed(() =>
  Object.values(site.value!.sources).map((source) => ({
    ...source,
    mains: mainBreakers(site.value!).filter((main) => main.sourceId === source.id),
    loose: looseSources(site.value!).some((one) => one.id === source.id),
  })),
)
const panels = computed(() => Object.values(site.value!.panels).map((panel) => ({ label: panel.name, value: panel.id })))
const adding = ref(false)
const form = reactive({ kind: 'battery' as (typeof sourceKinds)[number], name: '' })
const pointFor = ref<string | null>(null)
const point = reactive({ number: '', panelId: '', basis: '' })
const ruleFor = ref<string | null>(null)
const why = ref('')
async function add() {
  if (await run(() => submitSite({ type: 'recordSource', sourceId: newId(), kind: form.kind, name: form.name.trim() }))) {
    adding.value = false
    form.name = ''
  }
}
async function place(sourceId: string) {
  const panelId = point.panelId || panels.value[0]?.value || ''
  const command = {
    type: 'recordSourcePoint' as const,
    sourceId,
    breakerId: newId(),
    number: point.number.trim(),
    panelId,
    basis: point.basis,
  }
  if (await run(() => submitSite(command))) {
    pointFor.value = null
    Object.assign(point, { number: '', basis: '' })
  }
}
async function ruleOut(sourceId: string) {
  if (await run(() => submitSite({ type: 'ruleOutSource', sourceId, reason: why.value }))) ruleFor.value = null
}
</script>

<template>
  <section aria-label="Sources" class="stack">
    <h2 class="kicker">Where power comes from</h2>
    <div v-for="line in lines" :key="line.id" class="line">
      <p>
        <b>{{ line.name }}</b>
        <span v-if="line.name !== (words[line.kind] ?? line.kind)" class="soft">{{ words[line.kind] ?? line.kind }}</span>
        <template v-if="line.mains.length"> · switched off at {{ line.mains.map((main) => main.number).join(', ') }}</template>
        <template v-else-if="line.ruledOut"> · reaches no box: {{ line.ruledOut }}</template>
      </p>
      <p v-if="line.loose" class="bad small">
        <b>No switching point on record.</b> {{ t('The {main} isolates nothing while this may feed in; only a box’s own {breaker} does.') }}
      </p>
      <p v-else-if="startsItself.has(line.kind) && line.mains.length" class="small warn">
        {{ t('Opening the {main} may start it: open and tag both.') }}
      </p>
      <div v-if="line.loose && onCrew && asker.licensed" class="row wrap">
        <UButton variant="link" :disabled="offline" @click="pointFor = pointFor === line.id ? null : line.id"
          >where it is switched off</UButton
        >
        <UButton variant="link" :disabled="offline" @click="ruleFor = ruleFor === line.id ? null : line.id">it reaches no box</UButton>
      </div>
      <form v-if="pointFor === line.id" class="note stack" @submit.prevent="place(line.id)">
        <UFormField :label="t('Its {breaker} or disconnect is called')"><UInput v-model="point.number" placeholder="battery" /></UFormField>
        <UFormField v-if="panels.length > 1" label="It feeds"
          ><USelect v-model="point.panelId" :items="panels" class="w-full" :placeholder="t('which {panel}')"
        /></UFormField>
        <UFormField label="How do you know"><UInput v-model="point.basis" placeholder="followed its cable" /></UFormField>
        <UButton type="submit" :loading="busy" :disabled="!point.number.trim() || point.basis.trim().length < 3">Record it</UButton>
      </form>
      <form v-if="ruleFor === line.id" class="note stack" @submit.prevent="ruleOut(line.id)">
        <UFormField label="Why it cannot reach any box here"><UTextarea v-model="why" :rows="2" /></UFormField>
        <UButton type="submit" color="error" :loading="busy" :disabled="why.trim().length < 10">Record that it reaches no box</UButton>
      </form>
    </div>
    <UButton v-if="onCrew" variant="link" class="self-start" @click="adding = !adding">There is another source</UButton>
    <form v-if="adding" class="note stack" @submit.prevent="add">
      <p>Every proof in this home ends, and whoever relies on one is told.</p>
      <UFormField label="What"><USelect v-model="form.kind" :items="kinds" class="w-full" /></UFormField>
      <UFormField label="Called"><UInput v-model="form.name" placeholder="battery in the boathouse" /></UFormField>
      <UButton type="submit" color="error" :loading="busy" :disabled="!form.name.trim()">Record it</UButton>
    </form>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
.line {
  display: grid;
  gap: 4px;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
</style>
