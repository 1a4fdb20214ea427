/**
 * Rules of the North American code that a verdict rests on, in our own words (National Electrical Code, NFPA 70, edition 2023;
 * numbers from memory). Local code decides; elsewhere the same things hold under other names.
 */
export const namedRules = {
  'NEC 200.7(C)': 'A white or gray conductor may carry a line in a cable, as in a switch loop, if it is marked anew at both ends.',
  'NEC 210.4(B)': 'The lines of a multi-wire circuit are opened together: by one {breaker}, or {breakers} tied by their handles.',
  'NEC 250.148': '{Grounds} in a box are joined so that taking out a device opens none of them.',
  'NEC 300.13(B)': 'The neutral of a multi-wire circuit never depends on a device: it is spliced, and a pigtail goes to the device.',
  'NEC 404.2(A)': '{3-Way} and {4-way} switching is done in the line only, never in the neutral.',
  'NEC 404.2(B)': 'A switch does not open the neutral, or it opens all conductors of the circuit at once.',
} as const
export type RuleName = keyof typeof namedRules
