import { meterReading } from './meter-reading'

test.each([
  ['120.4', 120.4],
  ['-0.3', 0.3],
  ['+000120.4', 120.4],
  ['120,4 V', 120.4],
  ['120.4VAC', 120.4],
  ['118 mV', 0.118],
  ['118mV DC', 0.118],
  // Each of these, read without what follows the digits, would be a dead conductor.
  ['0.120 kV', 120],
  ['0.12k', 120],
  ['1.204E+02', 120.4],
  ['1.204e2 V', 120.4],
  ['.4', 0.4],
])('volts: %s', (text, volts) => expect(meterReading(text, 'V')).toBe(volts))
test.each([
  ['0.4', 0.4],
  ['0.4 Ω', 0.4],
  ['1.2 kΩ', 1200],
  ['2.0M', 2e6],
  ['2.0 Mohm', 2e6],
  ['OL', Infinity],
  ['0L', Infinity],
  ['.OL MΩ', Infinity],
  ['O.L', Infinity],
  ['>OL', Infinity],
])('ohms: %s', (text, ohms) => expect(meterReading(text, 'Ω')).toBe(ohms))
test('milliohms', () => expect(meterReading('350 mΩ', 'Ω')).toBe(0.35))
test.each(['', 'OL', '0.2 A', '12 Ω', '120.4 MV', 'SN-7001', '120.4 121.0', '1.2.3', '120V4', 'LoZ', 'e5', '12 Hz', '0.2 V 0.3 V'])(
  'no volts: %s',
  (text) => expect(meterReading(text, 'V')).toBeNull(),
)
test.each(['', '12 V', '0.4 A', '72 °F', 'beep', 'MT:Y.K9042'])('no ohms: %s', (text) => expect(meterReading(text, 'Ω')).toBeNull())
