import { largerAwg, roundTo, type AwgSize } from '../units'

/** Volume allowance per conductor, in³. NEC table 314.16(B)(1). */
export const volumePerConductorIn3: Record<AwgSize, number> = { 18: 1.5, 16: 1.75, 14: 2.0, 12: 2.25, 10: 2.5, 8: 3.0, 6: 5.0 }

/** Minimum volume of common metal boxes, in³. NEC table 314.16(A). */
export const metalBoxVolumesIn3 = [
  { trade: 'device 3 × 2 × 2½', volumeIn3: 12.5 },
  { trade: 'device 3 × 2 × 2¾', volumeIn3: 14.0 },
  { trade: 'device 3 × 2 × 3½', volumeIn3: 18.0 },
  { trade: '4 in square × 1¼', volumeIn3: 18.0 },
  { trade: '4 in square × 1½', volumeIn3: 21.0 },
  { trade: '4 in square × 2⅛', volumeIn3: 30.3 },
] as const

export const necEditions = ['2017', '2020', '2023'] as const
export type NecEdition = (typeof necEditions)[number]

export interface FillConductor {
  gaugeAwg: AwgSize
  ground: boolean
  /** ends: terminated or spliced here · through: unbroken · loop: unbroken with a loop twice the free length. */
  passage: 'ends' | 'through' | 'loop'
}

export interface FillYoke {
  /** Gangs the device takes: wider than 2 in counts two allowances per gang. */
  gangsWide: number
  /** Largest conductor connected to it. */
  gaugeAwg: AwgSize
}

export interface BoxFillInput {
  volumeIn3: number
  edition: NecEdition
  conductors: FillConductor[]
  internalClamps: number
  /** Kinds of support fitting in the box (stud, hickey), each one allowance. */
  supportFittings: number
  yokes: FillYoke[]
  /** Largest conductor on each terminal block; counted from the 2023 edition on. */
  terminalBlocks: AwgSize[]
  /** Bodies of the devices, in³: for the real room, never for the fill. */
  deviceBodiesIn3: number
  /** Bodies of the connectors, in³: for the real room only. */
  connectorBodiesIn3: number
  /** Volume of modules without a yoke, in³, shown as the second reading of the rule. */
  yokelessModulesIn3: number
}

export interface FillLine {
  what: string
  count: number
  eachIn3: number
  totalIn3: number
  rule: string
}

export interface BoxFill {
  lines: FillLine[]
  totalIn3: number
  volumeIn3: number
  freeIn3: number
  fits: boolean
  /** When there are modules without a yoke: the sum if the authority counts their body too. */
  withModulesIn3: number | null
  /** What is physically left: volume less conductors, device bodies and connectors, in³. */
  realRoomIn3: number
}

const line = (what: string, count: number, eachIn3: number, rule: string): FillLine => ({
  what,
  count,
  eachIn3,
  totalIn3: roundTo(count * eachIn3, 3),
  rule,
})

function countOf(conductor: FillConductor): number {
  return conductor.passage === 'loop' ? 2 : 1
}

/** Grounding conductors: up to four together one allowance of the largest; each further a quarter (2020 on). */
function groundLines(grounds: FillConductor[], edition: NecEdition): FillLine[] {
  if (grounds.length === 0) return []
  const largest = volumePerConductorIn3[grounds.map((ground) => ground.gaugeAwg).reduce(largerAwg)]
  const first = line(edition === '2017' ? 'all {grounds} together' : '{grounds}, up to four together', 1, largest, '314.16(B)(5)')
  const further = edition === '2017' ? 0 : Math.max(0, grounds.length - 4)
  return further === 0 ? [first] : [first, line('further {grounds}, a quarter each', further, largest / 4, '314.16(B)(5)')]
}

/**
 * Box fill for the 120/240 V scheme, NEC 314.16(B). Conductors and leads that stay inside the box and connectors
 * count nothing and are not part of the input. Volumes in in³.
 */
export function boxFill(input: BoxFillInput): BoxFill {
  const lines: FillLine[] = []
  const insulated = input.conductors.filter((conductor) => !conductor.ground)
  for (const gauge of Object.keys(volumePerConductorIn3)
    .map(Number)
    .sort((a, b) => b - a) as AwgSize[]) {
    const count = insulated.filter((conductor) => conductor.gaugeAwg === gauge).reduce((sum, conductor) => sum + countOf(conductor), 0)
    if (count > 0) lines.push(line(`${gauge} AWG conductors`, count, volumePerConductorIn3[gauge], '314.16(B)(1)'))
  }
  const conductorsIn3 = lines.reduce((sum, entry) => sum + entry.totalIn3, 0)
  const all = [...input.conductors.map((conductor) => conductor.gaugeAwg), ...input.yokes.map((yoke) => yoke.gaugeAwg)]
  const largest = all.length ? all.reduce(largerAwg) : null
  if (input.internalClamps > 0 && largest)
    lines.push(line('internal clamps, all together', 1, volumePerConductorIn3[largest], '314.16(B)(2)'))
  if (input.supportFittings > 0 && largest)
    lines.push(line('support fittings', input.supportFittings, volumePerConductorIn3[largest], '314.16(B)(3)'))
  for (const yoke of input.yokes) {
    lines.push(
      line(
        yoke.gangsWide > 1 ? `device ${yoke.gangsWide} gangs wide` : 'device yoke',
        2 * yoke.gangsWide,
        volumePerConductorIn3[yoke.gaugeAwg],
        '314.16(B)(4)',
      ),
    )
  }
  const grounds = groundLines(
    input.conductors.filter((conductor) => conductor.ground),
    input.edition,
  )
  lines.push(...grounds)
  if (input.edition === '2023') {
    for (const gauge of input.terminalBlocks) lines.push(line('terminal block', 1, volumePerConductorIn3[gauge], '314.16(B)(6)'))
  }
  const totalIn3 = roundTo(
    lines.reduce((sum, entry) => sum + entry.totalIn3, 0),
    3,
  )
  const groundsIn3 = grounds.reduce((sum, entry) => sum + entry.totalIn3, 0)
  return {
    lines,
    totalIn3,
    volumeIn3: input.volumeIn3,
    freeIn3: roundTo(input.volumeIn3 - totalIn3, 3),
    fits: totalIn3 <= input.volumeIn3,
    withModulesIn3: input.yokelessModulesIn3 > 0 ? roundTo(totalIn3 + input.yokelessModulesIn3, 3) : null,
    realRoomIn3: roundTo(input.volumeIn3 - conductorsIn3 - groundsIn3 - input.deviceBodiesIn3 - input.connectorBodiesIn3, 3),
  }
}
