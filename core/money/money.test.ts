import fc from 'fast-check'
import { decimalOf, moneyIn, share, spreadDiscount, sumDocument, timesHalfEven, toStep, typedCents } from './index'

test('half to even: the textbook’s cases (IEEE 754-2019, 4.3.1 roundTiesToEven; figures from memory)', () => {
  // 2.5 → 2, 3.5 → 4, -2.5 → -2, -3.5 → -4, 2.5000001 → 3
  expect([250, 350, -250, -350].map((cents) => timesHalfEven(cents, 0.01))).toEqual([2, 4, -2, -4])
  expect(timesHalfEven(250, 0.010001)).toBe(3)
  expect(share(50, 500)).toBe(2)
  expect(share(70, 500)).toBe(4)
  expect([12, 13, 18, 2, 3, 7.5].map((cents) => toStep(cents, 5))).toEqual([10, 15, 20, 0, 5, 10])
  expect([25, 75, 125].map((cents) => toStep(cents, 50))).toEqual([0, 100, 100])
})

const rules = { taxes: [{ id: 'usual', name: 'tax', basisPoints: 825 }], taxBy: 'line' as const, roundToCents: 1 }
test('tax both ways: by line and by document differ by the rounding alone', () => {
  // Ten lines of 0.33: 8.25 % of each is 2.7225 → 3 cents, thirty together; of 3.30 at once it is 27.225 → 27.
  const lines = Array.from({ length: 10 }, () => ({ cents: 33, taxId: 'usual' }))
  expect(sumDocument(lines, rules)).toMatchObject({ netCents: 330, totalCents: 360, taxes: [{ cents: 30, onCents: 330 }] })
  expect(sumDocument(lines, { ...rules, taxBy: 'document' })).toMatchObject({ totalCents: 357, taxes: [{ cents: 27 }] })
  expect(sumDocument(lines, { ...rules, taxBy: 'document', roundToCents: 5 })).toMatchObject({ totalCents: 355, roundingCents: -2 })
  expect(() => sumDocument([{ cents: 1, taxId: 'none' }], rules)).toThrow(/no tax/)
})

test('whatever the lines: the sum of lines, taxes and rounding is the document, by line within half a cent each', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: 900_000 }), { minLength: 1, maxLength: 30 }),
      fc.constantFrom(1, 5, 10, 100),
      (cents, roundToCents) => {
        const lines = cents.map((one, index) => ({ cents: one, taxId: index % 2 ? 'usual' : 'low' }))
        const both = { taxes: [...rules.taxes, { id: 'low', name: 'low', basisPoints: 700 }], roundToCents }
        const byLine = sumDocument(lines, { ...both, taxBy: 'line' })
        const whole = sumDocument(lines, { ...both, taxBy: 'document' })
        for (const sum of [byLine, whole]) {
          const taxes = sum.taxes.reduce((all, tax) => all + tax.cents, 0)
          expect(sum.netCents + taxes + sum.roundingCents).toBe(sum.totalCents)
          expect(sum.totalCents % roundToCents).toBe(0)
          expect(Math.abs(sum.roundingCents)).toBeLessThanOrEqual(roundToCents / 2)
        }
        const tax = (sum: typeof whole) => sum.taxes.reduce((all, one) => all + one.cents, 0)
        expect(Math.abs(tax(byLine) - tax(whole))).toBeLessThanOrEqual(lines.length * 0.5 + 1)
      },
    ),
  )
})

test('a discount that is spread is the discount, to the cent', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: 99_999 }), { minLength: 1, maxLength: 40 }),
      fc.integer({ min: 0, max: 99_999 }),
      (cents, off) => {
        const parts = spreadDiscount(cents, off)
        const total = cents.reduce((sum, one) => sum + one, 0)
        expect(parts.reduce((sum, one) => sum + one, 0)).toBe(Math.min(off, total))
        for (const [index, part] of parts.entries()) expect(part).toBeLessThanOrEqual(cents[index]! + 1)
      },
    ),
  )
})

test('amounts as people type and read them', () => {
  expect(['84', '84.5', '84,50', ' 0.05 '].map(typedCents)).toEqual([8400, 8450, 8450, 5])
  expect(['', '1.000', '1,000.00', '-3', '3.', 'x'].map(typedCents)).toEqual([null, null, null, null, null, null])
  expect(decimalOf(123_456)).toBe('1234.56')
  expect(moneyIn(123_456, 'USD', 'en-US')).toBe('$1,234.56')
  expect(moneyIn(123_456, 'EUR', 'en-IE')).toBe('€1,234.56')
})
