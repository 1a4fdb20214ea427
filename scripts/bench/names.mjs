// npm run bench:names: how long the names of a home take to be listened to, and how long better ones take.
import { say } from '../lib/host.mjs'
import { bundled } from './bundled.mjs'
import { baseline, timed } from './timed.mjs'

const { Chance, dictionary, findingsOf, pronounceBy, renameHome } = await bundled(
  'names',
  `export { Chance } from './core/chance'
  export * from './core/names'
  export { dictionary } from 'cmu-pronouncing-dictionary'`,
)
const pronounce = pronounceBy(dictionary)
const rooms = ['Hall', 'Kitchen', 'Net loft', 'Sail room', 'Tide room', 'Porch', 'Cellar', 'Attic', 'Office', 'Print shop', 'Nook', 'Barn']
const points = ['window light', 'wall light', 'ceiling light', 'desk light', 'shelf light']
/** @param mess share of devices whose name was never thought about */
function home(size, mess) {
  const chance = new Chance(size)
  return Array.from({ length: size }, (_, index) => {
    const room = rooms[index % rooms.length]
    const point = points[Math.floor(index / rooms.length) % points.length]
    const careless = chance.is(0.5) ? `switch ${index}` : `${room} light`
    return {
      id: String(index),
      room,
      point,
      at: chance.pick(['door', 'arch', 'stair head']),
      thing: 'light',
      name: chance.is(mess) ? careless : `${room} ${point}`,
    }
  })
}
for (const [what, mess] of [
  ['well named', 0],
  ['a tenth never thought about', 0.1],
  ['all never thought about', 1],
]) {
  const places = home(60, mess)
  const { renames, left } = renameHome(places, pronounce)
  const [heard, better] = [timed(() => findingsOf(places, pronounce)), timed(() => renameHome(places, pronounce))]
  say(
    `${heard + better <= 200 ? 'ok  ' : 'MISS'} 60 devices, ${what}: ${heard.toFixed(0)} + ${better.toFixed(0)} ms (wanted 200 together; ${((heard + better) / baseline).toFixed(1)} × the baseline of ${baseline.toFixed(0)} ms), ${renames.length} renamed, ${left.length} left`,
  )
}
