import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { NeedsSet, SetNeeds } from './set-needs.schema'

/** Whom the visits of a job take: days are planned by it, and whoever books somebody else is told. */
export const setNeeds = jobCommand('setNeeds', {
  by: 'crewOrOffice',
  decide: (_, { people, skills }: SetNeeds) => done(needsSet({ people, skills: [...new Set(skills)] })),
})

export const needsSet = jobEvent('needsSet', {
  rows: true,
  evolve(job, { people, skills }: NeedsSet) {
    job.needs = { people, skills }
  },
  say: ({ people, skills }) =>
    `said whom its visits take: ${people === 1 ? 'one person' : `${people} people`}${skills.length ? `, ${skills.join(', ')}` : ''}`,
})
