import type { NitroApp } from 'nitropack'

/** Work to finish before the first request is answered. A failure ends the process: better no server than a wrong one. */
let starting: Promise<void> = Promise.resolve()

export const serverIsReady = () => starting

export function definePlugin(start: (nitro: NitroApp) => Promise<void>): (nitro: NitroApp) => void {
  return (nitro) => {
    starting = start(nitro)
    starting.catch((error: unknown) => {
      console.error('Circuitry could not start:', error)
      process.exit(1)
    })
  }
}
