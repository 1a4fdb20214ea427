import type { Ref } from 'vue'
import type { StockPlace } from '../../core/protocol'

/** The store somebody picks from and the van they pick onto: as last chosen on this device, else their own van, else the first of each. */
export function usePickPlaces(places: Ref<readonly StockPlace[]>) {
  const session = useSession()
  const fromId = useLocalStorage('pick-from', '')
  const toId = useLocalStorage('pick-to', '')
  watch(
    places,
    (all) => {
      if (!all.length) return
      if (!all.some(({ id }) => id === fromId.value)) fromId.value = all.find(({ kind }) => kind === 'store')?.id ?? all[0]!.id
      const own = session.person(session.viewer?.personId ?? '')?.vanId
      if (!all.some(({ id }) => id === toId.value))
        toId.value = (all.find(({ id }) => id === own) ?? all.find(({ kind }) => kind === 'van') ?? all[0]!).id
    },
    { immediate: true },
  )
  return { fromId, toId }
}
