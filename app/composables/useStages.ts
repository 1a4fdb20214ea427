/**
 * Shows a large part piece by piece, each in a task of its own, so that the page stays quick under the finger.
 * @param ready the part is to be shown
 * @param count pieces it has
 * @returns how many of them may be shown by now
 */
export function useStages(ready: () => boolean, count: number) {
  const stage = ref(0)
  let timer: ReturnType<typeof setTimeout> | undefined
  const further = () => {
    stage.value++
    if (stage.value < count) timer = setTimeout(further)
  }
  watch(
    ready,
    (now) => {
      clearTimeout(timer)
      stage.value = 0
      if (now) timer = setTimeout(further)
    },
    { immediate: true },
  )
  onScopeDispose(() => clearTimeout(timer))
  return stage
}
