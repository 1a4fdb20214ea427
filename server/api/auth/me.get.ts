import { people } from '../../../core/protocol'
import { defineRoute } from '../../http/route'
import { sessionViewer } from '../../http/session'
import { backupFor } from '../../services/backups'
import { restoredLately } from '../../services/installation'
import { triedFor } from '../../services/own-password'

export default defineRoute(people.whoAmI, async ({ event }) => {
  const viewer = await sessionViewer(event)
  return {
    viewer,
    now: new Date().toISOString(),
    restored: viewer && restoredLately(),
    tried: viewer && (await triedFor(viewer.personId)),
    backup: viewer && (await backupFor(viewer)),
  }
})
