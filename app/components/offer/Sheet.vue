<script setup lang="ts">
import { moneyIn } from '../../../core/money/money'
import { lightColourWords, offlineWords } from '../../../core/plan/words'
import { allTicked, optionAdds, priceOf, takenLines } from '../../../core/quote/price'
import type { Offer } from '../../../core/protocol'

/** An offer as its customer reads it: what each room gets, options to tick with the sum following, and where to sign. */
const props = defineProps<{ offer: Offer; token: string }>()
const emit = defineEmits<{ decided: [] }>()
const content = computed(() => props.offer.content)
const money = (cents: number) => moneyIn(cents, content.value.currency, props.offer.locale)
const adds = (cents: number) => (cents < 0 ? `− ${money(-cents)}` : `+ ${money(cents)}`)
const open = computed(() => props.offer.status === 'open' && !props.offer.expired)

const ticks = ref(props.offer.ticks ?? allTicked(content.value))
watch(
  () => props.offer.number,
  () => (ticks.value = props.offer.ticks ?? allTicked(content.value)),
)
const price = computed(() => priceOf(content.value, ticks.value))
const rooms = computed(() =>
  content.value.stages.map((stage) => ({
    ...stage,
    lines: takenLines(content.value, { ...ticks.value, stages: [stage.id] }),
    options: content.value.options.filter(({ lines }) => lines[0]!.stageId === stage.id),
  })),
)
const toggle = (key: 'stages' | 'options', id: string) => (ticks.value = { ...ticks.value, [key]: toggled(ticks.value[key], id) })
const hours = computed(() => Math.floor(price.value.minutes / 60))
const minutes = computed(() => Math.round(price.value.minutes % 60))

const takesAnything = computed(() => price.value.taken.some(({ kind }) => kind !== 'leave'))
const signer = ref(props.offer.customer)
const strokes = ref<[number, number][][]>([])
const { busy, problem, give } = useGiving()
async function order<T>(ask: () => Promise<Answer<T>>) {
  if (await give(ask)) emit('decided')
}
const accept = () =>
  order(() =>
    api('POST /api/offers/:token/accept', {
      params: { token: props.token },
      body: { ticks: ticks.value, totalCents: price.value.sum.totalCents, signer: signer.value, strokes: strokes.value },
    }),
  )
const declining = ref(false)
const reason = ref('')
const decline = () =>
  order(() => api('POST /api/offers/:token/decline', { params: { token: props.token }, body: { reason: reason.value } }))
</script>

