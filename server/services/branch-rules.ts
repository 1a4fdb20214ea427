import type { Transaction } from 'sequelize'
import { branchSettingsSchema, type BranchSettings, type SchemeId } from '../../core/units'
import { database } from '../database'

/** The settings of a branch, its zone and its supply: a calibration ends with a day there, and times are told as they are written there. */
export type BranchRules = BranchSettings & { timezone: string; schemeId: SchemeId }
export const rulesOf = ({ settings, timezone, schemeId }: { settings: unknown; timezone: string; schemeId: SchemeId }): BranchRules => ({
  ...branchSettingsSchema.parse(settings),
  ...{ timezone, schemeId },
})

/** The settings of a branch: a guest on a visit works by the rules of the branch they help. */
export async function settingsOf(branchId: string, transaction?: Transaction): Promise<BranchRules> {
  const branch = await database().models.branches.findByPk(branchId, { transaction })
  return rulesOf(branch!)
}
