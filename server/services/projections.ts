import type { Transaction } from 'sequelize'
import { jobCounts, jobStatus, type JobState } from '../../core/job'
import { boxName, breakerName, type OpenAlarm, type SiteState } from '../../core/site'
import { database } from '../database'

/** Where a stream's rows belong. */
export interface Place {
  companyId: string
  branchId: string
}

const time = (iso: string | null) => (iso === null ? null : new Date(iso))

/** Room and box, in words. */
function whereIs(site: SiteState, boxId: string): string {
  const box = site.boxes[boxId]
  return box ? `${site.rooms[box.roomId]?.name ?? ''}, ${box.name}`.slice(0, 200) : ''
}

function rowsOf(job: JobState, site: SiteState, place: Place) {
  const base = { companyId: place.companyId, branchId: place.branchId, jobId: job.jobId, siteId: job.siteId }
  return {
    visits: Object.values(job.visits).map(
      ({ id, kind, status, callbackId, startsAt, endsAt, windowFrom, windowTo, arrivedAt, finishedAt }) => ({
        id,
        kind,
        status,
        callbackId,
        ...base,
        startsAt: new Date(startsAt),
        endsAt: new Date(endsAt),
        windowFrom: new Date(windowFrom),
        windowTo: new Date(windowTo),
        arrivedAt: time(arrivedAt),
        finishedAt: time(finishedAt),
      }),
    ),
    units: Object.values(job.units).map(({ id, boxId, gang, serial, name, removedTo, model, installedAt, removedAt }) => ({
      id,
      boxId,
      gang,
      place: whereIs(site, boxId),
      serial,
      name,
      removedTo,
      ...base,
      model: `${model.maker} ${model.name}`,
      installedAt: new Date(installedAt),
      removedAt: time(removedAt),
    })),
    callbacks: Object.values(job.callbacks).map(({ id, unitId, what, status, causeKind, remedy, openedAt, closedAt }) => ({
      id,
      unitId,
      what,
      status,
      causeKind,
      remedy,
      ...base,
      openedAt: new Date(openedAt),
      closedAt: time(closedAt),
    })),
    visitPeople: Object.values(job.visits).map((visit) => ({
      id: visit.id,
      people: visit.personIds.map((personId, position) => ({ visitId: visit.id, personId, position })),
    })),
  }
}

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
export async function projectCounts(job: JobState, site: SiteState, transaction: Transaction): Promise<void> {
  const { points, passed, failed, openDefects } = jobCounts(job, site)
  await database().models.jobs.update(
    { status: jobStatus(job), points, passed, failed, openDefects },
    { where: { id: job.jobId }, transaction },
  )
}

/**
 * Rows of a job that follow from its record, written in the transaction that stores the events.
 * @param before the record as it was projected last, or null when nothing of it is projected yet
 */
export async function projectJob(
  before: JobState | null,
  job: JobState,
  site: SiteState,
  place: Place,
  transaction: Transaction,
): Promise<void> {
  const { models } = database()
  await projectCounts(job, site, transaction)
  const old = before ? rowsOf(before, site, place) : null
  const now = rowsOf(job, site, place)
  const visits = changesOf(old?.visits ?? [], now.visits)
  await models.visits.bulkCreate(visits.created, { transaction })
  for (const row of visits.changed) await models.visits.update(row, { where: { id: row.id }, transaction })
  const crews = changesOf(old?.visitPeople ?? [], now.visitPeople)
  if (crews.changed.length) await models.visitPeople.destroy({ where: { visitId: crews.changed.map((crew) => crew.id) }, transaction })
  await models.visitPeople.bulkCreate(
    [...crews.created, ...crews.changed].flatMap((crew) => crew.people),
    { transaction },
  )
  const units = changesOf(old?.units ?? [], now.units)
  await models.units.bulkCreate(units.created, { transaction })
  for (const row of units.changed) await models.units.update(row, { where: { id: row.id }, transaction })
  const callbacks = changesOf(old?.callbacks ?? [], now.callbacks)
  await models.callbacks.bulkCreate(callbacks.created, { transaction })
  for (const row of callbacks.changed) await models.callbacks.update(row, { where: { id: row.id }, transaction })
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
export async function projectSite(before: SiteState | null, site: SiteState, place: Place, transaction: Transaction): Promise<void> {
  const { models } = database()
  const old = before ? siteRows(before, place) : null
  const now = siteRows(site, place)
  const where = { siteId: site.siteId }
  const differs = (part: keyof typeof now) => JSON.stringify(old?.[part]) !== JSON.stringify(now[part])
  if (differs('tags')) {
    await models.hangingTags.destroy({ where, transaction })
    await models.hangingTags.bulkCreate(now.tags, { transaction })
  }
  if (differs('solo')) {
    await models.soloWatches.destroy({ where, transaction })
    await models.soloWatches.bulkCreate(now.solo, { transaction })
  }
  if (differs('alarms')) {
    await models.openAlarms.destroy({ where, transaction })
    await models.openAlarms.bulkCreate(now.alarms, { transaction })
  }
}
