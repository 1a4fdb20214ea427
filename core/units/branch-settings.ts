import { z } from 'zod'

/** How a branch works where the schools of the trade differ. Defaults are the handbook's. */
export const branchSettingsSchema = z.object({
  connectionOrder: z
    .enum(['groundNeutralLoadLine', 'groundLoadLineNeutral', 'loadLineNeutralGround', 'any'])
    .default('groundNeutralLoadLine'),
  twistFirst: z.boolean().default(false),
  tapeConnectors: z.boolean().default(false),
  keepPlateOff: z.boolean().default(true),
  pairingSchool: z.enum(['makerFirst', 'platformFirst', 'platformOnly']).default('makerFirst'),
  necEdition: z.enum(['2017', '2020', '2023']).default('2020'),
  /** After this a proof has to be made again, minutes. Common practice, no source. */
  proofLimitMinutes: z.int().min(15).max(480).default(120),
})
export type BranchSettings = z.infer<typeof branchSettingsSchema>
