import { awayKinds, awayWords, vanOf, type AwayKind } from '../../core/dispatch'
import { atServer } from '../../core/site'
import { DateTime } from 'luxon'
import { Op, type Transaction } from 'sequelize'
import { deviceModelSchema, type DeviceModel } from '../../core/fit'
import { findingsOf, judgePlan, type JobCommand, type JobContext } from '../../core/job'
import type { SiteCommand, SiteContext, SiteState } from '../../core/site'
import { regionOf, shortMomentOf } from '../../core/units'
import { database, joined, type JobRow, type PersonRow, type SiteRow, type VisitRow } from '../database'
import { actorOf, type Viewer } from './access'
import { articleOf } from './article-rows'
import { saidBeforePutBack } from './installation'
import { namedByOthers } from './other-names'
import { seal, unseal } from './secrets'
import { readState } from './streams'
import type { Asked } from './asked'
import type { BranchRules } from './branch-rules'
import { visitsWithCrew } from './visits'

/** Is this person on a planned or running visit at a site (or of a job), or a lead? */
export type OnCrew = (viewer: Viewer, where: { siteId: string } | { jobId: string }) => boolean
/** Who is on a planned or running visit at these sites: for all commands of a group at once. */
export async function crewOf(viewers: Viewer[], siteIds: string[], transaction: Transaction): Promise<OnCrew> {
  const people = [...new Set(viewers.filter(({ role }) => role !== 'lead').map(({ personId }) => personId))]
  const rows = people.length
    ? await joined<{ personId: string; visit: VisitRow }>(database().models.visitPeople, {
        where: { personId: people },
        include: [{ association: 'visit', where: { siteId: siteIds, status: ['planned', 'onSite'] }, attributes: ['siteId', 'jobId'] }],
        transaction,
      })
    : []
  return ({ role, personId }, where) =>
    role === 'lead' ||
    rows.some(
      (row) => row.personId === personId && ('siteId' in where ? row.visit.siteId === where.siteId : row.visit.jobId === where.jobId),
    )
}

/** How long before and after its times a visit still counts as today's, hours. Common practice, no source. */
const visitMarginHours = 12
/** Is this person on a visit of this site that is due now, or under way? Leads too: a title is no presence. */
async function isOnVisit(viewer: Viewer, siteId: string, now: Date, transaction: Transaction): Promise<boolean> {
  const { models } = database()
  const mine = await models.visitPeople.findAll({ where: { personId: viewer.personId }, attributes: ['visitId'], transaction, raw: true })
  const margin = visitMarginHours * 3_600_000
  return (
    (await models.visits.count({
      where: {
        siteId,
        id: mine.map((row) => row.visitId),
        [Op.or]: [
          { status: 'onSite' },
          {
            status: 'planned',
            startsAt: { [Op.lt]: new Date(now.getTime() + margin) },
            endsAt: { [Op.gt]: new Date(now.getTime() - margin) },
          },
        ],
      },
      transaction,
    })) > 0
  )
}

/** The instrument a command needs to know of. */
function instrumentOf(command: SiteCommand, state: SiteState): string | null {
  if (command.type === 'startProof') return command.instrumentId
  if (command.type === 'finishProof') return state.proofs[command.proofId]?.instrumentId ?? null
  return command.type === 'recordCause' && 'again' in command.cause ? command.cause.again.instrumentId : null
}

async function catalogueModels(companyId: string, ids: string[], transaction: Transaction): Promise<Map<string, DeviceModel>> {
  const rows = ids.length
    ? await database().models.models.findAll({ where: { id: ids, companyId, active: true }, transaction, raw: true })
    : []
  return new Map(rows.map(({ id, data }) => [id, deviceModelSchema.parse(JSON.parse(data))]))
}

