/** What is said and stored of it. */
export * from './wish-point.schema'
export { describeHouseholdInput, householdDescribedPayload } from './describe-household.schema'
export { sellPlanInput, planSoldPayload } from './sell-plan.schema'
