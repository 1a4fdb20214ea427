import { counted } from '../units/counted'
import { canTouch, nextPowerStep, sentence, type Asker, type Vantage, type SiteState } from '../site'
import { lowerFirst } from '../wiring/plan/other-location-words'
import { handoverChecklist } from './handover-list'
import { boxesOfJob, jobCounts, jobStatus } from './progress'
import type { JobState } from './state'

/** One sentence: what is true of this job and what it waits for, for the person looking; the office is told, not asked. */
export function jobSentence(job: JobState, site: SiteState, asker: Asker, vantage: Vantage, onCrew = true): string {
  const counts = jobCounts(job, site)
  const status = jobStatus(job)
  const passed = `${counts.passed} of ${counted(counts.points, 'point passes', 'points pass')}`
  const callback = Object.values(job.callbacks).find((candidate) => candidate.status !== 'closed')
  if (callback) {
    const unit = job.units[callback.unitId]
    const name = unit?.name || unit?.serial || 'a device'
    const waits =
      callback.status === 'told'
        ? 'Mended on the telephone; the customer is to be called back.'
        : callback.status === 'open'
          ? 'It waits for a diagnosis.'
          : callback.remedy === 'replace' && !callback.replacedBy
            ? 'It waits for the new device.'
            : 'It waits for its tests and closing.'
    return `Callback for ${name}: ${callback.what} ${waits}`
  }
  if (status === 'handedOver') return `${passed}. Handed over and signed by ${job.signature?.signer ?? 'the customer'}.`
  const scope = `${counted(counts.points, 'point')} in ${counted(boxesOfJob(job, site).length, 'box', 'boxes')}`
  if (status === 'toSchedule') return `${scope}. Nobody is scheduled yet.`
  if (status === 'scheduled') return `${scope}, waiting for the visit.`
  const opened = boxesOfJob(job, site).find((box) => box.closure === 'opened')
  if (opened && !onCrew) {
    const proof = opened.proofId ? site.proofs[opened.proofId] : undefined
    return `${passed}. ${sentence(opened.name)} is open${proof?.status === 'living' ? `, proven dead by ${proof.name}` : ', not proven dead'}.`
  }
  if (opened) {
    if (canTouch(site, opened.id, asker, vantage).yes) return `${passed}. ${sentence(opened.name)} is proven dead: you may work in it.`
    const step = nextPowerStep(site, opened.id, asker, vantage)
    return `${passed}. ${sentence(opened.name)} waits: ${lowerFirst(step.title)}.`
  }
  if (counts.failed > 0) return `${passed}, ${counted(counts.failed, 'fails', 'fail')}.`
  if (counts.points > 0 && counts.passed === counts.points) {
    const left = handoverChecklist(job, site).filter((item) => !item.done).length
    const all = counts.points === 1 ? 'The one point passes' : `All ${counts.points} points pass`
    return left > 0 ? `${all}. ${left} handover ${left === 1 ? 'item is' : 'items are'} left.` : `${all}. Ready for the signature.`
  }
  return `${passed}. No box is open.`
}
