import type { NitroApp } from 'nitropack'
import { databaseSettings } from '../database/connection'
import { Hints } from '../realtime/hints'
import { hub } from '../realtime/hub'

/** Of several servers each says when it has committed something, where there is a service for that. */
export default (nitro: NitroApp) => {
  const url = process.env.CIRCUITRY_HINTS
  if (!url) return
  if (!/^rediss?:\/\/./.test(url)) throw new Error('CIRCUITRY_HINTS is an address such as redis://127.0.0.1:6379.')
  const hints = new Hints(url, databaseSettings().name, (companyId) => hub.look(companyId))
  hub.tellOthers = (companyId) => hints.say(companyId)
  hints.start()
  nitro.hooks.hook('close', () => hints.stop())
}
