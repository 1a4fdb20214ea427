import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { HabitsSet, SetHabits } from './set-habits.schema'
import { openAutomation } from './automation-of'

/** How the house is lived in, and what its people do not allow: a year is played with it. */
export const setHabits = jobCommand('setHabits', {
  by: 'crewOrOffice',
  queues: true,
  decide: (_, { habits }: SetHabits) => done(habitsSet({ habits: { ...habits, declined: [...new Set(habits.declined)] } })),
  label: () => 'how the house is lived in',
})

export const habitsSet = jobEvent('habitsSet', {
  evolve(job, { habits }: HabitsSet) {
    openAutomation(job).habits = habits
    if (job.pairing?.accounts) job.pairing.accounts.declined = [...habits.declined]
  },
  say: ({ habits: { people, hub, declined } }) =>
    `said how the house is lived in: ${people.length === 1 ? 'one person' : `${people.length} people`}, ${hub ? 'a hub' : 'no hub'}${declined.length ? `, not allowed: ${declined.join(', ')}` : ''}`,
})
