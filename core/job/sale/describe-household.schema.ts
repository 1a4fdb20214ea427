import type { z } from 'zod'
import { householdSchema } from '../../plan/household.schema'

export const describeHouseholdInput = householdSchema
export type DescribeHousehold = z.infer<typeof describeHouseholdInput>

export const householdDescribedPayload = describeHouseholdInput
export type HouseholdDescribed = z.infer<typeof householdDescribedPayload>
