import { batteryOf, devicesOut, failedInShop, jobCounts, linkedUnits, jobStatus, pairingOf, radioOf, type JobState } from '../../core/job'
import { boxName, breakerName, type OpenAlarm, type SiteState } from '../../core/site'
import { partNeeds } from '../../core/stock/needs'
import { neutralsFound } from '../../core/survey/neutral-prior'
import { deleteRows, insertRows, updateRows, type Statement } from '../database/statements'
import { hangingTags, openAlarms, soloWatches } from '../database/tables/safety'
import { homeFinds } from '../database/tables/homes'
import { partNeeds as partNeedRows, stockMoves } from '../database/tables/stock'
import type { StockMoveRow } from '../database/tables/stock'
import { callbacks, devicesOut as devicesOutRows, pairings, preparedUnits, units, visitPeople, visits } from '../database/tables/work'

/** Where a stream's rows belong. */
export interface Place {
  companyId: string
  branchId: string
}

const time = (iso: string | null) => (iso === null ? null : new Date(iso))

/** Room and box, in words. */
export function whereIs(site: SiteState, boxId: string): string {
  const box = site.boxes[boxId]
  return box ? `${site.rooms[box.roomId]?.name ?? ''}, ${box.name}`.slice(0, 200) : ''
}

function rowsOf(job: JobState, site: SiteState, place: Place) {
  const base = { companyId: place.companyId, branchId: place.branchId, jobId: job.jobId, siteId: job.siteId }
  return {
    visits: Object.values(job.visits).map(
      ({
        id,
        kind,
        status,
        callbackId,
        startsAt,
        endsAt,
        windowFrom,
        windowTo,
        setOffAt = null,
        expectedAt = null,
        arrivedAt,
        finishedAt,
      }) => ({
        id,
        kind,
        status,
        callbackId,
        ...base,
        startsAt: new Date(startsAt),
        endsAt: new Date(endsAt),
        windowFrom: new Date(windowFrom),
        windowTo: new Date(windowTo),
        setOffAt: time(setOffAt),
        expectedAt: time(expectedAt),
        arrivedAt: time(arrivedAt),
        finishedAt: time(finishedAt),
      }),
    ),
    units: Object.values(job.units).map((unit) => {
      const { id, boxId, gang, serial, name, removedTo, model, installedAt, removedAt } = unit
      return {
        ...{ id, boxId, gang, serial, name, removedTo, ...base },
        place: whereIs(site, boxId),
        model: `${model.maker} ${model.name}`,
        installedAt: new Date(installedAt),
        removedAt: time(removedAt),
        // One that is out is nobody’s to change any more.
        batteryDue: removedAt ? null : (batteryOf(job, unit)?.dueOn ?? null),
      }
    }),
    callbacks: Object.values(job.callbacks).map(({ id, unitId, what, status, causeKind, remedy, openedAt, closedAt, call, ...found }) => ({
      id,
      unitId,
      what,
      status,
      causeKind,
      remedy,
      ...base,
      openedAt: new Date(openedAt),
      closedAt: time(closedAt),
      causeId: found.causeId,
      cause: found.cause,
      payer: found.payer,
      callBackOn: found.told && status === 'told' ? found.told.callBackOn : null,
      danger: Boolean(call?.flags.length),
      said: call && JSON.stringify({ symptoms: call.symptoms, answers: call.answers, tried: call.tried }),
    })),
    needs: partNeeds(job).map(({ articleId, sold, picked, used }) => ({
      id: articleId,
      row: { jobId: job.jobId, articleId, companyId: place.companyId, branchId: place.branchId, sold, picked, used },
    })),
    moves: movesOf(job, place),
    prepared: Object.values(job.prepared).map((unit) => ({
      jobId: job.jobId,
      serial: unit.serial,
      companyId: place.companyId,
      branchId: place.branchId,
      failed: failedInShop(unit) ? unit.note : null,
      madeAt: new Date(unit.madeAt),
    })),
    out: devicesOut(job).map(({ serial, callbackId, model, goes, stage, dueOn, reference, outcome, creditCents, outAt }) => ({
      ...{ serial, callbackId, ...base, goes, stage, dueOn, reference, outcome, creditCents },
      model: `${model.maker} ${model.name}`,
      outAt: new Date(outAt),
    })),
    pairings: Object.entries(pairingOf(job).joined).flatMap(([unitId, { cause, seconds }]) => {
      const unit = job.units[unitId]
      if (!unit) return []
      const row = { companyId: place.companyId, branchId: place.branchId, jobId: job.jobId, modelId: unit.model.id, radio: radioOf(unit) }
      return [{ unitId, ...row, cause, seconds }]
    }),
    visitPeople: Object.values(job.visits).map((visit) => ({
      id: visit.id,
      people: visit.personIds.map((personId, position) => ({ visitId: visit.id, personId, position })),
    })),
  }
}