/** What a decision about a site needs from outside. */
export async function siteContext(
  { viewer, row: site, envelope, settings, now }: Asked,
  command: SiteCommand,
  state: SiteState,
  onCrew: OnCrew,
  transaction: Transaction,
): Promise<SiteContext> {
  const instrumentId = instrumentOf(command, state)
  const instrument = instrumentId
    ? await database().models.instruments.findOne({
        where: { id: instrumentId, companyId: site.companyId, active: true },
        transaction,
        raw: true,
      })
    : null
  const installed =
    command.type === 'retireBox' || command.type === 'correctBox'
      ? await database().models.units.findAll({
          where: { siteId: site.id, boxId: command.boxId, removedAt: null },
          attributes: ['gang'],
          transaction,
          raw: true,
        })
      : []
  return {
    installedGangs: () => installed.map(({ gang }) => gang),
    actor: actorOf(viewer),
    today: DateTime.fromJSDate(now, { zone: settings.timezone }).toISODate()!,
    onCrew: onCrew(viewer, { siteId: site.id }),
    onVisit: command.type === 'witnessProof' && (await isOnVisit(viewer, site.id, now, transaction)),
    everyPair: settings.proofEveryPair,
    // Nobody has seen what is not there yet.
    basedOnSeq: saidBeforePutBack(envelope.at) ? 0 : Math.min(envelope.basedOnSeq, state.seq),
    heldMs: envelope.heldMs,
    ...atServer(now.toISOString(), settings.proofLimitMinutes),
    instrument: (id) =>
      instrument && instrument.id === id
        ? {
            name: instrument.name,
            serial: instrument.serial,
            kind: instrument.kind,
            calibrationDue: String(instrument.calibrationDue),
            lowestStepVolts: instrument.lowestStepVolts,
            outOfService: Boolean(instrument.outOfService),
            provedGoodAt: instrument.provedGoodAt?.toISOString() ?? null,
          }
        : null,
  }
}

type Visiting = Extract<JobCommand, { type: 'scheduleVisit' | 'moveVisit' | 'moveVisitForCustomer' }>
const isVisiting = (command: JobCommand): command is Visiting =>
  command.type === 'scheduleVisit' || command.type === 'moveVisit' || command.type === 'moveVisitForCustomer'
/** Other visits of the people of a visit at its time; their rows are held by whoever asks. */
async function bookedElsewhere(
  command: Visiting,
  job: JobRow,
  rules: BranchRules,
  together: ReadonlySet<string>,
  transaction: Transaction,
): Promise<JobContext['bookedElsewhere']> {
  const rows = await joined<{ person: PersonRow; visit: VisitRow & { site: SiteRow } }>(database().models.visitPeople, {
    where: { personId: command.personIds },
    include: [
      'person',
      {
        association: 'visit',
        where: {
          id: { [Op.notIn]: [command.visitId, ...together] },
          status: ['planned', 'onSite'],
          startsAt: { [Op.lt]: new Date(command.endsAt) },
          endsAt: { [Op.gt]: new Date(command.startsAt) },
        },
        include: ['site'],
      },
    ],
    order: [['visit', 'startsAt', 'ASC']],
    limit: 6,
    transaction,
  })
  const region = regionOf({ ...rules, settings: rules })
  const at = (moment: Date) => shortMomentOf(moment.toISOString(), region)
  const away = await database().models.requests.findAll({
    where: {
      personId: command.personIds,
      kind: [...awayKinds],
      state: 'approved',
      startsAt: { [Op.lt]: new Date(command.endsAt) },
      endsAt: { [Op.gt]: new Date(command.startsAt) },
    },
    order: [['startsAt', 'ASC']],
    limit: 6,
    transaction,
    raw: true,
  })
  const names = away.length
    ? await database().models.people.findAll({ where: { id: away.map(({ personId }) => personId) }, transaction, raw: true })
    : []
  return [
    ...away.map(({ personId, kind, startsAt, endsAt }) => ({
      name: names.find(({ id }) => id === personId)?.name ?? 'Somebody',
      what: awayWords[kind as AwayKind],
      from: at(startsAt),
      to: at(endsAt),
      away: true as const,
    })),
    ...rows.map(({ person, visit }) => ({ name: person.name, what: visit.site.name, from: at(visit.startsAt), to: at(visit.endsAt) })),
    ...(await vanElsewhere(command, job, together, transaction)).map(({ name, visit }) => ({
      name,
      what: visit.site.name,
      from: at(visit.startsAt),
      to: at(visit.endsAt),
    })),
  ]
}

