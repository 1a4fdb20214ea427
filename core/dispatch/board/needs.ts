import { anybody, type Needs } from './day-file'

export interface Coming {
  role: string
  licensed: boolean
  skills: readonly string[]
}
/** How many of these people count for a visit’s work: an apprentice only beside somebody with a licence. */
export const countedPeople = (come: readonly Coming[]): number =>
  come.some(({ licensed }) => licensed) ? come.length : come.filter(({ role }) => role !== 'apprentice').length

/** What a visit takes and those who come have not. @returns null where they have all of it */
export function lackingOf(needs: Needs, come: readonly Coming[]): Needs | null {
  const people = Math.max(0, needs.people - countedPeople(come))
  const skills = needs.skills.filter((skill) => !come.some((one) => one.skills.includes(skill)))
  return people || skills.length ? { people, skills } : null
}
export const needsNothing = ({ people, skills }: Needs): boolean => people <= anybody.people && !skills.length
