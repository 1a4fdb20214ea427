/** What other jobs put in the home of this one, by its names: heard and seen there, and not changed here. */
export function useOtherNames() {
  const { page } = injectJobRecord()
  const { answer } = useList('GET /api/jobs/:id/other-names', () => ({ params: { id: page.value!.job.id } }), ['job'], {
    keptAs: () => `names beside ${page.value!.job.id}`,
  })
  return computed(() => answer.value?.names ?? [])
}
