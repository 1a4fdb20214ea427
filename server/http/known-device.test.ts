import { IncomingMessage, ServerResponse } from 'node:http'
import { Socket } from 'node:net'
import { createEvent } from 'h3'
import { v7 as uuid } from 'uuid'
import { addressOf, callerOf, remember } from './known-device'

function request(headers: Record<string, string> = {}) {
  const incoming = new IncomingMessage(new Socket())
  Object.assign(incoming.headers, headers)
  Object.defineProperty(incoming.socket, 'remoteAddress', { value: '10.9.9.9' })
  const response = new ServerResponse(incoming)
  return { event: createEvent(incoming, response), response }
}
const cookieOf = ({ response }: ReturnType<typeof request>) => String(response.getHeader('set-cookie')).split(';')[0]!

describe('where a request comes from', () => {
  const before = process.env.CIRCUITRY_TRUSTED_PROXIES
  afterEach(() => {
    if (before === undefined) delete process.env.CIRCUITRY_TRUSTED_PROXIES
    else process.env.CIRCUITRY_TRUSTED_PROXIES = before
  })
  test.each([
    // Nobody stands before the server: what a caller writes of itself is not believed.
    [undefined, '1.2.3.4', '10.9.9.9'],
    ['0', '1.2.3.4', '10.9.9.9'],
    ['nonsense', '1.2.3.4', '10.9.9.9'],
    // One proxy: it appends what it saw.
    ['1', '1.2.3.4', '1.2.3.4'],
    ['1', '6.6.6.6, 1.2.3.4', '1.2.3.4'],
    ['2', '6.6.6.6, 1.2.3.4, 10.0.0.2', '1.2.3.4'],
    ['2', '1.2.3.4', '10.9.9.9'],
    ['1', '', '10.9.9.9'],
  ])('%s proxies, %p: %s', (proxies, said, address) => {
    if (proxies === undefined) delete process.env.CIRCUITRY_TRUSTED_PROXIES
    else process.env.CIRCUITRY_TRUSTED_PROXIES = proxies
    expect(addressOf(request({ 'x-forwarded-for': said }).event)).toBe(address)
  })
})

test('a device is known for those who logged in on it, by a mark that nobody makes', () => {
  const [anna, ben] = [uuid(), uuid()]
  const first = request()
  remember(first.event, anna)
  const cookie = cookieOf(first)
  const knows = (said: string, personId: string) => callerOf(request({ cookie: said }).event).knows(personId)
  expect([knows(cookie, anna) !== null, knows(cookie, ben), knows('', anna)]).toEqual([true, null, null])
  const second = request({ cookie })
  remember(second.event, ben)
  const both = cookieOf(second)
  expect(knows(both, anna)).toBe(knows(both, ben))
  expect(knows(both, anna)).toBe(knows(cookie, anna))
  // Turned, cut, of another device, or made up.
  const [name, value] = both.split('=') as [string, string]
  const [deviceId, ...marks] = value.split('.')
  for (const forged of [
    `${deviceId}.${marks[0]}x`,
    `${uuid()}.${marks.join('.')}`,
    `${deviceId}.${anna}`,
    `.${marks.join('.')}`,
    'x'.repeat(5000),
  ])
    expect([forged.slice(0, 60), knows(`${name}=${forged}`, ben)]).toEqual([forged.slice(0, 60), null])
})