/** The van of who leads a visit, on a visit of others at its time; two crews may come to one home in it. */
async function vanElsewhere(command: Visiting, job: JobRow, together: ReadonlySet<string>, transaction: Transaction) {
  const { models } = database()
  const drivesOf = (ids: string[]) => models.people.findAll({ where: { id: ids }, attributes: ['id', 'vanId'], transaction, raw: true })
  const vanId = vanOf(command.personIds, await drivesOf(command.personIds))
  if (!vanId) return []
  const [van, drivers] = await Promise.all([
    models.stockPlaces.findByPk(vanId, { transaction, raw: true }),
    models.people.findAll({ where: { vanId }, attributes: ['id'], transaction, raw: true }),
  ])
  const theirs = await models.visitPeople.findAll({
    where: { personId: drivers.map(({ id }) => id).filter((id) => !command.personIds.includes(id)) },
    attributes: ['visitId'],
    include: [
      {
        association: 'visit',
        attributes: [],
        where: {
          siteId: { [Op.ne]: job.siteId },
          status: ['planned', 'onSite'],
          startsAt: { [Op.lt]: new Date(command.endsAt) },
          endsAt: { [Op.gt]: new Date(command.startsAt) },
        },
      },
    ],
    transaction,
    raw: true,
  })
  const ids = theirs.map(({ visitId }) => visitId).filter((id) => id !== command.visitId && !together.has(id))
  if (!ids.length) return []
  const visits = await visitsWithCrew({ id: ids }, transaction)
  const idsOf = ({ crew }: (typeof visits)[number]) => crew.map(({ personId }) => personId)
  const people = await drivesOf(visits.flatMap(idsOf))
  return visits.filter((visit) => vanOf(idsOf(visit), people) === vanId).map((visit) => ({ name: van?.name ?? 'Their van', visit }))
}

/** What the other jobs of a home have at the boxes that are to be reshaped. */
async function boxesElsewhere(command: JobCommand, job: JobRow, transaction: Transaction) {
  const asked = command.type === 'mergeBoxes' ? [command.intoId, command.fromId] : command.type === 'splitBox' ? [command.boxId] : []
  const found = { installed: new Set<string>(), otherJobs: new Map<string, number>() }
  if (asked.length === 0) return found
  const { models } = database()
  const units = await models.units.findAll({
    where: { siteId: job.siteId, boxId: asked, removedAt: null },
    attributes: ['boxId'],
    transaction,
    raw: true,
  })
  for (const { boxId } of units) found.installed.add(boxId)
  const others = await models.jobs.findAll({
    where: { siteId: job.siteId, id: { [Op.ne]: job.id }, status: { [Op.ne]: 'handedOver' } },
    attributes: ['id'],
    transaction,
    raw: true,
  })
  for (const { id } of others) {
    const { boxIds } = await readState('job', id)
    for (const boxId of asked) if (boxIds.includes(boxId)) found.otherJobs.set(boxId, (found.otherJobs.get(boxId) ?? 0) + 1)
  }
  return found
}

/**
 * Places, articles and levels that a move of parts, or a device that is recorded, looks at. The level is held until the move is
 * stored: of two who take the last one, one gets it.
 */
async function stockFor(command: JobCommand, job: JobRow, transaction: Transaction): Promise<JobContext['stock']> {
  const { models } = database()
  const move = command.type === 'movePart' ? command : null
  const placeIds = move ? [move.fromId, ...(move.toId ? [move.toId] : [])] : []
  const places = placeIds.length
    ? await models.stockPlaces.findAll({ where: { id: placeIds, companyId: job.companyId, active: true }, transaction, raw: true })
    : []
  const articles = move
    ? await models.articles.findAll({
        where: { id: move.articleId, companyId: job.companyId, branchId: job.branchId },
        transaction,
        raw: true,
      })
    : []
  // A device that is recorded uses what was picked for this job, from the van it was picked onto.
  const picked =
    command.type === 'recordUnit'
      ? await models.stockMoves.findAll({
          where: { jobId: job.id, kind: 'pick' },
          attributes: ['articleId', 'toPlaceId'],
          transaction,
          raw: true,
        })
      : []
  const asked = move
    ? [{ placeId: move.fromId, articleId: move.articleId }]
    : picked.flatMap(({ articleId, toPlaceId }) => (toPlaceId ? [{ placeId: toPlaceId, articleId }] : []))
  const levels = asked.length
    ? await models.stockLevels.findAll({
        where: { [Op.or]: asked },
        order: ['placeId', 'articleId'],
        transaction,
        lock: transaction.LOCK.UPDATE,
        raw: true,
      })
    : []
  return {
    place: (id) => places.find((one) => one.id === id)?.name ?? null,
    article: (id) => {
      const row = articles.find((one) => one.id === id)
      return row ? articleOf(row) : null
    },
    level: (placeId, articleId) => levels.find((one) => one.placeId === placeId && one.articleId === articleId)?.quantity ?? 0,
  }
}

