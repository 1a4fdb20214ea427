import { share, toStep } from './money'

/** A line of a document: net, in cents, with the tax it stands under. */
export interface TaxedLine {
  cents: number
  taxId: string
}
export interface TaxRate {
  id: string
  name: string
  basisPoints: number
}
export interface SumRules {
  taxes: TaxRate[]
  /** Tax of each line rounded by itself, or of all lines of one rate together. */
  taxBy: 'line' | 'document'
  /** The document’s sum is a multiple of so many cents. */
  roundToCents: number
}
export interface DocumentSum {
  netCents: number
  taxes: { id: string; name: string; basisPoints: number; onCents: number; cents: number }[]
  roundingCents: number
  totalCents: number
}

/**
 * What a document comes to. Lines are net; taxes are rounded half to even, by line or once for each rate, as the branch does it.
 * @throws when a line stands under a tax that the branch does not have
 */
export function sumDocument(lines: readonly TaxedLine[], rules: SumRules): DocumentSum {
  for (const { taxId } of lines) if (!rules.taxes.some(({ id }) => id === taxId)) throw new Error(`There is no tax “${taxId}”.`)
  const netCents = lines.reduce((sum, { cents }) => sum + cents, 0)
  const taxes = rules.taxes.flatMap((rate) => {
    const under = lines.filter(({ taxId }) => taxId === rate.id)
    if (!under.length) return []
    const onCents = under.reduce((sum, { cents }) => sum + cents, 0)
    const cents =
      rules.taxBy === 'line' ? under.reduce((sum, line) => sum + share(line.cents, rate.basisPoints), 0) : share(onCents, rate.basisPoints)
    return [{ ...rate, onCents, cents }]
  })
  const exact = netCents + taxes.reduce((sum, { cents }) => sum + cents, 0)
  const totalCents = toStep(exact, rules.roundToCents)
  return { netCents, taxes, roundingCents: totalCents - exact, totalCents }
}

/** What one document comes to more than another: each of its figures by itself. */
export function sumDifference(after: DocumentSum, before: DocumentSum): DocumentSum {
  const rates = [...after.taxes, ...before.taxes.filter(({ id }) => !after.taxes.some((tax) => tax.id === id))]
  const at = (sum: DocumentSum, id: string) => sum.taxes.find((tax) => tax.id === id) ?? { onCents: 0, cents: 0 }
  return {
    netCents: after.netCents - before.netCents,
    taxes: rates.map((tax) => ({
      ...tax,
      onCents: at(after, tax.id).onCents - at(before, tax.id).onCents,
      cents: at(after, tax.id).cents - at(before, tax.id).cents,
    })),
    roundingCents: after.roundingCents - before.roundingCents,
    totalCents: after.totalCents - before.totalCents,
  }
}

/** A discount spread over lines so that its parts are the whole, to the cent: the largest rests get the odd cents. */
export function spreadDiscount(cents: readonly number[], discountCents: number): number[] {
  const total = cents.reduce((sum, one) => sum + one, 0)
  if (total <= 0 || discountCents <= 0) return cents.map(() => 0)
  const whole = Math.min(discountCents, total)
  const parts = cents.map((one) => Math.floor((one * whole) / total))
  const rests = cents.map((one, index) => ({ index, rest: (one * whole) % total })).sort((a, b) => b.rest - a.rest || a.index - b.index)
  const left = whole - parts.reduce((sum, one) => sum + one, 0)
  for (const { index } of rests.slice(0, left)) parts[index]! += 1
  return parts
}
