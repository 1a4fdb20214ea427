import { jest } from '@jest/globals'
import { v7 as uuid } from 'uuid'

jest.setTimeout(60_000)
const url = process.env.CIRCUITRY_TEST_URL!

interface Answer {
  status: number
  body: Record<string, unknown> & { error?: { code: string } }
}
async function logIn(login: string) {
  const answer = await fetch(`${url}/api/auth/login`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login, password: 'tide-and-lantern' }),
  })
  const cookie = answer.headers.getSetCookie()[0]!.split(';')[0]!
  /** Opens the live feed and goes away again, as a page does that is left while it loads. */
  const glance = async (milliseconds: number) => {
    const going = new AbortController()
    const opening = fetch(`${url}/api/feed`, { headers: { cookie }, signal: going.signal }).catch(() => null)
    await new Promise((resolve) => setTimeout(resolve, milliseconds))
    going.abort()
    await opening
  }
  const ask = async (path: string, body?: unknown): Promise<Answer> => {
    const given = await fetch(url + path, {
      method: body ? 'POST' : 'GET',
      headers: { cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
      body: body ? JSON.stringify(body) : undefined,
    })
    return { status: given.status, body: (await given.json()) as Answer['body'] }
  }
  return Object.assign(ask, { glance })
}
type Session = Awaited<ReturnType<typeof logIn>>
interface Site {
  siteId: string
  seq: number
  breakers: Record<string, { id: string; role: string; state: string }>
  tags: Record<string, { id: string; personId: string }>
  solo: Record<string, unknown>
}

let odo: Session, pip: Session
let jobId: string
const siteOf = async () => ((await odo(`/api/jobs/${jobId}`)).body as unknown as { siteState: Site }).siteState
const idOf = async (login: string) =>
  ((await odo('/api/people')).body.people as { id: string; login: string }[]).find((person) => person.login === login)!.id
async function give(who: Session, command: object, over: object = {}) {
  const { siteId, seq } = await siteOf()
  return who('/api/commands', {
    id: uuid(),
    stream: 'site',
    streamId: siteId,
    at: new Date().toISOString(),
    basedOnSeq: seq,
    command,
    ...over,
  })
}

beforeAll(async () => {
  odo = await logIn('odo.reed')
  pip = await logIn('pip.tarn')
  const { jobs } = (await odo('/api/jobs')).body as unknown as { jobs: { id: string; siteName: string }[] }
  jobId = jobs.find((job) => job.siteName === 'Lock Cottage')!.id
})

test('a PIN is set with the password, stands for its owner on a mate’s device, and rests after five wrong tries', async () => {
  expect((await pip('/api/me/pin', { password: 'not it', pin: '2468' })).body.error?.code).toBe('wrongPassword')
  expect((await pip('/api/me/pin', { password: 'tide-and-lantern', pin: '12' })).status).toBe(400)
  expect((await pip('/api/me/pin', { password: 'tide-and-lantern', pin: '2468' })).status).toBe(200)
  const personId = await idOf('pip.tarn')
  const breakerId = Object.values((await siteOf()).breakers).find((breaker) => breaker.role === 'branch')!.id
  await give(odo, { type: 'observeBreaker', breakerId, state: 'open', how: 'found', note: '' })
  const tagId = uuid()
  expect((await give(pip, { type: 'hangTag', tagId, breakerId, lock: 'PT green', measure: '' })).body.status).toBe('accepted')
  const takeOff = (pin: string) => give(odo, { type: 'removeTag', tagId }, { onBehalf: { personId, pin } })
  // Without the PIN it is somebody else's tag.
  expect((await give(odo, { type: 'removeTag', tagId })).body).toMatchObject({ status: 'refused', refusal: { code: 'notYourTag' } })
  expect((await takeOff('0000')).body.error?.code).toBe('wrongPin')
  expect((await takeOff('2468')).body.status).toBe('accepted')
  expect((await siteOf()).tags[tagId]).toBeUndefined()
  // What it may not be used for: hanging a tag is done by its owner.
  const hang = { type: 'hangTag', tagId: uuid(), breakerId, lock: 'PT green', measure: '' }
  expect((await give(odo, hang, { onBehalf: { personId, pin: '2468' } })).body.error?.code).toBe('notByPin')
  for (let tries = 0; tries < 5; tries++) expect((await takeOff('1111')).body.error?.code).toBe('wrongPin')
  expect((await takeOff('2468')).body.error?.code).toBe('pinLocked')
})

