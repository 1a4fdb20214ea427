import { counted } from '../../units/counted'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { DescribeHousehold, HouseholdDescribed } from './describe-household.schema'

export const describeHousehold = jobCommand('describeHousehold', {
  by: 'crewOrOffice',
  queues: true,
  decide: (_, command: DescribeHousehold) => done(householdDescribed(command)),
  label: () => 'who lives there',
})

export const householdDescribed = jobEvent('householdDescribed', {
  evolve(job, payload: HouseholdDescribed) {
    job.household = payload
  },
  say: ({ guests, plainControls, renovating, worksWith, years }) =>
    `noted the household: ${[...(guests ? ['guests'] : []), ...(plainControls ? ['the wall as it always was'] : []), ...(renovating ? ['walls are open'] : []), ...(worksWith ? [`everything works with ${worksWith}`] : []), counted(years, 'year') + ' ahead'].join(', ')}`,
})
