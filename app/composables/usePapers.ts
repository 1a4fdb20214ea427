/** Papers open in a tab that says how far they are. Held with a key, a link does what links do. */
export function usePapers() {
  useEventListener(
    document,
    'click',
    (event: MouseEvent) => {
      if (event.button !== 0 || event.ctrlKey || event.metaKey || event.shiftKey || event.altKey) return
      const link = (event.target as Element | null)?.closest?.('a[data-paper]')
      if (!link) return
      event.preventDefault()
      window.open(`/paper?${new URLSearchParams({ of: link.getAttribute('href')! })}`, '_blank')
    },
    { capture: true },
  )
}
