import type { SiteState } from '../site'
import { breakerName, isEnergised, tagsOn } from '../site'
import { monthSaid } from '../fit/battery'
import { gesturesSaid } from '../fit/gestures-said'
import { counted } from '../units/counted'
import { evidenceWords } from './handover/words'
import { batteriesIn } from './unit/batteries'
import { automationOf } from './automation/automation-of'
import { pairingOf } from './pairing/pairing-of'
import { drillSaid } from './pairing/drill-said'
import { linkOf } from './link/link-of'
import { drills, drillWords } from './pairing/words'
import { permitWords } from './verification/words'
import { boxesOfJob, channelPoints, codesThatDiffer, currentUnits, mainModel, placesOf, pointsInOrder, pointStatus } from './progress'
import type { Defect, JobState, Tick, Unit } from './state'

export interface HandoverItem {
  id: string
  text: string
  /** Why it is not done yet, or why it matters. */
  why: string
  done: boolean
  /** Computed from the record, or shown to the customer and ticked. */
  auto: boolean
  /** Of what was ticked: by whom, and on what it rests. */
  tick?: Tick
}

/** On what a tick rests, in words: by whom, when, by what, and what was noted. */
export const restsOn = ({ by, at, rests, note }: Tick, moment: (iso: string) => string): string =>
  [`${by}, ${moment(at)}, ${evidenceWords[rests ?? 'seen']}`, note].filter(Boolean).join(': ')

export function openDefects(job: JobState): Defect[] {
  return Object.values(job.defects).filter((defect) => defect.status === 'open')
}

const list = (names: string[]) => (names.length > 4 ? `${names.slice(0, 4).join(', ')} and ${names.length - 4} more` : names.join(', '))

