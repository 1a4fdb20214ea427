<script setup lang="ts">
/** The one place that says the next thing and does it: at thumb height on a phone, beside the picture at a desk. */
defineProps<{
  /** Along the bottom of the window at a desk too. */
  wide?: boolean
}>()
const dock = useTemplateRef<HTMLElement>('dock')
/** What is scrolled to by the keyboard or a link comes to stand between the bars, not behind them. */
function keepClear() {
  const { style } = document.documentElement
  const box = dock.value?.getBoundingClientRect()
  // One that says nothing is nowhere: it keeps nothing clear.
  const stuck = box && box.height > 0 && getComputedStyle(dock.value!).bottom !== 'auto'
  style.scrollPaddingBottom = stuck ? `${window.innerHeight - box.top + 8}px` : ''
  style.scrollPaddingTop = '116px'
}
useResizeObserver(dock, keepClear)

/**
 * A button that has just come to stand where another one was is not pressed by the second half of a double tap: nobody has read
 * it yet. It would record a breaker as opened that nobody has touched.
 */
const fresh = ref(false)
const freshMs = 450
let settling: ReturnType<typeof setTimeout> | undefined
let stood = ''
function look() {
  const stands = [...(dock.value?.querySelectorAll('.act') ?? [])].map((one) => one.textContent).join('|')
  if (stands === stood) return
  stood = stands
  fresh.value = true
  clearTimeout(settling)
  settling = setTimeout(() => (fresh.value = false), freshMs)
}
useMutationObserver(dock, look, { childList: true, characterData: true, subtree: true })
function onClick(event: MouseEvent) {
  if (!fresh.value || !(event.target as HTMLElement).closest('.act')) return
  event.preventDefault()
  event.stopPropagation()
}
onBeforeUnmount(() => {
  clearTimeout(settling)
  document.documentElement.style.scrollPaddingBottom = document.documentElement.style.scrollPaddingTop = ''
})
</script>

<template>
  <section ref="dock" class="dock" :class="{ wide, fresh }" aria-label="Next step" data-testid="next-step" @click.capture="onClick">
    <slot />
  </section>
</template>

<style scoped>
.dock {
  background: var(--sheet);
  border-top: 4px solid var(--copper-bar);
  padding: 14px 18px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  position: sticky;
  z-index: 14;
  top: var(--bars, 52px);
  max-height: calc(100dvh - var(--bars, 52px));
  overflow-y: auto;
}
.dock.wide {
  margin-top: auto;
  top: auto;
  bottom: 0;
  max-height: 60dvh;
  border-bottom: 0;
  padding: 10px 22px;
}
/* Nothing is next for whoever looks. */
.dock:not(:has(> *)) {
  display: none;
}
/* The button that does it stays under the thumb, however long what belongs to it is. */
.dock :deep(.act) {
  position: sticky;
  bottom: 0;
  z-index: 1;
  flex: none;
  /* What scrolls behind it does not show around it. */
  box-shadow: 0 0 0 10px var(--sheet);
}
.dock.fresh :deep(.act) {
  pointer-events: none;
}
@media (max-width: 900px) {
  .dock,
  .dock.wide {
    order: 10;
    margin-top: auto;
    top: auto;
    bottom: 0;
    max-height: 62dvh;
    padding: 10px 16px 12px;
    gap: 10px;
    border-bottom: 1px solid var(--line);
  }
}
@media (max-width: 760px) {
  /* Above the program’s own bar. */
  .dock,
  .dock.wide {
    bottom: calc(60px + env(safe-area-inset-bottom));
    margin-bottom: 60px;
  }
}
</style>
