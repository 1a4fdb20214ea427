// npm run bench:pairing: how long it takes to say which device is paired first, and how far the advice brings a device that does not pair.
import { say } from '../lib/host.mjs'
import { bundled } from './bundled.mjs'
import { baseline, timed } from './timed.mjs'

const { Chance, pairingOrder, playPairing } = await bundled(
  'pairing',
  `export { Chance } from './core/chance'
  export * from './core/commission/pairing'
  export { playPairing } from './core/commission/pairing/testing/stubborn-devices'`,
)
const frameMs = 50
for (const [size, breakers] of [
  [5, 2],
  [11, 1],
  [11, 4],
  [60, 4],
]) {
  const devices = Array.from({ length: size }, (_, at) => ({
    ...{ id: `d${at}`, joins: 2, left: 1 + ((at * 7) % 15), window: [10, 12, 15][at % 3] },
    ...{ restartsAlone: at % 3 === 0, breakerId: `b${at % breakers}` },
  }))
  const ms = timed(() => pairingOrder(devices))
  const { now, restarted, cycles } = pairingOrder(devices)
  say(
    `${ms <= frameMs ? 'ok  ' : 'MISS'} ${size} devices behind ${breakers}: ${ms.toFixed(1)} ms (wanted ${frameMs}; ${(ms / baseline).toFixed(2)} × the baseline of ${baseline.toFixed(0)} ms), ${now.length} in time, ${restarted.length} started anew, ${cycles.length} cycles`,
  )
}
const chance = new Chance(5)
const played = Array.from({ length: 4000 }, () => playPairing(chance))
const share = (fits) => `${((100 * played.filter(fits).length) / played.length).toFixed(0)} %`
const mean = (what) => (played.reduce((sum, one) => sum + one[what], 0) / played.length).toFixed(1)
say(
  `     4,000 devices that do not pair: ${share(({ rescued, steps }) => rescued && steps <= 1)} after one step, ${share(({ rescued, steps }) => rescued && steps <= 2)} after two, ${share(({ rescued }) => rescued)} in the end; ${mean('minutes')} minutes each, ${mean('byList')} by a list that is always the same`,
)