/**
 * What was moved for a job, as rows of the stock. What was in the hand although the record had none is counted as found first:
 * no place ever has less than nothing.
 */
function movesOf(job: JobState, { companyId, branchId }: Place) {
  return job.partMoves.flatMap((move) => {
    const { moveId, articleId, quantity, as, fromId, toId, inHand, at, by } = move
    const row = { companyId, branchId, articleId, quantity, jobId: job.jobId, personId: by, note: '', at: new Date(at) }
    return [
      ...(inHand ? [{ ...row, id: foundId(moveId), fromPlaceId: null, toPlaceId: fromId, kind: 'found' as const }] : []),
      { ...row, id: moveId, fromPlaceId: fromId, toPlaceId: toId, kind: as },
    ]
  })
}
/** An id of its own that follows from the move it belongs to. */
const foundId = (moveId: string) => `${moveId.slice(0, 14)}8${moveId.slice(15)}`
/** Levels as new moves change them. */
export const levelStatements = (moves: ReturnType<typeof movesOf>[number][] | StockMoveRow[]): Statement[] =>
  moves.flatMap(({ companyId, branchId, articleId, fromPlaceId, toPlaceId, quantity }) =>
    (
      [
        [fromPlaceId, -quantity],
        [toPlaceId, quantity],
      ] as const
    ).flatMap(([placeId, change]) =>
      placeId
        ? [
            {
              sql: 'INSERT INTO stock_levels (place_id, article_id, company_id, branch_id, quantity) VALUES (?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE quantity = quantity + VALUES(quantity)',
              values: [placeId, articleId, companyId, branchId, change],
            },
          ]
        : [],
    ),
  )

/**
 * Splits rows into those to create and those to change. There is no upsert on purpose: ids come from clients, and an
 * upsert would overwrite whichever row of whichever company has the same id or serial. A new row that meets a foreign
 * one makes the insert fail, and the command with it.
 */
function changesOf<R extends { id: string }>(before: R[], after: R[]): { created: R[]; changed: R[] } {
  const known = new Map(before.map((row) => [row.id, JSON.stringify(row)]))
  return {
    created: after.filter((row) => !known.has(row.id)),
    changed: after.filter((row) => known.has(row.id) && known.get(row.id) !== JSON.stringify(row)),
  }
}

/** What the lists say of a job: its status, and how many points pass. */
export function countStatement(job: JobState, site: SiteState): Statement {
  const { points, passed, failed, openDefects } = jobCounts(job, site)
  return {
    sql: 'UPDATE jobs SET status = ?, points = ?, passed = ?, failed = ?, open_defects = ?, handed_over_at = ? WHERE id = ?',
    values: [jobStatus(job), points, passed, failed, openDefects, time(job.handedOverAt), job.jobId],
  }
}

/** No device of a job carries the installer: its key is thrown away, except while something is asked of the link. */
export const emptyFabric = (jobId: string): Statement => ({
  sql: "UPDATE device_fabrics SET emptied_at = ?, seal = '' WHERE job_id = ? AND emptied_at IS NULL AND NOT EXISTS (SELECT 1 FROM link_asks WHERE job_id = ? AND state IN ('waiting', 'taken'))",
  values: [new Date(), jobId, jobId],
})

/**
 * Rows of a job that follow from its record, to be written in the transaction that stores the events.
 * @param before the record as it was projected last, or null when nothing of it is projected yet
 */
