import type { SiteHunt, SiteState } from '../../core/safety'

/** The hunt as the record tells it, planned in a worker; the newest question's answer counts. */
export function useHunt(site: Ref<SiteState | null>, boxIds: Ref<string[]>) {
  const hunt = shallowRef<SiteHunt | null>(null)
  const thinking = ref(false)
  const worker = new Worker(new URL('../workers/hunt.ts', import.meta.url), { type: 'module' })
  let asked = 0
  worker.onmessage = ({ data }: MessageEvent<{ id: number; hunt: SiteHunt }>) => {
    if (data.id !== asked) return
    hunt.value = data.hunt
    thinking.value = false
  }
  watch(
    [() => site.value?.seq, boxIds],
    () => {
      if (!site.value) return
      thinking.value = true
      worker.postMessage({ id: ++asked, site: toRaw(site.value), boxIds: [...boxIds.value] })
    },
    { immediate: true },
  )
  onScopeDispose(() => worker.terminate())
  return { hunt, thinking }
}
