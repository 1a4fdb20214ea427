import type { Transaction } from 'sequelize'
import { branchSettingsSchema, type BranchSettings } from '../../core/units'
import { database } from '../database'

/** The settings of a branch, and its zone: a calibration ends with a day there. */
export type BranchRules = BranchSettings & { timezone: string }
export const rulesOf = ({ settings, timezone }: { settings: unknown; timezone: string }): BranchRules => ({
  ...branchSettingsSchema.parse(settings),
  timezone,
})

/** The settings of a branch: a guest on a visit works by the rules of the branch they help. */
export async function settingsOf(branchId: string, transaction?: Transaction): Promise<BranchRules> {
  const branch = await database().models.branches.findByPk(branchId, { transaction })
  return rulesOf(branch!)
}
