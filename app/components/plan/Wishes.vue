<script setup lang="ts">
import { lightColours, lightColourWords, noWish, type LightColour, type Wish } from '../../../core/plan'

/** What the household wants of one point. */
const props = defineProps<{ pointId: string }>()
const { job, submitJob } = injectJobRecord()
const { refusal, inTurn } = useAction()
const wish = computed<Wish>(() => job.value?.wishes?.[props.pointId] ?? noWish)
// From what the record shows when its turn comes: a tap on a slow line writes over none before it.
const put = (change: (now: Wish) => Partial<Wish>) =>
  inTurn(() => submitJob({ type: 'wishPoint', pointId: props.pointId, wish: { ...wish.value, ...change(wish.value) } }))
const stays = [
  { value: 'dimmer' as const, label: 'stays a dimmer' },
  { value: 'old' as const, label: 'the old switch stays' },
]
const more = [
  { value: 'noLamps' as const, label: 'no smart lamps' },
  { value: 'cheapNow' as const, label: 'cheap for now' },
]
const colours = lightColours.map((value) => ({ value, label: lightColourWords[value] }))
const pressed = computed(() => more.flatMap(({ value }) => (wish.value[value] ? [value] : [])))
</script>

<template>
  <section class="stack" aria-label="Wishes">
    <h3 class="kicker">What is wanted here</h3>
    <CommonToggles
      spoken="What stays"
      :items="stays"
      :chosen="wish.stays ?? undefined"
      @choose="(value) => put((now) => ({ stays: now.stays === value ? null : value }))"
    />
    <CommonToggles spoken="More wishes" :items="more" :chosen="pressed" @choose="(value) => put((now) => ({ [value]: !now[value] }))" />
    <CommonToggles
      spoken="Colour of the light"
      :items="colours"
      :chosen="wish.colour ?? undefined"
      @choose="(value: LightColour) => put((now) => ({ colour: now.colour === value ? null : value }))"
    />
    <CommonRefusal :refusal="refusal" />
  </section>
</template>
