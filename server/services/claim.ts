import {
  checksFor,
  clearingWords,
  fateWords,
  pointsOfUnit,
  preparedOf,
  technologyWords,
  type JobState,
  type OutDevice,
} from '../../core/job'
import { loadWatts } from '../../core/fit'
import type { SiteState } from '../../core/site'
import { applyEvent } from '../../core/stream'
import { answersInWords, symptomWords } from '../../core/triage'
import { dateIn, momentOf, supplySchemes } from '../../core/units'
import { streams } from '../../core/streams'
import type { Viewer } from './access'
import { paperOfJob } from './job-paper'
import { heading, makePdf, soft, table } from './pdf'
import { photoPages } from './photo-pages'
import { daysInWall, outDevice } from './returns'
import { eventsAfter, reducerOf } from './streams'

/** The record as it stood when a device came out: its tests are thrown away with it. */
async function whenItCameOut(jobId: string, unitId: string): Promise<JobState> {
  const job = streams.job.empty(jobId)
  for (;;) {
    const events = await eventsAfter(jobId, job.seq)
    if (!events.length) return job
    for (const event of events) {
      if (event.type === 'unitReplaced' && (event.payload as { oldUnitId?: string }).oldUnitId === unitId) return job
      applyEvent(reducerOf('job'), job, event)
    }
  }
}

/** What was looked at, tried and measured of it, by check. */
function testRows(job: JobState, site: SiteState, unitId: string, day: (iso: string) => string): string[][] {
  return pointsOfUnit(job, job.units[unitId]!).flatMap((point) => {
    // As they were made: that its box was opened since takes nothing from what they say of the device.
    const results = job.tests[point.id] ?? {}
    return checksFor(job, site, point).flatMap(({ id, what }) => {
      const result = results[id]
      return result
        ? [
            [
              what,
              `${result.result}${result.measured ? `, ${result.measured}` : ''}${result.note ? `: ${result.note}` : ''}`,
              day(result.madeAt),
            ],
          ]
        : []
    })
  })
}

/**
 * What a maker needs to see of a device that is out. Names, addresses, codes and what else is in the home stay here; of pictures
 * only those that somebody picked.
 * @throws ApiError 404 where no such device is out
 */
export async function claimPaper(
  viewer: Viewer,
  jobId: string,
  serial: string,
  photoIds: readonly string[],
): Promise<{ name: string; bytes: Buffer }> {
  const { job: row, out } = await outDevice(viewer, jobId, serial)
  const { branch, company, job, site, region } = await paperOfJob(row)
  const day = (iso: string) => dateIn(iso.slice(0, 10), region.locale)
  const unit = out.unitId ? job.units[out.unitId]! : null
  const before = unit ? await whenItCameOut(row.id, unit.id) : null
  const tests = before?.units[unit!.id] ? testRows(before, site, unit!.id, day) : []
  const photos = job.photos.filter(({ id, boxId }) => photoIds.includes(id) && boxId === unit?.boxId)
  const shop = preparedOf(job, out.serial)
  const load =
    unit && before?.units[unit.id]
      ? pointsOfUnit(before, before.units[unit.id]!).map(
          ({ load: one }) => `${one.lamps} × ${one.wattsEach} W ${technologyWords[one.technology]} = ${loadWatts(one)} W`,
        )
      : []
  const facts = (rows: [string, string][]) =>
    table(
      ['', ''],
      rows.filter(([, said]) => said !== ''),
      [150, '*'],
    )
  const bytes = await makePdf({
    title: `Claim for ${out.serial}`,
    footer: `${company.name} · job ${row.number} · ${out.serial}`,
    company: company.name,
    schemeId: branch.schemeId,
    region,
    content: [
      { text: `${out.model.maker} ${out.model.name}`, style: 'title' },
      { text: `Serial ${out.serial}`, fontSize: 13, margin: [0, 4, 0, 0] },
      {
        text: `${company.name}, ${branch.name} · our job ${row.number} · made ${momentOf(new Date().toISOString(), region)}`,
        color: soft,
        margin: [0, 2, 0, 0],
      },
      heading('The device'),
      facts([
        ['Your number', out.reference],
        ['Warranty', (unit && job.warranties?.[unit.id]?.number) ?? ''],
        [
          'In the wall',
          unit
            ? `${day(unit.installedAt)} to ${day(out.outAt)}, ${daysInWall(unit.installedAt, out.outAt)} days`
            : 'never: it failed before it was installed',
        ],
        ['Supply', supplySchemes[branch.schemeId].name],
        ['Load', load.join('; ')],
        ['Version', shop?.version ?? ''],
        ['What is asked', fateWords[out.goes]],
        ['Before it was sent', out.cleared ? clearingWords[out.cleared] : ''],
      ]),
      heading('What happened'),
      facts(whatHappened(job, out, day)),
      ...(tests.length ? [heading('Tests before it came out'), table(['Check', 'Result', 'On'], tests, ['*', '*', 'auto'])] : []),
      ...(await photoPages(job, { ...site, boxes: {} }, 'Pictures', photos)),
      {
        text: 'The household is known to us by the number of the job; no name and no address of it is on this paper.',
        color: soft,
        margin: [0, 16, 0, 0],
      },
    ],
  })
  return { name: `claim-${out.serial.replace(/[^\w-]/g, '_')}.pdf`, bytes }
}

function whatHappened(job: JobState, out: OutDevice, day: (iso: string) => string): [string, string][] {
  const callback = out.callbackId ? job.callbacks[out.callbackId] : undefined
  if (!callback) return [['Seen', out.shopNote || 'nothing was written down']]
  const symptoms = (callback.call?.symptoms ?? []).map((one) => (symptomWords as Record<string, string>)[one] ?? one)
  const asked = answersInWords(callback.call?.answers ?? []).map(({ ask, answer }) => `${ask} ${answer}`)
  return [
    ['Reported', `${callback.what} Since ${day(callback.since)}.`],
    ['Symptoms', symptoms.join(', ')],
    ['Asked', [...asked, callback.told?.how ?? ''].filter(Boolean).join('; ')],
    ['Cause, as found', callback.cause],
    ['Shown by', callback.confirmedBy],
    ['Ended', callback.resolution],
  ]
}