export function jobStatements(before: JobState | null, job: JobState, site: SiteState, place: Place): Statement[] {
  const old = before ? rowsOf(before, site, place) : null
  const now = rowsOf(job, site, place)
  const visitChanges = changesOf(old?.visits ?? [], now.visits)
  const crews = changesOf(old?.visitPeople ?? [], now.visitPeople)
  const unitChanges = changesOf(old?.units ?? [], now.units)
  const callbackChanges = changesOf(old?.callbacks ?? [], now.callbacks)
  const moved = changesOf(old?.moves ?? [], now.moves).created
  const needed = JSON.stringify(old?.needs ?? []) !== JSON.stringify(now.needs)
  const paired = JSON.stringify(old?.pairings ?? []) !== JSON.stringify(now.pairings)
  const out = JSON.stringify(old?.out ?? []) !== JSON.stringify(now.out)
  const prepared = JSON.stringify(old?.prepared ?? []) !== JSON.stringify(now.prepared)
  return [
    countStatement(job, site),
    ...(before && linkedUnits(before).length && !linkedUnits(job).length ? [emptyFabric(job.jobId)] : []),
    ...insertRows(visits, visitChanges.created),
    ...updateRows(visits, visitChanges.changed),
    ...deleteRows(
      visitPeople,
      'visitId',
      crews.changed.map(({ id }) => id),
    ),
    ...insertRows(
      visitPeople,
      [...crews.created, ...crews.changed].flatMap(({ people }) => people),
    ),
    ...insertRows(units, unitChanges.created),
    ...updateRows(units, unitChanges.changed),
    ...insertRows(callbacks, callbackChanges.created),
    ...updateRows(callbacks, callbackChanges.changed),
    ...insertRows(stockMoves, moved),
    ...levelStatements(moved),
    ...(prepared ? [...deleteRows(preparedUnits, 'jobId', [job.jobId]), ...insertRows(preparedUnits, now.prepared)] : []),
    ...(out ? [...deleteRows(devicesOutRows, 'jobId', [job.jobId]), ...insertRows(devicesOutRows, now.out)] : []),
    ...(paired ? [...deleteRows(pairings, 'jobId', [job.jobId]), ...insertRows(pairings, now.pairings)] : []),
    ...(needed ? deleteRows(partNeedRows, 'jobId', [job.jobId]) : []),
    ...(needed
      ? insertRows(
          partNeedRows,
          now.needs.map(({ row }) => row),
        )
      : []),
  ]
}

/** What homes wired alike are judged by; of a home of which nothing is known yet there is no row. */
const findsOf = (site: SiteState, base: { companyId: string; branchId: string; siteId: string }) => {
  const finds = neutralsFound(site)
  const { builder } = site.home
  return finds.length || builder
    ? [{ ...base, builder, neutrals: finds.filter((find) => find !== 'none').length, opened: finds.length }]
    : []
}

const siteRows = (site: SiteState, { companyId, branchId }: Place) => {
  const base = { companyId, branchId, siteId: site.siteId }
  return {
    tags: Object.values(site.tags).map((tag) => ({
      id: tag.id,
      ...base,
      breakerId: tag.breakerId,
      breakerNumber: site.breakers[tag.breakerId]?.number ?? '',
      personId: tag.personId,
      initials: tag.initials,
      lockName: tag.lock,
      hungAt: new Date(tag.hungAt),
    })),
    solo: Object.values(site.solo).map(({ personId, name, contact, dueAt }) => ({
      ...base,
      personId,
      name,
      contact,
      dueAt: new Date(dueAt),
    })),
    finds: findsOf(site, base),
    alarms: Object.values(site.alarms).map((alarm) => ({
      ...base,
      personId: alarm.personId,
      seq: alarm.seq,
      what: alarm.what,
      reportedBy: alarm.by,
      place: placeOf(site, alarm),
      at: new Date(alarm.at),
      shownAt: time(alarm.shownAt),
    })),
  }
}

/** Where an alarm's hands may be, and the breaker it is about: what somebody reads who has not opened the job. */
function placeOf(site: SiteState, alarm: OpenAlarm): string {
  const breaker = alarm.breakerId ? site.breakers[alarm.breakerId] : undefined
  const boxes = alarm.boxIds.flatMap((id) => (site.boxes[id] ? [boxName(site, site.boxes[id])] : []))
  return [...(breaker ? [breakerName(site, breaker)] : []), ...boxes].join(', ').slice(0, 200)
}

/**
 * Rows of a site that follow from its energy record: what did not change is left alone.
 * @param before the record as it was projected last, or null when nothing of it is projected yet
 */
export function siteStatements(before: SiteState | null, site: SiteState, place: Place): Statement[] {
  const old = before ? siteRows(before, place) : null
  const now = siteRows(site, place)
  const differs = (part: keyof typeof now) => JSON.stringify(old?.[part]) !== JSON.stringify(now[part])
  const here = [site.siteId]
  return [
    ...(differs('tags') ? [...deleteRows(hangingTags, 'siteId', here), ...insertRows(hangingTags, now.tags)] : []),
    ...(differs('solo') ? [...deleteRows(soloWatches, 'siteId', here), ...insertRows(soloWatches, now.solo)] : []),
    ...(differs('finds') ? [...deleteRows(homeFinds, 'siteId', here), ...insertRows(homeFinds, now.finds)] : []),
    ...(differs('alarms') ? [...deleteRows(openAlarms, 'siteId', here), ...insertRows(openAlarms, now.alarms)] : []),
  ]
}
