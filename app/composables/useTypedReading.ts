/**
 * Readings that come from a keyboard while no field has the focus: one's own, or that of a meter which is linked as one and
 * ends each reading with Enter.
 */
export function useTypedReading(hears: { key: (key: string) => void; enter: () => void; delete?: () => void }) {
  let typing = false
  // Before whatever was pressed last: that is still in focus and would take Enter for itself.
  const onKey = (event: KeyboardEvent) => {
    const target = event.target as HTMLElement | null
    if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector('[role=dialog], [role=alertdialog]')) return
    if (target?.closest('input, textarea, select, [role="combobox"], [role="listbox"], [contenteditable]')) return
    if (/^[0-9.,OL]$/i.test(event.key)) {
      typing = true
      hears.key(event.key === ',' ? '.' : event.key.toUpperCase())
    } else if (event.key === 'Backspace' && hears.delete) hears.delete()
    else if (event.key === 'Enter' && typing) {
      typing = false
      hears.enter()
    } else return
    event.preventDefault()
    event.stopPropagation()
  }
  useEventListener(window, 'keydown', onKey, { capture: true })
}