/** The handover checklist, derived from what this job contains. */
export function handoverChecklist(job: JobState, site: SiteState): HandoverItem[] {
  const points = pointsInOrder(job)
  const defectPoints = new Set(openDefects(job).map((defect) => defect.pointId))
  const failing = points.filter((point) => pointStatus(job, site, point) !== 'passed' && !defectPoints.has(point.id))
  const units = currentUnits(job)
  const excused = (boxId: string) =>
    points.some((point) => defectPoints.has(point.id) && placesOf(point).some((place) => place.boxId === boxId))
  const unpaired = units.filter(
    (unit) =>
      unit.model.setupCode !== 'none' &&
      (unit.pairing?.result !== 'joined' || unit.name === '' || channelPoints(job, unit).some(({ id }) => !unit.channelNames[id])) &&
      !excused(unit.boxId),
  )
  const chosen = Object.entries(job.boxes).flatMap(([boxId, work]) =>
    Object.keys(work.devices).map((gang) => ({ boxId, gang: Number(gang) })),
  )
  const withoutUnit = chosen.filter((slot) => !units.some((unit) => unit.boxId === slot.boxId && unit.gang === slot.gang))
  const openBoxes = boxesOfJob(job, site).filter((box) => box.closure !== 'closed')
  const breakers = [...new Set(boxesOfJob(job, site).flatMap((box) => box.breakerIds))].flatMap((id) => site.breakers[id] ?? [])
  const off = breakers.filter((breaker) => !isEnergised(site, breaker) || tagsOn(site, breaker.id).length > 0)
  const auto = (id: string, text: string, missing: string[], fine: string): HandoverItem => ({
    id,
    text,
    why: missing.length ? list(missing) : fine,
    done: missing.length === 0,
    auto: true,
  })
  const items: HandoverItem[] = [
    auto(
      'tests',
      'Every point passes, or its defect is listed',
      failing.map((point) => point.name),
      'All points pass or are listed.',
    ),
    auto(
      'units',
      'Serial and setup code stored for every device',
      [
        ...withoutUnit.map((slot) => `${site.boxes[slot.boxId]?.name ?? 'box'} gang ${slot.gang}`),
        ...units.flatMap((unit) =>
          codesThatDiffer(job, unit.id).map(
            ([from, { ending }]) => `the ${from} of ${unit.name || unit.serial} says another code, …${ending}`,
          ),
        ),
      ],
      'All stored.',
    ),
    auto(
      'pairing',
      'Every device paired and named',
      unpaired.map((unit) => unit.name || unit.serial),
      'All paired and named.',
    ),
    auto(
      'boxes',
      'Every box closed',
      openBoxes.map((box) => box.name),
      'All closed.',
    ),
    auto(
      'power',
      'Power back, no tags left',
      off.map((breaker) => breakerName(site, breaker)),
      'All on, no tags.',
    ),
  ]
  const verified = Object.keys(job.verified ?? {}).length > 0
  // Once it was begun it is finished: each circuit that was worked on.
  if (verified)
    items.push(
      auto(
        'verified',
        'Every circuit that was worked on is verified',
        breakers.flatMap((breaker) => {
          const found = job.verified?.[breaker.id]
          const since = boxesOfJob(job, site).filter(
            ({ breakerIds, lastOpenedAt }) => found && breakerIds.includes(breaker.id) && (lastOpenedAt ?? '') > found.madeAt,
          )
          if (found?.passed && !since.length) return []
          const why = !found
            ? 'is not measured'
            : !found.passed
              ? 'does not pass'
              : `was measured before ${since[0]!.name} was opened again`
          return [`${breakerName(site, breaker)} ${why}`]
        }),
        'Continuity, insulation, polarity, loop and residual devices are on the paper.',
      ),
    )
  if (job.permit && job.permit.state !== 'none')
    items.push(
      auto(
        'permit',
        'The permit is released by its inspector',
        job.permit.state === 'released' ? [] : [`${job.permit.number || 'no number yet'}, ${permitWords[job.permit.state]}`],
        `Permit ${job.permit.number}.`,
      ),
    )
  const { units: linked, left } = linkOf(job)
  if (Object.keys({ ...linked, ...left }).length)
    items.push(
      auto(
        'installer',
        'The installer is taken off every device',
        units.flatMap((unit) => (linked[unit.id] && !excused(unit.boxId) ? [unit.name || unit.serial] : [])),
        'Taken off each; the link holds no key of this home any more.',
      ),
    )
  const { band } = pairingOf(job)
  if (band) items.push(auto('band', 'The 5 GHz band is back on', [`paused by ${band.initials}`], ''))
  const byButton = Object.values(automationOf(job).routines).flatMap(({ routine }) =>
    !routine.paused && routine.kind === 'rule' && routine.when.some(({ is }) => is === 'button') ? [routine.name] : [],
  )
  const shown = (id: string, text: string, why: string) => {
    const tick = job.ticks[id]
    const done = Boolean(tick)
    // Handed over before it was asked: nobody has to come back for it.
    if (done || !job.handedOverAt) items.push({ id, text, why, done, auto: false, ...(tick ? { tick } : {}) })
  }
  if (breakers.length)
    shown(
      'elsewhere',
      `Tried: everything else on ${list(breakers.map((breaker) => breakerName(site, breaker)))}`,
      'Sockets, other rooms, what is plugged in; clocks are set, and what waited is on again.',
    )
  if (site.schemeId === 'iec230' && breakers.length && !verified)
    shown(
      'verification',
      'Verified: every circuit that was worked on, and its paper handed over',
      'Measured here it is on the paper of this job; where another paper holds it, say so and tick.',
    )
  if (byButton.length) shown('scenes', 'Tried: each scene by its button', list(byButton))
  const batteries = batteriesIn(job)
  if (batteries.length)
    shown(
      'batteries',
      'Shown: each battery, and how it is changed',
      list(batteries.map(({ unit, battery, dueOn }) => `${unit.name || unit.serial}: ${battery || 'battery'}, by ${monthSaid(dueOn)}`)),
    )
  const drilled = drills.flatMap((one) => pairingOf(job).drills[one] ?? [])
  if (!drilled.length || drilled.some(({ voice }) => voice !== 'none'))
    shown(
      'voice',
      'Tried: each name spoken where the household stands, understood three times of three',
      'Another name or phrase where it is not. Nobody speaks to this home: say so to the customer, and tick.',
    )
  const models = points.flatMap((point) => mainModel(job, point) ?? [])
  const taught = [...new Map(units.map(({ model }) => [model.id, model])).values()]
  const gestures = taught.filter((model) => model.gestures.length).map((model) => `${model.name}: ${gesturesSaid(model).join(', ')}`)
  shown('wall', 'Shown: every wall control and its gestures', gestures.length ? `${gestures.join('. ')}.` : 'What a guest will do first.')
  if (models.some((model) => model.kind === 'dimmer'))
    shown('dim', 'Shown: dimming and the lowest step', 'Holding, tapping and the level it comes back to.')
  if (points.some((point) => point.controls.length > 1))
    shown('multiWay', 'Shown: both places of each {3-way}', 'The handle no longer tells whether it is on.')
  if (points.some((point) => point.load.technology === 'fan' || point.load.technology === 'motor'))
    shown('motor', 'Shown: fan or motor control', 'Pull chain stays on highest.')
  if (points.some((point) => point.mustRun))
    shown('mustRun', 'Agreed: how the must-run motor comes back on', 'It must not stay off after an outage.')
  if (units.some((unit) => unit.model.needsHub))
    shown('hub', 'Shown: where the hub is and that it stays plugged in', 'Without it nothing answers the app.')
  shown('app', 'Shown: the app on the customer’s own account', 'Account and home belong to the customer.')
  const tried = drills.flatMap((one) => {
    const drill = pairingOf(job).drills[one]
    return drill ? [`${drillWords[one]}: ${drillSaid(drill)}`] : []
  })
  shown(
    'noInternet',
    'Shown: what works without internet',
    tried.length ? `Tried here, ${tried.join('; ')}.` : 'Wall controls keep working; the app may not. Nobody has tried it here yet.',
  )
  const learnt = taught.filter(({ restart, reset }) => restart || reset)
  shown(
    'reset',
    'Shown: how each device is paired again, and what resets it',
    learnt.length
      ? learnt
          .map(({ name, restart, reset }) =>
            [`${name}.`, restart && `To start it anew: ${restart}`, reset && `It forgets everything: ${reset}`].filter(Boolean).join(' '),
          )
          .join(' ')
      : 'It differs from model to model; the pack says how for each.',
  )
  const members = Object.values(job.members ?? {})
  if (members.length)
    items.push(
      auto(
        'members',
        'Household members invited and accepted',
        members.flatMap(({ name, is }) => (is === 'invited' ? [`${name} has not accepted yet`] : [])),
        `${list(members.map(({ name }) => name))} accepted.`,
      ),
    )
  else shown('members', 'Household members invited and accepted', 'Note each of them here; where nobody else uses the app, tick.')
  const gone = installerGone(job, units)
  if (gone?.sure) items.push(auto('access', 'Installer’s own access removed and verified', [], gone.said))
  else shown('access', 'Installer’s own access removed and verified', gone?.said ?? 'Nobody of the crew can reach this home any more.')
  shown('labels', 'Labels on, {panel} directory updated', 'The next person at the {panel} relies on it.')
  const unregistered = units.filter((unit) => !job.warranties?.[unit.id])
  if (units.length && !unregistered.length)
    items.push(auto('warranty', 'Warranty registered', [], `${counted(units.length, 'device')}, each with its maker.`))
  else
    shown(
      'warranty',
      'Warranty registered',
      unregistered.length < units.length
        ? `Not yet: ${list(unregistered.map((unit) => unit.name || unit.serial))}. Tick where these need none.`
        : 'With the serials of this record; where no maker wants it, tick.',
    )
  return items
}

