import type { MoneySettings } from './settings'

/** The defaults of the schema, for screens that do not load it. */
export const defaultMoney: MoneySettings = {
  currency: null,
  hourlyCents: 8400,
  travelCents: 4500,
  taxes: [{ id: 'usual', name: 'Sales tax', basisPoints: 825 }],
  taxOnParts: 'usual',
  taxOnLabour: 'usual',
  taxBy: 'document',
  roundToCents: 1,
  depositBasisPoints: 3000,
  quoteDays: 30,
  noteOnlyMinutes: 15,
}
