// Behind a proxy with TLS, by the example configuration of docs/operations.md: nginx of Debian, a certificate of one's own.
import { once } from 'node:events'
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { request } from 'node:https'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { endProcess, find, freePort, root, sleep, spawn, spawnSync } from '../../lib/host.mjs'
import { startServer } from '../../lib/server.mjs'
import { envelopeOf, jobsOf, logIn } from './crew.mjs'

const name = 'circuitry.example'

/** One request over TLS, to the proxy, under the name people know. @returns status, headers and body as text */
function ask({ port, ca }, { method = 'GET', path, headers = {}, body }) {
  return new Promise((resolve, reject) => {
    const asked = request(
      { host: '127.0.0.1', servername: name, port, ca, method, path, headers: { host: `${name}:${port}`, ...headers } },
      (answer) => {
        const pieces = []
        answer.on('data', (piece) => pieces.push(piece))
        answer.on('end', () => resolve({ status: answer.statusCode, headers: answer.headers, text: Buffer.concat(pieces).toString() }))
      },
    )
    asked.setTimeout(20_000, () => asked.destroy(new Error(`${path}: no answer`)))
    asked.on('error', reject)
    asked.end(body)
  })
}
/** The live feed until it was heard what is waited for, or too long. @returns what was heard */
function hear({ port, ca }, cookie, wanted, meanwhile) {
  return new Promise((resolve, reject) => {
    let heard = ''
    let said = false
    const asked = request(
      { host: '127.0.0.1', servername: name, port, ca, path: '/api/feed', headers: { host: `${name}:${port}`, cookie } },
      (answer) =>
        answer.on('data', (piece) => {
          heard += piece
          if (!said && heard.includes('event: hello')) {
            said = true
            meanwhile().catch(reject)
          }
          if (heard.includes(wanted)) end()
        }),
    )
    const late = setTimeout(() => end(), 10_000)
    const end = () => {
      clearTimeout(late)
      asked.destroy()
      resolve(heard)
    }
    asked.on('error', (error) => (heard ? resolve(heard) : reject(error)))
    asked.end()
  })
}

