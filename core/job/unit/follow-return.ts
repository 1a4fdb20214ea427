import { refuse } from '../../stream/envelope'
import { good } from '../../stream/telling'
import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import { serialKey } from '../shop/prepared'
import { fateWords } from '../words'
import type { FollowReturn, ReturnFollowed } from './follow-return.schema'
import { returnOutcomeWords, type ReturnOutcome } from './return-words'
import { daysAfter, devicesOut } from './returns'

/** How it can end, by where it goes. */
export const outcomesOf = (goes: FollowReturn['goes']): readonly ReturnOutcome[] =>
  goes === 'loan' ? ['inStock', 'scrapped'] : goes === 'scrap' ? ['scrapped'] : ['replaced', 'credited', 'refused', 'scrapped']

/** What becomes of a device that came out, or failed in the shop: by when it goes, that it went, how it ended. A slip is put right by saying it anew. */
export const followReturn = jobCommand('followReturn', {
  by: 'crewOrOffice',
  queues: true,
  decide(job, command: FollowReturn) {
    const out = devicesOut(job).findLast(({ serial }) => serialKey(serial) === serialKey(command.serial))
    if (!out) return refuse('notOut', `No device with serial ${command.serial} came out here, or failed in the shop.`)
    const { goes, stage, dueOn, cleared, outcome } = command
    if (goes === 'scrap' && stage !== 'settled') return refuse('scrapped', 'What is scrapped goes nowhere.', 'Say where it goes instead.')
    if ((stage === 'settled') !== (outcome !== null)) return refuse('noOutcome', 'How it ended is said when it has ended, and not before.')
    if (outcome && !outcomesOf(goes).includes(outcome))
      return refuse('otherOutcome', `A device that ${fateWords[goes]} does not end with: ${returnOutcomeWords[outcome]}.`)
    if (stage !== 'settled' && dueOn === null) return refuse('noDay', 'Without a day nobody looks after it again.', 'Set one.')
    if (dueOn !== null && dueOn < daysAfter(out.outAt, -1)) return refuse('dayBefore', 'That day is before the device came out.')
    if (stage === 'sent' && goes !== 'loan' && cleared === null)
      return refuse(
        'notCleared',
        'A device that was not reset takes the home’s network with it.',
        'Reset it and take it out of the household’s app, or say that it is too dead for that.',
      )
    const { unitId } = out
    return done(returnFollowed({ ...command, serial: out.serial, unitId }))
  },
  label: ({ serial, stage }) => `${serial}: ${stage}`,
})

export const returnFollowed = jobEvent('returnFollowed', {
  rows: true,
  evolve(job, { serial, unitId, ...found }: ReturnFollowed, event) {
    job.returns ??= {}
    job.returns[serialKey(serial)] = { ...found, at: event.at, by: event.actor.initials }
    const unit = unitId ? job.units[unitId] : undefined
    if (unit) unit.removedTo = found.goes
  },
  say({ serial, goes, stage, dueOn, reference, outcome, note }) {
    const more = `${reference ? `, number ${reference}` : ''}${note ? ` – ${note}` : ''}`
    if (stage === 'settled') return good(`settled ${serial}: ${returnOutcomeWords[outcome ?? 'scrapped']}${more}`)
    return stage === 'sent' ? `sent ${serial}${more}; an answer by ${dueOn}` : `keeps ${serial} until ${dueOn}: ${fateWords[goes]}${more}`
  },
})
