import { meterReading } from '../../core/units/meter-reading'

/** What the linked meter typed and nobody can use, until whoever reads has looked: what comes after it is of another place. */
export const useUnreadReading = () => useState<string | null>('unread-reading', () => null)

/** No hand types so fast. */
const burstMs = 100
/**
 * Readings that come from a keyboard while no field has the focus: one's own, or that of a meter which is linked as one and
 * ends each reading with Enter.
 * @param asked volts or ohms, as it is asked for now
 * @param hears what is typed so far, and the number once it ends: in plain volts or ohms; Infinity for OL on ohms
 */
export function useTypedReading(asked: () => 'V' | 'Ω', hears: { typed: (text: string) => void; reading: (value: number) => void }) {
  const unread = useUnreadReading()
  let text = ''
  /** Letters that begin no reading, and when: what a scanner types may hold digits further on. */
  const nothing = { keys: '', at: -Infinity }
  let before = nothing
  const show = (typed: string) => hears.typed((text = typed))
  function end() {
    const typed = text
    before = nothing
    show('')
    if (unread.value !== null) return
    const value = meterReading(typed, asked())
    if (value === null) unread.value = typed
    else hears.reading(value)
  }
  // Before whatever was pressed last: that is still in focus and would take Enter for itself.
  const onKey = (event: KeyboardEvent) => {
    const target = event.target as HTMLElement | null
    if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector('[role=dialog], [role=alertdialog]')) return
    if (target?.closest('input, textarea, select, [role="combobox"], [role="listbox"], [contenteditable]')) return
    const printed = event.key.length === 1
    const sofar = text || (event.timeStamp - before.at < burstMs ? before.keys : '')
    if (printed && text === '' && !/[\d.,+−–>ol-]/i.test(event.key)) return void (before = { keys: sofar + event.key, at: event.timeStamp })
    // Everything that is printed belongs to it: without its letters 0.12 kV would be a dead conductor.
    if (printed) show((sofar + event.key).slice(0, 200))
    else if (text === '') return
    else if (event.key === 'Backspace') show(text.slice(0, -1))
    else if (event.key === 'Enter') end()
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  useEventListener(window, 'keydown', onKey, { capture: true })
  onBeforeUnmount(() => (unread.value = null))
}
