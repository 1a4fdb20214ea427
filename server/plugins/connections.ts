import type { NitroApp } from 'nitropack'
import { serverIsReady } from '../http/plugin'
import { beatEveryMs, connections } from '../services/connections'

/** Of several servers each says that it is there, and misses those that are not. */
export default (nitro: NitroApp) => {
  const beat = setInterval(() => void serverIsReady().then(() => connections.beat().catch(() => undefined)), beatEveryMs)
  beat.unref()
  nitro.hooks.hook('close', () => clearInterval(beat))
}