/** What a decision about a job needs from outside. */
export async function jobContext(
  { viewer, row, envelope: { jobSeq, heldMs }, settings, now, together = new Set() }: Asked,
  command: JobCommand,
  site: SiteState,
  onCrew: OnCrew,
  transaction: Transaction,
): Promise<JobContext> {
  const job = row as JobRow
  const { models } = database()
  const modelIds =
    command.type === 'chooseDevice'
      ? [command.modelId]
      : command.type === 'sellPlan'
        ? [...new Set(command.solutions.flatMap(({ devices }) => devices.map(({ modelId }) => modelId)))]
        : []
  const chosen = await catalogueModels(job.companyId, modelIds, transaction)
  const photo = command.type === 'addPhoto' ? await models.photos.count({ where: { id: command.photoId, jobId: job.id }, transaction }) : 0
  const asked = isVisiting(command) ? command.personIds : []
  const drivers = asked.length ? await models.people.findAll({ where: { id: asked }, attributes: ['vanId'], transaction, raw: true }) : []
  const vans = drivers.flatMap(({ vanId }) => vanId ?? [])
  const known = asked.length
    ? await models.people.findAll({
        // A helper from another branch comes with the rights of that visit. Whoever drives the same van is held as well.
        where: { [Op.or]: [{ id: asked }, ...(vans.length ? [{ vanId: vans }] : [])], companyId: job.companyId, active: true },
        attributes: ['id'],
        // Held until the visit is stored, one after the other: two dispatchers cannot book one person in the same moment unhearing.
        order: [['id', 'ASC']],
        lock: transaction.LOCK.UPDATE,
        transaction,
        raw: true,
      })
    : []
  const names = command.type === 'nameUnit' ? await namedByOthers(job, transaction) : []
  const stock = await stockFor(command, job, transaction)
  const boxes = await boxesElsewhere(command, job, transaction)
  const serial = command.type === 'recordUnit' || command.type === 'replaceUnit' || command.type === 'prepareUnit' ? command.serial : null
  const [seenLast] = serial
    ? await models.preparedUnits.findAll({
        where: { companyId: job.companyId, serial },
        order: [['madeAt', 'DESC']],
        limit: 1,
        transaction,
        raw: true,
      })
    : []
  const used = serial ? await inUse(job.companyId, serial, transaction) : 0
  return {
    actor: actorOf(viewer),
    onCrew: onCrew(viewer, { jobId: job.id }),
    jobSeq,
    heldMs,
    site,
    method: settings,
    ...atServer(now.toISOString(), settings.proofLimitMinutes),
    model: (id) => chosen.get(id) ?? null,
    hasPhoto: () => photo > 0,
    isPerson: (id) => known.some((person) => person.id === id),
    bookedElsewhere: isVisiting(command) ? await bookedElsewhere(command, job, settings, together, transaction) : [],
    otherNames: names.map(({ name }) => name),
    serialInUse: (asking) => asking === serial && used > 0,
    failedAnywhere: (asking) => (asking === serial ? (seenLast?.failed ?? null) : null),
    elsewhereAt: (boxId) => ({ installed: boxes.installed.has(boxId), otherJobs: boxes.otherJobs.get(boxId) ?? 0 }),
    findings: findingsOf,
    judgePlan,
    stock,
    seal,
    unseal,
  }
}

/** How many devices have this serial: in a wall, or out and not back in stock. */
async function inUse(companyId: string, serial: string, transaction?: Transaction): Promise<number> {
  const { models } = database()
  const units = await models.units.findAll({
    where: { companyId, serial },
    attributes: ['jobId', 'serial', 'removedAt'],
    transaction,
    raw: true,
  })
  const out = units.some(({ removedAt }) => removedAt !== null)
    ? await models.devicesOut.findAll({ where: { companyId, serial, outcome: 'inStock' }, attributes: ['jobId'], transaction, raw: true })
    : []
  return units.filter(({ jobId, removedAt }) => removedAt === null || !out.some((one) => one.jobId === jobId)).length
}
