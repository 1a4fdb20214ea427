import { overTls, saidOrigin } from './public-origin'

const before = process.env.CIRCUITRY_ORIGIN
afterAll(() => {
  if (before === undefined) delete process.env.CIRCUITRY_ORIGIN
  else process.env.CIRCUITRY_ORIGIN = before
})
const said = (origin: string) => {
  process.env.CIRCUITRY_ORIGIN = origin
  return saidOrigin()
}
test('where people come over TLS is read when the server runs; what is no origin stops it', () => {
  expect([said(''), overTls()]).toEqual([null, false])
  expect([said('https://circuitry.example'), overTls()]).toEqual(['https://circuitry.example', true])
  expect([said('https://circuitry.example/'), overTls()]).toEqual(['https://circuitry.example', true])
  expect([said('http://van.example:8080'), overTls()]).toEqual(['http://van.example:8080', false])
  for (const odd of [
    'circuitry.example',
    'https://circuitry.example/day',
    'ftp://circuitry.example',
    'https://a.example https://b.example',
  ])
    expect(() => said(odd)).toThrow(/CIRCUITRY_ORIGIN/)
})
