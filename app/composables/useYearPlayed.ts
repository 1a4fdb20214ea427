import { DateTime } from 'luxon'
import { tellingIn } from '../../core/automation/describe'
import { automatedHome } from '../../core/job'
import type { AutomationTalk } from '~/workers/automation'

/** A year of what the home does by itself, played in a worker and anew whenever the record changes. Belongs under a page of a job. */
export function useYearPlayed() {
  const { page, job, site, scheme } = injectJobRecord()
  const session = useSession()
  const region = computed(() => session.regionAt(page.value!.job.branchId))
  const telling = computed(() => tellingIn(scheme.value.id, region.value.locale))
  const home = computed(() => automatedHome(job.value!, site.value!, { zone: region.value.zone, position: page.value!.site.position }))
  const from = computed(() => DateTime.now().setZone(region.value.zone).toISODate()!)
  /** Which year of chance, the device and the day that are looked at. */
  const seed = ref(1)
  const deviceId = ref<string | null>(null)
  const date = ref<string | null>(null)
  const { answer, failed, thinking, put } = useNewestAnswer<AutomationTalk>(
    () => new Worker(new URL('../workers/automation.ts', import.meta.url), { type: 'module' }),
  )
  const asked = computed(() =>
    JSON.stringify({
      ...{ home: home.value, from: from.value, seed: seed.value, locale: region.value.locale, schemeId: scheme.value.id },
      ...{ deviceId: deviceId.value, date: date.value },
    }),
  )
  watchDebounced(asked, (question) => void put(JSON.parse(question) as AutomationTalk['question']), { debounce: 200, immediate: true })
  const findings = computed(() => answer.value?.findings ?? [])
  const sentence = computed(() => {
    if (!home.value.devices.length) return 'No device is in the wall yet.'
    if (!home.value.routines.length && !findings.value.length) return 'Nothing is set: every light waits for a hand.'
    if (!answer.value) return 'Playing a year of it …'
    const wrong = findings.value.length
    return wrong ? `${counted(wrong, 'thing goes', 'things go')} wrong in a year of it.` : 'A year of it was played: nothing goes wrong.'
  })
  const dayOf = (at: number) => DateTime.fromSeconds(at, { zone: region.value.zone }).toISODate()!
  /** When it is seen first, and how often. */
  const seenWords = ({ at, days }: AutomationTalk['answer']['findings'][number]) =>
    at === null
      ? 'Whatever the year is.'
      : days > 1
        ? `First seen ${dayWord(dayOf(at), region.value)}, on ${days} days.`
        : `Seen ${dayWord(dayOf(at), region.value)}.`
  /** What other jobs put in the same home is not in this record, and not played. */
  const otherNames = useOtherNames()
  const others = computed(() => otherNames.value.map(({ name }) => name).join(', '))
  return { region, telling, home, others, seed, deviceId, date, answer, failed, thinking, findings, sentence, dayOf, seenWords }
}
