export const shortcutList = [
  { keys: '/', what: 'Find a job, a page or an action' },
  { keys: '?', what: 'This sheet' },
  { keys: 'g then d', what: 'Day' },
  { keys: 'g then m', what: 'My day' },
  { keys: 'g then j', what: 'Jobs' },
  { keys: 'g then c', what: 'Callbacks' },
  { keys: 'n', what: 'New job (office)' },
  { keys: 'Esc', what: 'Close what is open' },
] as const

/** Keys that work when nobody is typing. */
export function useShortcuts(open: { palette: () => void; sheet: () => void }) {
  const session = useSession()
  let pendingGo = 0
  const places: Record<string, string> = { d: '/day', m: '/my-day', j: '/jobs', c: '/callbacks' }
  function onKey(event: KeyboardEvent) {
    const target = event.target as HTMLElement
    if (
      event.metaKey ||
      event.ctrlKey ||
      event.altKey ||
      target.isContentEditable ||
      /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
      document.querySelector('[role=dialog]')
    )
      return
    const afterGo = Date.now() - pendingGo < 1200
    pendingGo = 0
    if (afterGo && places[event.key] && (event.key !== 'd' || session.isOffice)) void navigateTo(places[event.key])
    else if (event.key === 'g') pendingGo = Date.now()
    else if (event.key === '/') open.palette()
    else if (event.key === '?') open.sheet()
    else if (event.key === 'n' && session.isOffice) void navigateTo('/jobs/new')
    else return
    event.preventDefault()
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
}
