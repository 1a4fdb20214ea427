<script setup lang="ts">
import { dateIn } from '../../../core/units/region'
import { currentUnits } from '../../../core/job'

/** What is registered with its maker, maker by maker. */
const { job, region, submitJob } = injectJobRecord()
defineProps<{ mayChange: boolean }>()
const { busy, refusal, run } = useAction()
const makers = computed(() => {
  const units = currentUnits(job.value!)
  return [...new Set(units.map(({ model }) => model.maker))].map((maker) => {
    const own = units.filter(({ model }) => model.maker === maker)
    const open = own.filter(({ id }) => !job.value!.warranties?.[id])
    const stored = own.flatMap((unit) => {
      const warranty = job.value!.warranties?.[unit.id]
      return warranty ? [{ unit, warranty }] : []
    })
    return { maker, open, stored }
  })
})
const form = reactive<Record<string, { number: string; until: string }>>({})
const of = (maker: string) => (form[maker] ??= { number: '', until: '' })
async function store(maker: string, unitIds: string[]) {
  const { number, until } = of(maker)
  if (await run(() => submitJob({ type: 'registerWarranty', unitIds, number, until: until || null })))
    form[maker] = { number: '', until: '' }
}
</script>

<template>
  <section v-if="makers.length" class="stack" aria-label="Warranty">
    <h2 class="kicker">Warranty with the makers</h2>
    <div v-for="{ maker, open, stored } in makers" :key="maker" class="ruled stack">
      <p v-for="{ unit, warranty } in stored" :key="unit.id" class="small">
        <b>{{ unit.name || unit.serial }}</b> · {{ maker }}{{ warranty.number ? `, ${warranty.number}` : ''
        }}{{ warranty.until ? `, to ${dateIn(warranty.until, region.locale)}` : '' }}
        <span class="soft">{{ warranty.by }}</span>
      </p>
      <template v-if="open.length">
        <p class="small">
          <b>{{ maker }}</b>: {{ open.map(({ serial }) => serial).join(', ') }}
        </p>
        <form
          v-if="mayChange"
          class="row wrap items-end"
          @submit.prevent="
            store(
              maker,
              open.map(({ id }) => id),
            )
          "
        >
          <UFormField label="Number it gave back" class="number"
            ><UInput v-model="of(maker).number" maxlength="80" :aria-label="`Warranty number of ${maker}`"
          /></UFormField>
          <UFormField label="To"><UInput v-model="of(maker).until" type="date" :aria-label="`Warranty of ${maker} ends on`" /></UFormField>
          <UButton type="submit" :loading="busy">{{ open.length === 1 ? 'Registered' : `All ${open.length} registered` }}</UButton>
        </form>
      </template>
    </div>
    <CommonRefusal :refusal="refusal" />
  </section>
</template>

<style scoped>
/* On a phone it has a line of its own. */
.number {
  flex: 1 1 220px;
}
</style>
