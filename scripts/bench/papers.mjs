// npm run bench:papers: how long others wait while papers are made, on a demo that runs (--url=http://127.0.0.1:4600).
// The same requests without any paper are the baseline of the same run.
import { say } from '../lib/host.mjs'

const url = process.argv.find((one) => one.startsWith('--url='))?.slice(6) ?? 'http://127.0.0.1:4600'
const login = await fetch(`${url}/api/auth/login`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ login: 'odo.reed', password: 'tide-and-lantern' }),
})
if (!login.ok) throw new Error(`Nobody logs in at ${url}: ${login.status}`)
const cookie = login.headers.getSetCookie()[0].split(';')[0]
const get = async (path) => {
  const began = performance.now()
  const answer = await fetch(url + path, { headers: { cookie } })
  const bytes = await answer.arrayBuffer()
  if (!answer.ok) throw new Error(`${path}: ${answer.status}`)
  return { took: performance.now() - began, bytes }
}
const { jobs } = JSON.parse(Buffer.from((await get('/api/jobs')).bytes).toString())
const loft = jobs.find(({ siteName }) => siteName === 'The Net Loft').id
const quantile = (list, share) => list.toSorted((a, b) => a - b)[Math.min(list.length - 1, Math.floor(share * list.length))]

/** Asks one light question after the other, with a pause between, until something is done. */
async function others(until) {
  const took = []
  let over = false
  void until.finally(() => (over = true))
  while (!over) {
    took.push((await get('/api/auth/me')).took)
    await new Promise((go) => setTimeout(go, 20))
  }
  return took
}
await get(`/api/jobs/${loft}/pack`)
const quiet = await others(new Promise((go) => setTimeout(go, 3000)))
say(`others, nothing else: p95 ${quantile(quiet, 0.95).toFixed(0)} ms`)
for (const count of [6, 20]) {
  const began = performance.now()
  const packs = Promise.all(Array.from({ length: count }, () => get(`/api/jobs/${loft}/pack`)))
  const took = await others(packs)
  await packs
  const [p95, worst] = [quantile(took, 0.95), Math.max(...took)]
  say(
    `${p95 <= 100 ? 'ok  ' : 'MISS'} others, while ${count} packs are made in ${((performance.now() - began) / 1000).toFixed(1)} s: p95 ${p95.toFixed(0)} ms (wanted 100), the longest ${worst.toFixed(0)} ms, ${took.length} answers`,
  )
}
