// What is built runs by itself: no package, no font and no source beside it.
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { endProcess, freePort, root, sleep, spawn } from '../../lib/host.mjs'
import { get, logIn } from './crew.mjs'

export async function builtRunsAlone(urls, env) {
  const folder = mkdtempSync(join(tmpdir(), 'circuitry-alone-'))
  const wrong = []
  const port = await freePort()
  cpSync(join(root, '.output'), join(folder, '.output'), { recursive: true, verbatimSymlinks: true })
  const server = spawn(process.execPath, [join('.output', 'server', 'index.mjs')], {
    cwd: folder,
    env: {
      PATH: process.env.PATH,
      ...env,
      CIRCUITRY_MIGRATE: 'no',
      NODE_ENV: 'production',
      NITRO_HOST: '127.0.0.1',
      NITRO_PORT: String(port),
    },
    stdio: 'ignore',
  })
  const url = `http://127.0.0.1:${port}`
  const alive = () =>
    fetch(`${url}/api/ready`).then(
      (answer) => answer.ok,
      () => false,
    )
  try {
    for (let waited = 0; waited < 60_000 && !(await alive()); waited += 200) await sleep(200)
    const lead = (await logIn(url))[3]
    const { jobs } = await get(url, lead, '/api/jobs')
    const job = jobs.find((one) => one.siteName === 'Quay Loft 4')
    const answer = await fetch(`${url}/api/jobs/${job.id}/pack`, { headers: { cookie: lead.cookie } })
    const begins = Buffer.from(await answer.arrayBuffer())
      .subarray(0, 5)
      .toString('latin1')
    if (begins !== '%PDF-') wrong.push(`a paper is not made: ${answer.status} ${begins}`)
    const page = await (await fetch(url)).text()
    if (!page.includes('_nuxt')) wrong.push('the page is not there')
    return { tried: 2, survived: 2 - wrong.length, wrong }
  } finally {
    await endProcess(server.pid)
    rmSync(folder, { recursive: true, force: true })
  }
}