export async function behindAProxy(urls, env) {
  if (!find('nginx')) return { tried: 0, survived: 0, wrong: [], skipped: 'nginx is not installed' }
  const folder = mkdtempSync(join(tmpdir(), 'circuitry-proxy-'))
  const [plain, port] = [await freePort(), await freePort()]
  const wrong = []
  let tried = 0
  const agree = (good, what) => {
    tried++
    if (!good) wrong.push(what)
  }
  const key = [
    'req',
    '-x509',
    '-newkey',
    'rsa:2048',
    '-nodes',
    '-days',
    '2',
    '-subj',
    `/CN=${name}`,
    '-addext',
    `subjectAltName=DNS:${name}`,
  ]
  spawnSync('openssl', [...key, '-keyout', join(folder, 'privkey.pem'), '-out', join(folder, 'fullchain.pem')], { stdio: 'ignore' })
  const ca = readFileSync(join(folder, 'fullchain.pem'))
  const origin = `https://${name}:${port}`
  const server = await startServer({
    port: await freePort(),
    env: { ...env, CIRCUITRY_ORIGIN: origin, CIRCUITRY_TRUSTED_PROXIES: '1' },
    quiet: true,
  })
  let proxy = null
  try {
    // The file as it is in the guide, but for ports and places.
    const example = readFileSync(join(root, 'docs', 'examples', 'nginx.conf'), 'utf8')
    const site = example
      .replace('listen 80;', `listen 127.0.0.1:${plain};`)
      .replace('listen 443 ssl http2;', `listen 127.0.0.1:${port} ssl http2;`)
      .replace(`https://${name}$request_uri`, `${origin}$request_uri`)
      .replaceAll('/etc/ssl/circuitry', folder)
      .replace('127.0.0.1:4620', new URL(server.url).host)
      .replace('Host $host;', 'Host $http_host;')
    mkdirSync(join(folder, 'temp'))
    const temp = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map((one) => `${one}_temp_path ${join(folder, 'temp', one)};`)
    writeFileSync(join(folder, 'site.conf'), site)
    writeFileSync(
      join(folder, 'nginx.conf'),
      `${process.getuid() === 0 ? 'user root;' : ''} daemon off; pid ${join(folder, 'pid')}; error_log ${join(folder, 'error')}; events {} http { access_log off; ${temp.join(' ')} include ${join(folder, 'site.conf')}; }`,
    )
    const child = spawn(find('nginx'), ['-e', join(folder, 'error'), '-c', join(folder, 'nginx.conf')], {
      stdio: ['ignore', 'ignore', 'pipe'],
    })
    proxy = child.pid
    let said = ''
    child.stderr.on('data', (text) => (said += text))
    const line = { port, ca }
    for (let waited = 0; ; waited += 100) {
      const up = await ask(line, { path: '/api/ready' }).catch(() => null)
      if (up?.status === 200) break
      if (waited > 10_000 || child.exitCode !== null) throw new Error(`nginx does not serve: ${said}${up?.text ?? ''}`)
      await sleep(100)
    }
    const turned = await fetch(`http://127.0.0.1:${plain}/day?x=1`, { redirect: 'manual', headers: { host: name } })
    agree(turned.status === 301 && turned.headers.get('location') === `${origin}/day?x=1`, 'plain http is not sent on')

    const credentials = { login: 'odo.reed', password: 'tide-and-lantern' }
    const logInFrom = (from) =>
      ask(line, {
        method: 'POST',
        path: '/api/auth/login',
        headers: { 'content-type': 'application/json', ...(from ? { origin: from } : {}) },
        body: JSON.stringify(credentials),
      })
    const inside = await logInFrom(origin)
    const cookies = inside.headers['set-cookie'] ?? []
    agree(inside.status === 200, `login over TLS: ${inside.status}`)
    agree(cookies.length > 0 && cookies.every((one) => /;\s*secure/i.test(one)), 'a cookie goes over plain http, too')
    agree(/max-age=\d{8}/.test(inside.headers['strict-transport-security'] ?? ''), 'browsers are not told to stay on TLS')
    for (const other of ['https://evil.example', `http://${name}:${port}`, 'https://127.0.0.1', 'null']) {
      const refused = await logInFrom(other)
      agree(refused.status === 403 && refused.text.includes(origin), `a page of ${other} may log in: ${refused.status}`)
    }
    const page = await ask(line, { path: '/login' })
    agree(page.status === 200 && page.headers['strict-transport-security'], 'the page itself does not say to stay on TLS')
    agree(!/http:\/\/(?!www\.w3\.org)/.test(page.text), 'the page names something over plain http')

    const cookie = cookies.map((one) => one.split(';')[0]).join('; ')
    const people = await logIn(urls[0])
    const [job] = await jobsOf(urls[0], people[3], ['Ferry Office'])
    const envelope = envelopeOf('site', job.siteId, {
      type: 'observeBreaker',
      breakerId: job.breakers[0],
      state: 'closed',
      how: 'found',
      note: '',
    })
    const began = Date.now()
    const heard = await hear(line, cookie, envelope.id, async () => {
      const answer = await ask(line, {
        method: 'POST',
        path: '/api/commands',
        headers: { cookie, origin, 'content-type': 'application/json' },
        body: JSON.stringify(envelope),
      })
      agree(answer.status === 200, `a command over TLS: ${answer.status} ${answer.text.slice(0, 200)}`)
    })
    agree(heard.includes(envelope.id) && Date.now() - began < 8000, 'the live feed does not come through at once')

    const large = await ask(line, {
      method: 'POST',
      path: `/api/jobs/${job.jobId}/photos?id=${envelope.id}`,
      headers: { cookie, origin, 'content-type': 'image/jpeg' },
      body: Buffer.alloc(9_000_000, 7),
    })
    agree(
      large.status === 413 && large.text.startsWith('{'),
      `a picture that is too large is refused by the proxy: ${large.status} ${large.text.slice(0, 200)}`,
    )

    const strange = await startServer({
      port: await freePort(),
      env: { ...env, CIRCUITRY_ORIGIN: 'circuitry.example' },
      quiet: true,
      errorLog: join(folder, 'errors'),
    }).catch(() => null)
    await strange?.stop()
    agree(!strange && readFileSync(join(folder, 'errors'), 'utf8').includes('CIRCUITRY_ORIGIN must be'), 'an address that is none is taken')
    child.kill('SIGQUIT')
    if (child.exitCode === null) await Promise.race([once(child, 'exit'), sleep(3000)])
    return { tried, survived: tried - wrong.length, wrong }
  } finally {
    if (proxy) await endProcess(proxy).catch(() => undefined)
    await server.stop()
    rmSync(folder, { recursive: true, force: true })
  }
}
