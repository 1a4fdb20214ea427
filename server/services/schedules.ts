import { ICalCalendar, ICalEventRepeatingFreq, ICalWeekday } from 'ical-generator'
import { DateTime } from 'luxon'
import {
  declinableWords,
  homeDays,
  instantsOf,
  isDue,
  momentsOf,
  nextAfter,
  routineSaid,
  tellingIn,
  type AutomatedHome,
  type Clocked,
  type HomeDay,
  type Routine,
} from '../../core/automation'
import { automatedHome } from '../../core/job'
import { regionOf } from '../../core/units'
import { database, type JobRow, type SiteRow } from '../database'
import { jobFor, siteFor, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { positionOf } from './dispatch-day'
import { heading, makePdf, soft, table } from './pdf'
import { readState } from './streams'

async function homeOf(viewer: Viewer, jobId: string) {
  const job = await jobFor(viewer, jobId)
  return homeOfJob(job, siteFor(viewer, job.siteId))
}
/** A home with what it does by itself, and how its branch writes. */
export async function homeOfJob(job: JobRow, asked: Promise<SiteRow | null> = database().models.sites.findByPk(job.siteId)) {
  const [siteRow, branch, company, jobState, siteState] = await Promise.all([
    asked,
    database().models.branches.findByPk(job.branchId, { raw: true }),
    database().models.companies.findByPk(job.companyId, { raw: true }),
    readState('job', job.id),
    readState('site', job.siteId),
  ])
  const site = siteRow!
  const region = regionOf({ ...branch!, settings: rulesOf(branch!) })
  const home = automatedHome(jobState, siteState, { zone: region.zone, position: (await positionOf(site)).position })
  const telling = tellingIn(siteState.schemeId, region.locale)
  return { job, site, branch: branch!, company: company!.name, schemeId: siteState.schemeId, region, home, telling, jobState, siteState }
}

const weekdays = [ICalWeekday.MO, ICalWeekday.TU, ICalWeekday.WE, ICalWeekday.TH, ICalWeekday.FR, ICalWeekday.SA, ICalWeekday.SU]
const daysOf = (routine: Clocked) => (routine.kind === 'presence' ? [1, 2, 3, 4, 5, 6, 7] : routine.days)

/**
 * Schedules as a calendar: what goes by the clock repeats each week; what goes by the sun is an entry for each day of the year from
 * `now` on. What listens has no time, and is not in it.
 */
export async function schedulesCalendar(viewer: Viewer, jobId: string, now = new Date()): Promise<{ number: number; text: string }> {
  const { job, site, home, telling } = await homeOf(viewer, jobId)
  const calendar = new ICalCalendar({ name: `Schedules of ${site.name}`, prodId: { company: 'Circuitry', product: 'Schedules' } })
  const today = DateTime.fromJSDate(now, { zone: home.zone })
  const days = homeDays(today.toISODate()!, 366, home.zone, home.position)
  for (const routine of home.routines) {
    if (routine.kind === 'rule' || routine.paused) continue
    const described = { summary: routine.name, description: routineSaid(routine, home, telling), stamp: now }
    const byClock = momentsOf(routine).every(({ at }) => at === 'clock') && daysOf(routine).length > 0
    const times = byClock ? firstTime(routine, days) : everyTime(routine, days)
    for (const { date, from, to } of times) {
      const zoned = (at: number) => DateTime.fromSeconds(at, { zone: home.zone })
      const event = calendar.createEvent({
        ...described,
        id: byClock ? `${routine.id}@circuitry` : `${routine.id}-${date}@circuitry`,
        // What repeats does so by the clock of the home, also after it was changed.
        ...(byClock
          ? { start: zoned(from), end: zoned(to), timezone: home.zone }
          : { start: new Date(from * 1000), end: new Date(to * 1000) }),
      })
      if (byClock) event.repeating({ freq: ICalEventRepeatingFreq.WEEKLY, byDay: daysOf(routine).map((day) => weekdays[day - 1]!) })
    }
  }
  return { number: job.number, text: calendar.toString() }
}
function everyTime(routine: Clocked, days: readonly HomeDay[]) {
  const [first, last] = momentsOf(routine)
  return days.flatMap((day, index) => {
    const [from] = isDue(routine, day) ? instantsOf(day, first) : []
    const to = from === undefined ? null : nextAfter(last, days, index, from)
    return from !== undefined && to !== null ? [{ date: day.date, from, to }] : []
  })
}
const firstTime = (routine: Clocked, days: readonly HomeDay[]) => everyTime(routine, days.slice(0, 15)).slice(0, 1)

/** What a home does by itself, on paper, for whoever lives there. */
export async function schedulesSheet(viewer: Viewer, jobId: string): Promise<{ number: number; bytes: Buffer }> {
  const { job, site, company, schemeId, region, home, telling } = await homeOf(viewer, jobId)
  const active = home.routines.filter(({ paused }) => !paused)
  const without = (runs: Routine['runs']) => active.filter((routine) => routine.runs === runs)
  const rows = (routines: readonly Routine[]) =>
    routines.map((routine) => [{ text: routine.name, bold: true }, routineSaid(routine, home, telling)])
  const own = home.devices.flatMap((device) => {
    const said = itselfSaid(device)
    return said.length ? [[{ text: device.name, bold: true }, `${said.join('; ')}.`]] : []
  })
  const bytes = await makePdf({
    ...{
      title: `What ${site.name} does by itself`,
      company,
      footer: `${company} · job ${job.number} · schedules and rules`,
      schemeId,
      region,
    },
    content: [
      { text: 'What the home does by itself', style: 'title' },
      { text: `${site.name}, ${site.address}`, fontSize: 13, margin: [0, 4, 0, 0] },
      heading('Schedules and rules'),
      active.length ? table(['', ''], rows(active), [120, '*']) : { text: 'Nothing is set: every light waits for a hand.' },
      heading('Without internet'),
      without('cloud').length
        ? {
            text: `These wait until it is back: ${without('cloud')
              .map(({ name }) => name)
              .join(', ')}. Everything else goes on.`,
          }
        : { text: 'Everything goes on.' },
      heading('After a power interruption, and by themselves'),
      own.length ? table(['', ''], own, [120, '*']) : { text: 'Every device stays off until somebody, or a schedule, switches it on.' },
      ...(home.habits.declined.length
        ? [
            {
              text: `Not allowed by the household: ${home.habits.declined.map((one) => declinableWords[one]).join(', ')}.`,
              color: soft,
              margin: [0, 12, 0, 0] as [number, number, number, number],
            },
          ]
        : []),
    ],
  })
  return { number: job.number, bytes }
}
/** What a device does on its own, in words. */
function itselfSaid({ behaviour }: AutomatedHome['devices'][number]): string[] {
  const { powerOn, autoOnMinutes, autoOffMinutes, mustRun } = behaviour
  return [
    ...(mustRun ? ['must run, whatever happens'] : []),
    ...(powerOn === 'off' ? [] : [powerOn === 'on' ? 'on after every interruption' : 'as it was before']),
    ...(autoOnMinutes === null ? [] : [`on again ${autoOnMinutes} min after it was switched off`]),
    ...(autoOffMinutes === null ? [] : [`off ${autoOffMinutes} min after it was switched on`]),
  ]
}