<template>
  <div class="offer">
    <section v-for="room in rooms" :key="room.id" class="room" :class="{ off: !ticks.stages.includes(room.id) }" :aria-label="room.name">
      <div class="row wrap">
        <h2 class="next-title grow">{{ room.name }}</h2>
        <UCheckbox
          v-if="rooms.length > 1 || !ticks.stages.includes(room.id)"
          :model-value="ticks.stages.includes(room.id)"
          :disabled="!open"
          :label="ticks.stages.includes(room.id) ? 'do it now' : 'later'"
          :aria-label="`${room.name}: do it now`"
          @update:model-value="toggle('stages', room.id)"
        />
      </div>
      <div v-for="line in room.lines" :key="line.id" class="line">
        <PlanPicture :kind="line.kind" />
        <div class="grow">
          <b>{{ line.points.join(', ') }}</b>
          <p>{{ line.what }}</p>
          <p class="soft small">
            {{ [...line.because, ...line.leaves].join(' ') }}
            <template v-if="line.kind !== 'leave'">It {{ offlineWords[line.offline] }}.</template>
            <template v-if="line.colour"> Its light is {{ lightColourWords[line.colour] }}, fixed by the lamps.</template>
          </p>
          <p v-if="line.loses.length" class="small warn">Given up: {{ line.loses.join('; ') }}.</p>
        </div>
      </div>
      <template v-if="ticks.stages.includes(room.id)">
        <label v-for="option in room.options" :key="option.id" class="option">
          <UCheckbox
            :model-value="ticks.options.includes(option.id)"
            :disabled="!open"
            :aria-label="`${option.title}: ${option.lines.map(({ what }) => what).join(', ')}`"
            @update:model-value="toggle('options', option.id)"
          />
          <span class="grow"
            ><b>{{ option.title }}:</b> {{ option.lines.map(({ what }) => what).join(', ')
            }}<span v-if="option.lines.some(({ loses }) => loses.length)" class="small warn block"
              >Given up: {{ option.lines.flatMap(({ loses }) => loses).join('; ') }}.</span
            ></span
          >
          <span class="mono">{{ adds(optionAdds(content, ticks, option.id)) }}</span>
        </label>
      </template>
    </section>

    <section class="sums" aria-label="What it comes to">
      <dl>
        <template v-for="line in price.lines.filter(({ kind }) => kind !== 'parts')" :key="line.text">
          <dt>
            {{ line.text
            }}<span v-if="line.kind === 'labour'" class="soft"
              >, about {{ hours ? `${hours} h ` : '' }}{{ minutes ? `${minutes} min` : '' }}</span
            ><span v-if="line.kind === 'travel'" class="soft">, {{ counted(line.quantity, 'visit') }}</span>
          </dt>
          <dd class="mono">{{ money(line.cents) }}</dd>
        </template>
        <dt>Parts</dt>
        <dd class="mono">{{ money(price.lines.reduce((sum, line) => (line.kind === 'parts' ? sum + line.cents : sum), 0)) }}</dd>
        <template v-for="tax in price.sum.taxes" :key="tax.id">
          <dt>
            {{ tax.name }}<span class="soft">, {{ tax.basisPoints / 100 }} %</span>
          </dt>
          <dd class="mono">{{ money(tax.cents) }}</dd>
        </template>
        <template v-if="price.sum.roundingCents">
          <dt>Rounding</dt>
          <dd class="mono">{{ money(price.sum.roundingCents) }}</dd>
        </template>
        <dt class="total">Total</dt>
        <dd class="mono total" data-testid="offer-total" aria-live="polite">{{ money(price.sum.totalCents) }}</dd>
        <dt class="soft">Deposit with the order</dt>
        <dd class="mono soft">{{ money(price.depositCents) }}</dd>
      </dl>
      <p class="soft small">What is found behind a plate may change what can be done there: you are asked before anything costs more.</p>
    </section>

    <section v-if="open" class="stack sign" aria-label="Sign">
      <UFormField label="Name of the person signing" name="signer"><UInput v-model="signer" name="signer" maxlength="80" /></UFormField>
      <CommonSignature @change="strokes = $event" />
      <p v-if="!takesAnything" class="note amber">Nothing is left to do with these ticks: tick a room, or decline the offer.</p>
      <CommonProblem :problem="problem" />
      <div class="row wrap">
        <UButton
          variant="solid"
          size="xl"
          :loading="busy"
          :disabled="!strokes.length || signer.trim().length < 2 || !takesAnything"
          @click="accept"
          >Sign for {{ money(price.sum.totalCents) }}</UButton
        >
        <UButton variant="link" @click="declining = !declining">Not this offer</UButton>
      </div>
      <form v-if="declining" class="stack" @submit.prevent="decline">
        <UFormField label="Why not? It helps the next offer." name="reason"
          ><UTextarea v-model="reason" name="reason" maxlength="500" autoresize
        /></UFormField>
        <UButton type="submit" class="self-start" :loading="busy">Decline it</UButton>
      </form>
    </section>
  </div>
</template>

<style scoped>
.room {
  border-top: 1.5px solid var(--ink);
  padding: 12px 0 16px;
}
.room.off .line {
  opacity: 0.55;
}
.line {
  display: flex;
  gap: 14px;
  padding: 10px 0;
  border-top: 1px solid var(--line);
}
.option {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 48px;
  padding: 8px 10px;
  margin-top: 6px;
  border: 1.5px dashed var(--copper);
}
.sums {
  border-top: 2.5px solid var(--ink);
  padding: 14px 0;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px 20px;
  max-width: 520px;
}
dd {
  text-align: right;
}
.total {
  font-size: 22px;
  font-weight: 640;
}
.sign {
  max-width: 520px;
}
</style>
