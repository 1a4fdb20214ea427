import { plateFor, type RowSlot } from './plates'

const model = { name: 'switch', ownPlate: false, oneGangOnly: false, gangsWide: 1, radio: 'wifi' as const }
const d: RowSlot = { is: 'device', model }
const own: RowSlot = { is: 'device', model: { ...model, name: 'glass dimmer', ownPlate: true } }
const single: RowSlot = { is: 'device', model: { ...model, name: 'deep dimmer', oneGangOnly: true } }
const wide: RowSlot = { is: 'device', model: { ...model, name: 'wide dimmer', gangsWide: 2 } }
const quiet: RowSlot = { is: 'device', model: { ...model, name: 'companion', radio: 'none' } }
const t: RowSlot = { is: 'old', opening: 'toggle' }
const s: RowSlot = { is: 'old', opening: 'duplex' }
const c: RowSlot = { is: 'old', opening: 'combined' }
const b: RowSlot = { is: 'blank' }

/** Twenty rows as they are met, listed by hand. Common practice, no source. */
test.each([
  ['one device', [d], 'standard', '1-gang, standard: rectangular', []],
  ['one with its own plate', [own], 'standard', 'its own, in the carton', []],
  ['one for a single gang', [single], 'standard', '1-gang, standard: rectangular', []],
  ['two devices', [d, d], 'standard', '2-gang, standard: rectangular', []],
  ['a device beside an old switch', [d, t], 'standard', '2-gang, standard: rectangular + toggle', []],
  ['a device beside a socket', [d, s], 'standard', '2-gang, standard: rectangular + socket', []],
  ['a device beside a blank', [d, b], 'standard', '2-gang, standard: rectangular + blank', []],
  ['old switches only', [t, t, t], 'standard', '3-gang, standard: toggle', []],
  ['three, mixed', [d, t, s], 'midSize', '3-gang, mid-size: rectangular + toggle + socket', []],
  ['four alike', [d, d, d, d], 'oversize', '4-gang, oversize: rectangular', []],
  ['four, mixed: to order', [d, t, t, d], 'standard', '4-gang, standard: rectangular + toggle + toggle + rectangular', []],
  ['its own plate in a row', [own, d], 'standard', null, [1]],
  ['its own plate at the end of a row', [t, d, own], 'standard', null, [3]],
  ['one for a single gang in a row', [d, single], 'standard', null, [2]],
  ['two that break it', [own, single], 'standard', null, [1, 2]],
  ['two gangs wide at the end', [d, wide], 'standard', null, [2]],
  ['switch and socket on one yoke, alone', [c], 'standard', '1-gang, standard: switch and socket', []],
  ['switch and socket beside a device', [d, c], 'standard', null, [2]],
  ['odd distances, a device in a row', [t, d], 'oddSpacing', null, [2]],
  ['odd distances, all old', [t, t], 'oddSpacing', '2-gang, as the old one: toggle', []],
] as const)('%s', (_, slots, kind, plate, broken) => {
  const answer = plateFor([...slots], kind)
  expect([answer.plate, answer.breaks.map(({ gang }) => gang)]).toEqual([plate, broken])
})
test('a metal plate before a radio is said, before one without it is not; a mixed plate of four is made to order', () => {
  expect(plateFor([d], 'metal').warnings).toHaveLength(1)
  expect(plateFor([quiet], 'metal').warnings).toEqual([])
  expect(plateFor([d, t, t, d]).warnings[0]).toMatch(/made to order/)
  expect(plateFor([d, d, d, d]).warnings).toEqual([])
})
