import { useActiveElement } from '@vueuse/core'

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

/** Keys that work when nobody is typing, and no dialog is open. */
export function useShortcuts(open: { palette: () => void; sheet: () => void }) {
  const session = useSession()
  const focused = useActiveElement()
  const unlessAsked = (act: () => unknown) => () => {
    if (!document.querySelector('[role=dialog]')) void act()
  }
  const go = (path: string) => unlessAsked(() => navigateTo(path))
  defineShortcuts(
    // In a list to choose from, letters choose.
    computed(() =>
      focused.value?.tagName === 'SELECT'
        ? {}
        : {
            '/': unlessAsked(open.palette),
            '?': unlessAsked(open.sheet),
            'g-m': go('/my-day'),
            'g-j': go('/jobs'),
            'g-c': go('/callbacks'),
            ...(session.isOffice ? { 'g-d': go('/day'), n: go('/jobs/new') } : {}),
          },
    ),
    { chainDelay: 1200 },
  )
}
