import type { SiteCommand, SiteState } from '../../core/site'
import { database, type PersonRow } from '../database'
import { isLicensed, viewerOf, type Viewer } from './access'
import { giveToSite, publish } from './write-command'
import { readState } from './streams'

/** What the company's register says now of people and testers, and a site's record does not know yet. */
function news(site: SiteState, people: Map<string, PersonRow>, failed: Map<string, { name: string; failedWhy: string }>): SiteCommand[] {
  const commands: SiteCommand[] = []
  const proofs = Object.values(site.proofs).filter((proof) => proof.status !== 'void')
  for (const [instrumentId, { name, failedWhy }] of failed)
    if (!(instrumentId in site.failedInstruments) && proofs.some((proof) => proof.instrumentId === instrumentId))
      commands.push({ type: 'noteInstrumentFailed', instrumentId, name, why: failedWhy })
  const counted = proofs.flatMap((proof) => [
    ...(proof.proverLicensed ? [proof.personId] : []),
    ...proof.witnesses.filter((witness) => witness.licensed).map((witness) => witness.personId),
  ])
  for (const personId of new Set(counted)) {
    const person = people.get(personId)
    if (person && isLicensed(person) && person.active) continue
    commands.push({
      type: 'notePerson',
      personId,
      licensed: person !== undefined && isLicensed(person),
      role: person?.role ?? 'apprentice',
      active: Boolean(person?.active),
    })
  }
  return commands
}

/**
 * Licences that ended and testers that failed end what rests on them, in every home where somebody works. Given after
 * the change itself has been stored, and once more when a server starts: nothing is left out, and twice does no harm.
 * @param by whose change it was; without one, a lead of the company stands for it
 */
export async function reconcileSites(companyId: string, by: Viewer | null = null, now = new Date()): Promise<void> {
  const { models } = database()
  const busy = await models.hangingTags.findAll({ where: { companyId }, attributes: ['siteId'], group: ['siteId'], raw: true })
  if (busy.length === 0) return
  const people = new Map((await models.people.findAll({ where: { companyId }, raw: true })).map((person) => [person.id, person]))
  const testers = await models.instruments.findAll({ where: { companyId, outOfService: true }, raw: true })
  const failed = new Map(testers.map(({ id, name, failedWhy }) => [id, { name, failedWhy }]))
  const lead = [...people.values()].find((person) => person.role === 'lead' && person.active)
  const viewer = by ?? (lead ? await viewerOf(lead) : null)
  if (!viewer) return
  for (const { siteId } of busy) {
    const commands = news(await readState('site', siteId), people, failed)
    const site = commands.length ? await models.sites.findByPk(siteId) : null
    for (const command of site ? commands : []) publish(companyId, [await giveToSite(site!, viewer, command, { basedOnSeq: 0, now })])
  }
}
