// Entries of the feed and what they stand for: nobody ever hears of one without the other, on whichever server they listen.
import { envelopeOf, get, give, Listener } from './crew.mjs'

/**
 * @param urls of servers: commands go to the first, each is listened to
 * @param wanted so many entries of the feed
 * @returns tried, and a sentence for each that came without its events, or did not come
 */
export async function wholeEntries(urls, lead, wanted, together = 24) {
  const { jobs } = await get(urls[0], lead, '/api/jobs')
  const targets = jobs.map(({ id }) => ({ jobId: id, siteId: null, done: false, busy: false }))
  const listeners = urls.map((url) => new Listener([url], lead, targets))
  await Promise.all(listeners.map((one) => one.ready))
  const wrong = []
  const last = new Map()
  let accepted = 0
  const worker = async (index) => {
    for (let at = index; accepted < wanted; at += together) {
      const target = targets[at % targets.length]
      const command = { type: 'tickHandover', itemId: 'wall', done: (target.done = !target.done), rests: 'seen', photoId: null, note: '' }
      const { outcome } = await give([urls[0]], lead, envelopeOf('job', target.jobId, command, { basedOnSeq: 0, jobSeq: null }))
      if (outcome.status !== 'accepted') continue
      accepted++
      last.set(target.jobId, Math.max(last.get(target.jobId) ?? 0, outcome.seq))
    }
  }
  await Promise.all(Array.from({ length: together }, (_, index) => worker(index)))
  const whole = ({ seen }) => [...last].every(([id, seq]) => seen.get(id).at(-1) >= seq)
  for (let waited = 0; waited < 20_000 && !listeners.every(whole); waited += 100) await new Promise((go) => setTimeout(go, 100))
  let heard = 0
  for (const [index, one] of listeners.entries()) {
    if (one.bare) wrong.push(`server ${index + 1} told ${one.bare} entries without their events`)
    for (const [id, seq] of last) {
      const seen = one.seen.get(id)
      heard += seen.length
      if (seen.at(-1) !== seq || !seen.every((each, at) => each === seen[0] + at))
        wrong.push(`server ${index + 1} left entries of ${id} out`)
    }
  }
  await Promise.all(listeners.map((one) => one.close()))
  return { tried: accepted, wrong, note: `${heard} entries heard over ${urls.length} servers` }
}
