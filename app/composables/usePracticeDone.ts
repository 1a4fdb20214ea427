/** Practice boxes this person has brought to a proven plan, on this device. */
export function usePracticeDone() {
  const session = useSession()
  return useLocalStorage<Record<string, boolean>>(`circuitry-practice-${session.viewer?.personId}`, {})
}