/**
 * What the devices themselves say of the installer: each that the crew ever joined was asked who is on it, and the installer is not.
 * @returns a sentence, and whether it is proof: of two homes on one device the other one may be somebody’s of the crew; or null
 * where nothing is known, without the link, or where a device was never asked
 */
function installerGone(job: JobState, units: readonly Unit[]): { said: string; sure: boolean } | null {
  const paired = units.filter((unit) => unit.model.setupCode !== 'none')
  const { units: held, left } = linkOf(job)
  if (!paired.length || paired.some(({ id }) => held[id] || typeof left[id]?.homesLeft !== 'number')) return null
  const homes = paired.map(({ id }) => left[id]!.homesLeft!)
  const [least, most] = [Math.min(...homes), Math.max(...homes)]
  const seen = `By the list of each device itself: the installer was on ${paired.length === 1 ? 'it' : `all ${paired.length}`} before and on none after; ${least === most ? counted(most, 'home is', 'homes are') : `${least} to ${most} homes are`} left.`
  return most > 1 ? { said: `${seen} See in their app that each is the household’s, then tick.`, sure: false } : { said: seen, sure: true }
}

/** Has anything the customer signed for changed since? */
export function signatureIsCurrent(job: JobState): boolean {
  return job.signature !== null && job.signature.seq > job.materialSeq
}

/** What still keeps the handover from being completed, in sentences. Empty: it may be completed. */
export function handoverObstacles(job: JobState, site: SiteState): string[] {
  const obstacles = handoverChecklist(job, site)
    .filter((item) => !item.done)
    .map((item) => (item.auto ? `${item.text}: ${item.why}` : item.text))
  if (!job.signature) obstacles.push('The customer has not signed.')
  else if (!signatureIsCurrent(job)) obstacles.push('Something has changed since the customer signed. Sign again.')
  else {
    const missing = openDefects(job).filter((defect) => !job.signature!.acceptedDefectIds.includes(defect.id))
    if (missing.length) obstacles.push(`The customer has not signed for: ${list(missing.map((defect) => defect.text))}`)
  }
  return obstacles
}
