import { done } from '../context'
import { jobCommand, jobEvent } from '../define'
import type { AccountsNoted, NoteAccounts } from './note-accounts.schema'
import { openPairing } from './pairing-of'
import { accountOwnerWords } from './words'

/** Before the first window opens: whose account, which home, which network, what may be known and from where. */
export const noteAccounts = jobCommand('noteAccounts', {
  by: 'crewOrOffice',
  queues: true,
  decide: (_, command: NoteAccounts) => done(accountsNoted({ ...command, declined: [...new Set(command.declined)] })),
  label: () => 'account, home and permissions',
})

export const accountsNoted = jobEvent('accountsNoted', {
  material: true,
  evolve(job, payload: AccountsNoted, event) {
    openPairing(job).accounts = { ...payload, at: event.at, initials: event.actor.initials }
    // What the household does not allow is one fact, wherever it is said.
    if (job.automation?.habits) job.automation.habits.declined = [...payload.declined]
  },
  say: ({ owner, home, network, remote, declined }) =>
    `before pairing: ${accountOwnerWords[owner]} account, home “${home}”${network ? `, phone on ${network}` : ''}; control from outside ${remote ? 'tried' : 'not tried'}${declined.length ? `; not allowed: ${declined.join(', ')}` : ''}`,
})
