import { usualHousehold, type PlanSource } from '../../core/plan'
import { homeKnown } from '../../core/survey'

/** All that a plan of this page's job rests on, as this device knows it; null until the lists are here. */
export function usePlanSource() {
  const { page, job, site, settings } = injectJobRecord()
  const session = useSession()
  const { answer: listed, problem } = useList('GET /api/articles', () => ({ query: { branchId: page.value!.job.branchId } }), ['catalogue'])
  const { answer: recorded } = useList('GET /api/articles/record', () => ({}), ['catalogue'])
  const household = computed(() => job.value?.household ?? usualHousehold)
  const source = computed((): PlanSource | null => {
    if (!job.value || !site.value || !listed.value || !recorded.value) return null
    return {
      job: toRaw(job.value),
      site: toRaw(site.value),
      catalogue: toRaw(session.catalogue).filter(({ active }) => active),
      parts: toRaw(session.parts),
      articles: toRaw(listed.value.articles),
      money: toRaw(settings.value.money),
      known: homeKnown(page.value),
      record: toRaw(recorded.value.record),
      wishes: toRaw(job.value.wishes ?? {}),
      household: toRaw(household.value),
      edition: settings.value.necEdition,
    }
  })
  return { source, household, problem }
}
