import { typedHours, typedNumber } from './index'

test.each([
  ['4.5', 4.5],
  ['4,5', 4.5],
  [' 12 ', 12],
  ['−67,5', -67.5],
  ['–67.5', -67.5],
  ['-67', -67],
  ['', NaN],
  ['seven', NaN],
  ['1,2,3', NaN],
])('%p is %p', (text, value) => expect(typedNumber(text)).toBe(value))

test.each([
  ['2', 2],
  ['4,5', 4.5],
  ['4:30', 4.5],
  ['4h15', 4.25],
  ['3 h', 3],
  ['4:75', NaN],
  ['soon', NaN],
])('%p is %p hours', (text, value) => expect(typedHours(text)).toBe(value))
