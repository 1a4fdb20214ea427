<script setup lang="ts">
import 'leaflet/dist/leaflet.css'
import {
  circleMarker,
  divIcon,
  geoJSON,
  latLngBounds,
  map as mapOf,
  marker,
  polyline,
  type LayerGroup,
  layerGroup,
  type Map,
} from 'leaflet'
import type { Position, RoadMap } from '../../../core/dispatch'
import type { Route } from '~/workers/day'

/** Roads, homes and the ways of the crews. A home is shown to be elsewhere by choosing it and then a spot. */
const props = defineProps<{
  roads: RoadMap
  homes: { siteId: string; name: string; position: Position | null; shown: boolean }[]
  store: Position | null
  routes: Route[]
  /** Who is at a home now or was last. */
  there: { siteId: string; people: string }[]
  crewName: (id: string) => string
}>()
const emit = defineEmits<{ place: [siteId: string, position: Position | null] }>()
const element = useTemplateRef<HTMLElement>('element')
let map: Map | null = null
let drawn: LayerGroup | null = null
const chosenId = ref('')
const chosen = computed(() => props.homes.find(({ siteId }) => siteId === chosenId.value) ?? null)
const moving = ref(false)
const crew = ref('')
watch(chosenId, () => (moving.value = false))

const toLatLng = ([longitude, latitude]: Position): [number, number] => [latitude, longitude]
const weights = { street: 1.5, road: 3, bridge: 4, ferry: 2 }
onMounted(() => {
  map = mapOf(element.value!, { attributionControl: false, zoomSnap: 0.25, keyboard: true })
  geoJSON(props.roads as never, {
    interactive: false,
    style: (feature) => {
      const kind = feature!.properties.kind as keyof typeof weights
      return { className: `road ${kind}`, weight: weights[kind], dashArray: kind === 'ferry' ? '2 6' : undefined }
    },
  }).addTo(map)
  drawn = layerGroup().addTo(map)
  map.on('click', ({ latlng }) => {
    if (!moving.value || !chosen.value) return
    moving.value = false
    emit('place', chosen.value.siteId, [Number(latlng.lng.toFixed(6)), Number(latlng.lat.toFixed(6))])
  })
  const spots = props.homes.flatMap(({ position }) => (position ? [toLatLng(position)] : []))
  if (spots.length) map.fitBounds(latLngBounds(spots).pad(0.08))
  else map.fitBounds(geoJSON(props.roads as never).getBounds())
  draw()
})
/** As text: names are typed by people. */
function words(text: string): HTMLElement {
  const element = document.createElement('span')
  element.textContent = text
  return element
}
function draw() {
  if (!drawn) return
  drawn.clearLayers()
  for (const route of props.routes)
    polyline(route.line.map(toLatLng), { className: `route${crew.value && crew.value !== route.crew ? ' pale' : ''}`, weight: 4 })
      .bindTooltip(words(`${props.crewName(route.crew)}: ${Math.round(route.metres / 100) / 10} km`), { sticky: true })
      .on('click', () => (crew.value = crew.value === route.crew ? '' : route.crew))
      .addTo(drawn)
  if (props.store)
    marker(toLatLng(props.store), { icon: divIcon({ className: 'store', html: 'store', iconSize: undefined }), keyboard: false }).addTo(
      drawn,
    )
  for (const { siteId, name, position } of props.homes)
    if (position) {
      circleMarker(toLatLng(position), { className: `home${siteId === chosenId.value ? ' chosen' : ''}`, radius: 6 })
        .bindTooltip(words(name))
        .on('click', (event) => {
          event.originalEvent.stopPropagation()
          chosenId.value = siteId
        })
        .addTo(drawn)
      const people = props.there.filter((one) => one.siteId === siteId).map((one) => one.people)
      if (people.length) {
        const icon = divIcon({ className: 'people', iconSize: undefined, iconAnchor: [-8, 10] })
        const label = marker(toLatLng(position), { icon, keyboard: false, interactive: false }).addTo(drawn)
        label.getElement()!.textContent = people.join(' ')
      }
    }
}
watch(() => [props.routes, props.homes, props.there, chosenId.value, crew.value], draw)
onBeforeUnmount(() => map?.remove())
const items = computed(() =>
  props.homes.map(({ siteId, name, position }) => ({ value: siteId, label: position ? name : `${name} (on no road)` })),
)
</script>

<template>
  <div class="stack">
    <div class="row wrap">
      <USelect v-model="chosenId" :items="items" placeholder="Choose a home" aria-label="Home on the map" class="w-56" />
      <template v-if="chosen">
        <span class="soft small">{{
          chosen.position ? (chosen.shown ? 'Shown by somebody.' : 'About, from its address.') : 'Its address names no street of the map.'
        }}</span>
        <UButton v-if="!moving" @click="moving = true">Show where it is</UButton>
        <UButton v-if="chosen.shown && !moving" variant="ghost" @click="emit('place', chosen.siteId, null)">From its address again</UButton>
      </template>
      <span v-if="moving" role="status"
        ><b>Tap the map where {{ chosen?.name }} is.</b></span
      >
    </div>
    <div ref="element" class="map" :class="{ moving }" role="application" aria-label="Map of the day" />
    <ul class="legend soft small">
      <li v-for="route in routes" :key="route.crew">
        <button type="button" class="opens" :aria-pressed="crew === route.crew" @click="crew = crew === route.crew ? '' : route.crew">
          {{ crewName(route.crew) }} {{ Math.round(route.metres / 100) / 10 }} km
        </button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.map {
  height: 480px;
  border: 1.5px solid var(--ink);
  background: var(--paper);
  z-index: 0;
}
.map.moving {
  cursor: crosshair;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  list-style: none;
}
.legend [aria-pressed='true'] {
  font-weight: 640;
  color: var(--copper-text, var(--copper));
}
.map :deep(.road) {
  stroke: var(--soft);
  stroke-opacity: 0.5;
}
.map :deep(.road.bridge) {
  stroke: var(--ink);
  stroke-opacity: 1;
}
.map :deep(.road.ferry) {
  stroke: var(--ink);
  stroke-opacity: 0.8;
}
.map :deep(.route) {
  stroke: var(--copper);
  stroke-opacity: 0.75;
}
.map :deep(.route.pale) {
  stroke-opacity: 0.12;
}
.map :deep(.home) {
  stroke: var(--ink);
  stroke-width: 2;
  fill: var(--sheet);
  fill-opacity: 1;
}
.map :deep(.home.chosen) {
  fill: var(--copper);
}
.map :deep(.leaflet-bar a) {
  background: var(--sheet);
  color: var(--ink);
  border-color: var(--line);
  width: 44px;
  height: 44px;
  line-height: 44px;
}
.map :deep(.leaflet-bar) {
  border: 1.5px solid var(--ink);
  border-radius: 4px;
  box-shadow: none;
}
.map :deep(.leaflet-tooltip) {
  background: var(--sheet);
  color: var(--ink);
  border: 1px solid var(--ink);
  border-radius: 3px;
  box-shadow: none;
}
.map :deep(.people),
.map :deep(.store) {
  width: auto !important;
  height: auto !important;
  white-space: nowrap;
  font: 12px var(--font-mono);
  color: var(--ink);
  background: var(--sheet);
  border: 1.2px solid var(--ink);
  border-radius: 3px;
  padding: 0 4px;
}
</style>
