import { z } from 'zod'
import { declinables } from '../../automation/words'
import { accountOwners } from './words'

export const noteAccountsInput = z.object({
  /** Whose account devices are added to. */
  owner: z.enum(accountOwners),
  /** The home that is selected in the app. */
  home: z.string().trim().min(1, 'Read the name of the home in the app.').max(60),
  /** The network the phone is on. */
  network: z.string().trim().max(64),
  /** Control from outside was tried. */
  remote: z.boolean(),
  /** Permissions that the household does not give. */
  declined: z.array(z.enum(declinables)).max(4),
})
export type NoteAccounts = z.infer<typeof noteAccountsInput>
export const accountsNotedPayload = noteAccountsInput
export type AccountsNoted = z.infer<typeof accountsNotedPayload>
