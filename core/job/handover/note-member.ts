import { refuse } from '../../stream/envelope'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { MemberNoted, NoteMember } from './note-member.schema'
import { memberStateWords } from './words'

/** So many people share one home in an app at most; more is a slip. */
const mostMembers = 30

/** Somebody of the household was invited into the home, has accepted, or does not belong to it. */
export const noteMember = jobCommand('noteMember', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: NoteMember) {
    const members = Object.entries(job.members ?? {})
    const same = (name: string) => name.toLowerCase() === command.name.toLowerCase()
    if (command.is !== 'gone' && members.some(([id, one]) => id !== command.memberId && same(one.name)))
      return refuse('nameTaken', `${command.name} is on the list already.`, 'Add a second name where two are called the same.')
    if (!job.members?.[command.memberId] && members.length >= mostMembers)
      return refuse('tooMany', `There are ${mostMembers} people on the list already.`)
    return done(memberNoted(command))
  },
  label: ({ name, is }) => `${name}: ${memberStateWords[is]}`,
})

export const memberNoted = jobEvent('memberNoted', {
  evolve(job, { memberId, name, is }: MemberNoted, event) {
    job.members ??= {}
    if (is === 'gone') delete job.members[memberId]
    else job.members[memberId] = { name, is, at: event.at, by: event.actor.initials }
  },
  say: ({ name, is }) => `noted of ${name}: ${memberStateWords[is]}`,
})
