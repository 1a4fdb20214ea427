import { routineSaid, type Telling } from '../automation/describe'
import type { AutomatedHome } from '../automation/home'
import { cellCaution, monthSaid } from '../fit/battery'
import { moneyIn } from '../money/money'
import { openDefects } from '../job/handover-list'
import { currentUnits, pointsOfUnit } from '../job/progress'
import { batteriesIn } from '../job/unit/batteries'
import type { JobState } from '../job/state'
import type { SiteState } from '../site/state'
import { dateIn, type LocaleId } from '../units/region'
import { withoutInternet } from './without-internet'

/** One part of what a household keeps of its home: sentences, or a table. */
export interface HomeSection {
  id: 'where' | 'batteries' | 'itself' | 'without' | 'wrong' | 'leaving' | 'open' | 'agreed'
  title: string
  lines: string[]
  /** In order: first to last. */
  numbered?: boolean
  table?: { heads: string[]; rows: string[][] }
}

const named = (job: JobState, unit: { id: string; name: string; serial: string }) => job.units[unit.id]?.name || unit.serial

function where(job: JobState, site: SiteState, locale: LocaleId): HomeSection {
  const rows = currentUnits(job).map((unit) => {
    const box = site.boxes[unit.boxId]
    const points = pointsOfUnit(job, unit).map(({ id, name }) => unit.channelNames[id] || name)
    const warranty = job.warranties?.[unit.id]
    return [
      named(job, unit),
      [site.rooms[box?.roomId ?? '']?.name, box?.name].filter(Boolean).join(', '),
      points.join(', '),
      `${unit.model.maker} ${unit.model.name}, ${unit.serial}`,
      warranty ? [warranty.until ? `to ${dateIn(warranty.until, locale)}` : 'registered', warranty.number].filter(Boolean).join(', ') : '',
    ]
  })
  return { id: 'where', title: 'What is where', lines: [], table: { heads: ['Name', 'Where', 'Moves', 'Device', 'Warranty'], rows } }
}

/** What runs on a battery, by when it is changed, and what still works without it. */
function batteries(job: JobState): HomeSection[] {
  const all = batteriesIn(job)
  const lines = all.map(
    ({ unit, battery, dueOn, partner, partnerOnWall }) =>
      `${named(job, unit)}: ${battery || 'what is printed on the one in it'}, by ${monthSaid(dueOn)}.${partner ? ` Without it ${named(job, partner)} is switched ${partnerOnWall ? 'at its own place' : 'by the app alone'}.` : ''}`,
  )
  return all.length ? [{ id: 'batteries', title: 'Batteries', lines: [...lines, cellCaution] }] : []
}

/** A model’s own words for starting it anew, once each. */
const models = (job: JobState) => [...new Map(currentUnits(job).map(({ model }) => [model.id, model])).values()]

function wrong(job: JobState, telephone: string): HomeSection {
  const restarts = models(job).flatMap(({ maker, name, restart }) => (restart ? [`${maker} ${name}: ${restart}`] : []))
  return {
    id: 'wrong',
    title: 'When something is wrong',
    lines: [
      'It smells burnt, is hot, buzzes, gives a shock, or its {breaker} has opened by itself: leave it alone, do not close the {breaker} again, and call a licensed electrician today. In danger call the emergency number first.',
      `Otherwise try the wall first, then start the device anew: nothing is lost by it.${restarts.length ? '' : ' How, says its maker’s paper.'}`,
      ...restarts,
      'One light alone: note its name, since when, and what it shows. All of them: look at the router and at the account first.',
      telephone ? `Then call us: ${telephone}.` : 'Then call us.',
    ],
  }
}

/** Moving out, or giving the home to somebody else: in which order, and what stays. */
function leaving(job: JobState): HomeSection {
  const all = models(job)
  const resets = all.flatMap(({ maker, name, reset, setupCode }) =>
    setupCode === 'none' ? [] : [`${maker} ${name}: ${reset || 'as its maker’s paper says.'}`],
  )
  return {
    id: 'leaving',
    title: 'When you move out, or somebody else moves in',
    numbered: true,
    lines: [
      'Write down or take a picture of the schedules you want to keep: they go with the account.',
      'Unlink voice services, then take every member of the household off the home in the app.',
      'Delete the home in the app, if your app lets you; it takes its devices off with it.',
      ...(resets.length ? ['Reset each device, so that it forgets you. Until then it may still obey you, or nobody.', ...resets] : []),
      ...(all.some(({ needsHub }) => needsHub) ? ['The hub comes last: without it the devices behind it cannot be told anything.'] : []),
      'What stays: devices, wiring, labels on the wall, the {panel} directory, and the cards with the setup codes. Hand the cards over; with them the new people pair each device with their own account.',
      'A maker’s warranty mostly stays with the device; ask the maker.',
    ],
  }
}

/**
 * What a household keeps of its home. No code, no note of the crew, nothing of other homes: what is in it may be forwarded.
 * @param home as its year is played, for its schedules
 */
export function homeSections(
  job: JobState,
  site: SiteState,
  { home, telling, locale, telephone }: { home: AutomatedHome; telling: Telling; locale: LocaleId; telephone: string },
): HomeSection[] {
  const routines = home.routines.filter(({ paused }) => !paused).map((routine) => `${routine.name}: ${routineSaid(routine, home, telling)}`)
  const defects = openDefects(job).map(({ pointId, text }) => `${pointId ? `${job.points[pointId]?.name}: ` : ''}${text}`)
  const agreed = job.sales.map(({ number, signer, at, totalCents, currency, kind }) => [
    `${kind === 'quote' ? 'Offer' : 'Change'} ${number}`,
    dateIn(at.slice(0, 10), locale),
    signer,
    moneyIn(totalCents, currency, locale),
  ])
  return [
    wrong(job, telephone),
    where(job, site, locale),
    ...batteries(job),
    ...(routines.length ? [{ id: 'itself' as const, title: 'What the home does by itself', lines: routines }] : []),
    { id: 'without', title: 'Without internet, and after a power cut', lines: withoutInternet(job, site) },
    leaving(job),
    ...(defects.length ? [{ id: 'open' as const, title: 'Still open', lines: defects }] : []),
    ...(agreed.length
      ? [
          {
            id: 'agreed' as const,
            title: 'What was agreed',
            lines: [],
            table: { heads: ['Paper', 'Day', 'Signed by', 'Total'], rows: agreed },
          },
        ]
      : []),
  ]
}
