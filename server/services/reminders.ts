import { DateTime } from 'luxon'
import { Op } from 'sequelize'
import { v5 as uuidFrom } from 'uuid'
import { letterOf } from '../../core/dispatch'
import type { BodyOf, promises } from '../../core/protocol'
import { regionOf } from '../../core/units'
import { branchFor, type Viewer } from './access'
import { rulesOf } from './branch-rules'
import { readContact, sendMessage } from './messages'
import { visitsWithCrew } from './visits'

/**
 * Reminds who is expected on a day. A visit that was moved since is reminded of anew: the id of a reminder follows from the visit
 * and what was promised.
 * @param origin Where this program is reached by customers.
 */
export async function remind(
  viewer: Viewer,
  { branchId, date, checkOnly }: BodyOf<typeof promises.remind>,
  origin: string,
  now = new Date(),
) {
  const branch = await branchFor(viewer, branchId)
  const midnight = DateTime.fromISO(date, { zone: branch.timezone }).startOf('day')
  const visits = await visitsWithCrew({
    companyId: viewer.companyId,
    branchId,
    status: 'planned',
    startsAt: { [Op.gte]: midnight.toJSDate(), [Op.lt]: midnight.plus({ days: 1 }).toJSDate() },
    windowTo: { [Op.gt]: now },
  })
  const region = regionOf({ timezone: branch.timezone, schemeId: branch.schemeId, settings: rulesOf(branch) })
  const done = { reminded: 0, already: 0, unreachable: [] as string[] }
  for (const visit of visits) {
    const id = uuidFrom(`reminder ${visit.windowFrom.toISOString()} ${visit.windowTo.toISOString()}`, visit.id)
    const contact = await readContact(viewer, visit.id)
    const body = letterOf('reminder', { ...contact, link: `${origin}${contact.link}`, expectedAt: null, region })
    // By this, or by hand in the same words.
    const known = contact.messages.some(
      (one) => one.id === id || (one.purpose === 'reminder' && one.state !== 'failed' && one.body === body),
    )
    if (known) done.already++
    else if (!contact.phone && !contact.email) done.unreachable.push(visit.site.name)
    else {
      if (!checkOnly)
        await sendMessage(
          viewer,
          visit.id,
          { id, purpose: 'reminder', channel: contact.phone ? 'sms' : 'mail', body, window: null, offers: [] },
          now,
        )
      done.reminded++
    }
  }
  return done
}
