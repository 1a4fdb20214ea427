import type { Ref } from 'vue'
import type { StockPlace } from '../../core/protocol'

/** The store somebody picks from and the van they pick onto: as last chosen on this device, else the first of each. */
export function usePickPlaces(places: Ref<readonly StockPlace[]>) {
  const fromId = useLocalStorage('pick-from', '')
  const toId = useLocalStorage('pick-to', '')
  watch(
    places,
    (all) => {
      if (!all.length) return
      if (!all.some(({ id }) => id === fromId.value)) fromId.value = all.find(({ kind }) => kind === 'store')?.id ?? all[0]!.id
      if (!all.some(({ id }) => id === toId.value)) toId.value = all.find(({ kind }) => kind === 'van')?.id ?? all[0]!.id
    },
    { immediate: true },
  )
  return { fromId, toId }
}
