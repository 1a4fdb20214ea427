/** Supply schemes a branch can work in. The scheme decides wording, limits and box rules. */
export const schemeIds = ['na120', 'iec230'] as const
export type SchemeId = (typeof schemeIds)[number]

export interface SupplyScheme {
  id: SchemeId
  name: string
  /** Nominal line-to-neutral voltage, volts. */
  nominalVolts: number
  frequencyHz: number
  /** What may be measured at the service entrance before the supply itself is in question, volts. */
  serviceBandVolts: { low: number; high: number }
  /** What may be measured at a switch, volts. */
  utilisationBandVolts: { low: number; high: number }
  bandSource: string
  lengthUnit: 'in' | 'mm'
}

export const supplySchemes: Record<SchemeId, SupplyScheme> = {
  na120: {
    id: 'na120',
    name: '120/240 V 60 Hz',
    nominalVolts: 120,
    frequencyHz: 60,
    // ANSI C84.1-2020 table 1, range A: service 114-126 V, utilisation 108-126 V.
    serviceBandVolts: { low: 114, high: 126 },
    utilisationBandVolts: { low: 108, high: 126 },
    bandSource: 'ANSI C84.1 range A',
    lengthUnit: 'in',
  },
  iec230: {
    id: 'iec230',
    name: '230 V 50 Hz',
    nominalVolts: 230,
    frequencyHz: 50,
    // IEC 60038 / EN 50160: 230 V +-10 %.
    serviceBandVolts: { low: 207, high: 253 },
    utilisationBandVolts: { low: 207, high: 253 },
    bandSource: 'IEC 60038 / EN 50160, ±10 %',
    lengthUnit: 'mm',
  },
}

/** The scheme whose supply has this voltage from line to neutral. */
export const schemeOf = (nominalVolts: number): SchemeId => (nominalVolts < 160 ? 'na120' : 'iec230')
