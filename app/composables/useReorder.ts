import type { ReorderLine } from '../../core/protocol'

/** What the branch is to buy; for the office only. Jobs, sales, stock and prices make it anew. */
export function useReorder() {
  const session = useSession()
  const { answer } = useList('GET /api/stock/reorder', () => ({ query: { branchId: session.branch!.id, as: 'json' as const } }), [
    'stock',
    'sales',
    'job',
    'catalogue',
  ])
  return computed(() => (answer.value as { lines: ReorderLine[] } | null)?.lines ?? [])
}
