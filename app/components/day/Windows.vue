<script setup lang="ts">
import type { OfferedWindow } from '~/workers/day'
import type { Region } from '~/utils/time'

/** While the telephone rings: the windows that cost the day least, to be offered and booked. */
const props = defineProps<{ id: string; ask: (id: string) => Promise<OfferedWindow[] | string>; region: Region; busy: boolean }>()
const emit = defineEmits<{ book: [offer: OfferedWindow] }>()
const session = useSession()
const offers = shallowRef<OfferedWindow[] | string | null>(null)
watch(
  () => props.id,
  async (id) => {
    offers.value = null
    const answer = await props.ask(id)
    if (id === props.id) offers.value = answer
  },
  { immediate: true },
)
const spanWords = ({ change: { windowFrom, windowTo } }: OfferedWindow) =>
  `${clockTime(windowFrom, props.region)}–${clockTime(windowTo, props.region)}`
</script>

<template>
  <div class="stack">
    <p v-if="!offers" class="soft">Looking for windows …</p>
    <p v-else-if="typeof offers === 'string'" class="note amber">{{ offers }}</p>
    <p v-else-if="!offers.length" class="note">Nobody can come on this day. Look at another one, or schedule it by hand.</p>
    <template v-else>
      <p class="soft small">These cost the day least. A cost of 20 is as bad as twenty minutes on the road.</p>
      <div v-for="offer in offers" :key="offer.change.windowFrom" class="row">
        <span class="grow"
          ><b>{{ spanWords(offer) }}</b
          ><br /><span class="soft small"
            >{{ session.initials(offer.change.personIds) }}, about {{ clockTime(offer.change.startAt, region) }} · costs
            {{ Math.round(offer.cost) }}</span
          ></span
        >
        <UButton :loading="busy" :aria-label="`Book ${spanWords(offer)}`" @click="emit('book', offer)">Book</UButton>
      </div>
    </template>
  </div>
</template>
