import { getCookie, getRequestHeader, getRequestIP, setCookie, type H3Event } from 'h3'
import { v4 as uuid } from 'uuid'
import { deviceMark, hasMark } from '../services/links'
import { overTls } from './public-origin'
import type { Caller } from '../services/sessions'

const name = 'circuitry-known'
/** So many people are known on one device, the last ones, and for so long, days. */
const [mostPeople, days] = [12, 180]

function marksIn(event: H3Event): { deviceId: string; marks: string[] } {
  const [deviceId, ...marks] = (getCookie(event, name) ?? '').split('.')
  return deviceId && /^[0-9a-f-]{36}$/.test(deviceId) ? { deviceId, marks: marks.slice(0, mostPeople) } : { deviceId: uuid(), marks: [] }
}

/**
 * Where a request comes from. Behind proxies of one’s own (CIRCUITRY_TRUSTED_PROXIES, how many stand before the server) it is what
 * the outermost of them has seen: what the caller itself wrote stands further left, and is not believed.
 */
export function addressOf(event: H3Event): string {
  const socket = getRequestIP(event) ?? 'unknown'
  const proxies = Number(process.env.CIRCUITRY_TRUSTED_PROXIES ?? 0)
  if (!(proxies > 0)) return socket
  const seen = (getRequestHeader(event, 'x-forwarded-for') ?? '').split(',').map((one) => one.trim())
  return seen.at(-proxies) || socket
}

/** Who asks to be let in: from where, and whether somebody has been logged in on this device before. */
export function callerOf(event: H3Event): Caller {
  const { deviceId, marks } = marksIn(event)
  return { address: addressOf(event), knows: (personId) => (hasMark(marks, personId, deviceId) ? deviceId : null) }
}
/** Somebody was let in: their next tries on this device are not those of the whole world. */
export function remember(event: H3Event, personId: string): void {
  const { deviceId, marks } = marksIn(event)
  const mark = deviceMark(personId, deviceId)
  const all = [mark, ...marks.filter((one) => one !== mark)].slice(0, mostPeople)
  setCookie(event, name, [deviceId, ...all].join('.'), {
    httpOnly: true,
    sameSite: 'lax',
    path: '/api/auth',
    secure: overTls(),
    maxAge: days * 86_400,
  })
}