test('permissions do not come out of a queue; facts do, late', async () => {
  const breakerId = Object.values((await siteOf()).breakers).find((breaker) => breaker.role === 'branch')!.id
  const held = { heldMs: 600_000, at: new Date(Date.now() - 600_000).toISOString() }
  for (const command of [
    { type: 'requestClose', grantId: uuid(), breakerId, clearanceId: null },
    { type: 'askEnergise', askId: uuid(), breakerId, purpose: 'identify', note: '' },
    { type: 'startMeasuring', measureId: uuid(), boxId: uuid(), warnedIds: [] },
  ])
    expect((await give(odo, command, held)).body).toMatchObject({ status: 'refused', refusal: { code: 'onlineOnly' } })
  expect((await give(odo, { type: 'observeBreaker', breakerId, state: 'closed', how: 'found', note: '' }, held)).body.status).toBe(
    'accepted',
  )
})

test('who is at a site is seen by those who may see the site', async () => {
  const { siteId } = await siteOf()
  expect((await pip(`/api/sites/${siteId}/presence`, { place: 'panel' })).status).toBe(200)
  const { present } = (await odo(`/api/sites/${siteId}/presence`)).body as unknown as {
    present: { personId: string; place: string; connected: boolean }[]
  }
  expect(present.find((one) => one.place === 'panel')?.personId).toBe(await idOf('pip.tarn'))
  expect((await pip(`/api/sites/${siteId}/presence`, { place: 'the moon' })).status).toBe(400)
  expect((await pip(`/api/sites/${uuid()}/presence`, { place: 'walk' })).status).toBe(404)
})

test('a page that is left while it opens leaves nobody behind who seems to be there', async () => {
  const { siteId } = await siteOf()
  const pipId = await idOf('pip.tarn')
  for (let milliseconds = 0; milliseconds < 40; milliseconds++) await pip.glance(milliseconds)
  expect((await pip(`/api/sites/${siteId}/presence`, { place: 'walk' })).status).toBe(200)
  await pip.glance(300)
  const connected = async () =>
    ((await odo(`/api/sites/${siteId}/presence`)).body.present as { personId: string; connected: boolean }[]).find(
      (one) => one.personId === pipId,
    )?.connected
  for (let round = 0; round < 50 && (await connected()); round++) await new Promise((resolve) => setTimeout(resolve, 200))
  expect(await connected()).toBe(false)
})

test('somebody who works alone is watched by the clock of the server, and by everybody', async () => {
  const start = { type: 'startLoneWork', everyMinutes: 20, contact: 'Lena Moss' }
  expect((await give(pip, start)).body).toMatchObject({ status: 'refused', refusal: { code: 'licenceNeeded' } })
  expect((await give(odo, start)).body).toMatchObject({ status: 'accepted' })
  const due = async () =>
    ((await odo('/api/solo')).body as unknown as { watches: { siteName: string; name: string; dueAt: string }[] }).watches.find(
      (watch) => watch.siteName === 'Lock Cottage',
    )
  const first = (await due())!
  expect(Date.parse(first.dueAt) - Date.now()).toBeGreaterThan(15 * 60_000)
  expect((await give(odo, { type: 'checkIn' })).body.status).toBe('accepted')
  expect(Date.parse((await due())!.dueAt)).toBeGreaterThanOrEqual(Date.parse(first.dueAt))
  expect((await give(odo, { type: 'endLoneWork' })).body.status).toBe('accepted')
  expect(await due()).toBeUndefined()
})
