import { branchSettingsSchema, defaultBranchSettings } from './index'

test('what screens work by when a branch has chosen nothing is what the schema says', () => {
  expect(defaultBranchSettings).toEqual(branchSettingsSchema.parse({}))
})
